import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatInputModule } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { cutText, LONGEST_SONG_NOTES, type Patch } from '@pentachord/core/model';
import { fadeSecondsOf, withCue } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { CueEditing } from '../state/editing/cue-editing';
import { SongEditing } from '../state/editing/song-editing';
import type { AppState } from '../state/reducers';
import { selectLoudnessOf } from '../state/machine/selectors';
import {
  selectEntry,
  selectSession,
  selectShow,
  selectSong,
  selectThings,
} from '../state/selectors';
import { session } from '../state/session/session';
import { standsOver, takesTyping } from '../ui/typing';
import { CueDifferenceBar } from '../ui/cues/cue-difference';
import { CueCards, type CueCard } from './cue-cards';
import { CueLine, type LinedCue } from './cue-line';
import { CueTable } from './cue-table';
import { SongActions } from './song-actions';
import { SongHeading } from './song-heading';
import { partByPart } from '../ui/part-by-part';
import { SongPatches } from './song-patches';

/** The Song view: what a song is, its cues on its own time, its words, its patches. */
@Component({
  selector: 'pc-song-view',
  imports: [
    CueCards,
    CueDifferenceBar,
    CueLine,
    CueTable,
    MatButtonModule,
    MatButtonToggleModule,
    MatInputModule,
    RouterLink,
    SongHeading,
    SongPatches,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './song-view.html',
  styleUrl: './song-view.scss',
  host: { '(document:keydown)': 'key($event)' },
})
export class SongView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(SongEditing);
  protected readonly cueEditing = inject(CueEditing);
  /** Heading and line first, then the cues, then the patches: each a frame of its own. */
  protected readonly parts = partByPart(3);
  private readonly actions = inject(SongActions);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly entry = this.store.selectSignal(selectEntry);
  private readonly loudnessOf = this.store.selectSignal(selectLoudnessOf);
  protected readonly place = this.store.selectSignal(selectSession);
  /** As it is played tonight. */
  protected readonly song = this.store.selectSignal(selectSong);
  /** `from` asks at once what to start from. */
  readonly start = input<string>();
  /** How the cues are shown under their line. */
  protected readonly shownAs = signal<'cards' | 'table'>('cards');

  constructor() {
    this.store.dispatch(session.songEntered());
    afterNextRender(() => {
      if (this.start() === 'from') void this.actions.startFrom();
    });
    inject(DestroyRef).onDestroy(() => this.store.dispatch(session.songLeft()));
  }

  protected readonly defaultFade = computed(() => this.show()?.defaultFadeSeconds ?? 0);
  private readonly leftOut = computed(() => {
    const entry = this.entry();
    return new Set(entry?.songId === this.song()?.id ? entry?.tonight?.leftOut : []);
  });
  protected readonly cards = computed((): CueCard[] =>
    this.cueEditing.cues().map((cue) => {
      const patch = this.things().patches[cue.patchId] as Patch | undefined;
      return {
        cue,
        patch: patch ? withCue(patch, cue) : null,
        fade: fadeSecondsOf(cue, this.defaultFade()),
        leftOut: this.leftOut().has(cue.id),
      };
    }),
  );
  protected readonly lined = computed((): LinedCue[] => {
    const song = this.song();
    const loudnessOf = this.loudnessOf();
    return this.cards().map(({ cue, fade, leftOut }) => ({
      cue,
      fade,
      played: !leftOut,
      loudness: song ? loudnessOf(cue, song) : -Infinity,
    }));
  });

  protected readonly longestNotes = LONGEST_SONG_NOTES;

  protected setNotes(text: string): void {
    const notes = cutText(text, LONGEST_SONG_NOTES);
    if (notes !== this.song()?.notes) this.editing.change({ notes });
  }

  protected key(event: KeyboardEvent): void {
    const target = event.target as HTMLElement;
    if (takesTyping(target) || standsOver(target) || target.closest('mat-select')) return;
    if (event.ctrlKey || event.metaKey || event.altKey || event.repeat) return;
    if (event.code === 'KeyT') this.cueEditing.takeOver();
    else if (event.code === 'KeyP') this.cueEditing.putBack();
    else return;
    event.preventDefault();
  }
}
