import {
  afterRenderEffect,
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatInputModule } from '@angular/material/input';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import { Router } from '@angular/router';
import {
  cutText,
  FASTEST_TEMPO,
  LONGEST_SECONDS,
  SLOWEST_TEMPO,
  withHandsIn,
  type Song,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectCuesBySong, selectThings } from '../state/selectors';
import { KeySelect } from '../ui/music/key-select';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import { EntrySelection } from './entry-selection';
import { Legs } from './legs';

/** The most characters of a note for a night. */
const LONGEST_NOTE = 500;

/** The selected place of the night: what is otherwise tonight alone, how long it is, what can be done with it. */
@Component({
  selector: 'pc-tonight-panel',
  imports: [
    KeySelect,
    MatButtonModule,
    MatCheckboxModule,
    MatInputModule,
    MatSlideToggleModule,
    NameField,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tonight-panel.html',
  styleUrl: './tonight-panel.scss',
})
export class TonightPanel {
  protected readonly editing = inject(ShowEditing);
  protected readonly withHandsIn = withHandsIn;
  protected readonly selection = inject(EntrySelection);
  private readonly legs = inject(Legs);
  private readonly router = inject(Router);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);

  protected readonly slowest = SLOWEST_TEMPO;
  protected readonly fastest = FASTEST_TEMPO;
  protected readonly longest = LONGEST_SECONDS;

  protected readonly leg = computed(
    () => this.legs.all().find(({ id }) => id === this.selection.primary()) ?? null,
  );
  protected readonly written = computed(() => {
    const song = this.leg()?.song;
    return song && (this.things().songs as Record<string, Song | undefined>)[song.id];
  });
  protected readonly cues = computed(() => {
    const { entry, song } = this.leg() ?? {};
    const leftOut = entry?.kind === 'song' ? (entry.tonight?.leftOut ?? []) : [];
    return (this.cuesBySong().get(song?.id ?? '') ?? []).map((cue) => ({
      cue,
      played: !leftOut.includes(cue.id),
    }));
  });
  protected readonly note = computed(() => {
    const entry = this.leg()?.entry;
    return entry?.kind === 'song' ? (entry.tonight?.note ?? '') : '';
  });

  private readonly gapLength = viewChild<NumberField>('gapLength');

  constructor() {
    // What was just added says how long it is first.
    afterRenderEffect(() => {
      const field = this.gapLength();
      if (field && this.selection.wantsLength() === this.leg()?.id) {
        this.selection.lengthChosen();
        field.focus();
      }
    });
  }

  protected setNote(entryId: string, text: string): void {
    const note = cutText(text, LONGEST_NOTE);
    if (note !== this.note()) this.editing.changeTonight(entryId, { note: note || undefined });
  }

  protected leaveOut(entryId: string, cueId: string, played: boolean): void {
    const others = this.cues()
      .filter(({ cue, played: isPlayed }) => !isPlayed && cue.id !== cueId)
      .map(({ cue }) => cue.id);
    this.editing.changeTonight(entryId, { leftOut: played ? others : [...others, cueId] });
  }

  protected openSong(): void {
    void this.router.navigateByUrl('/song');
  }
}
