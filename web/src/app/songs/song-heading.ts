import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatSelectModule } from '@angular/material/select';
import {
  FASTEST_TEMPO,
  LONGEST_SECONDS,
  MOST_SONG_NUMBER,
  shiftOfSong,
  SLOWEST_TEMPO,
  withHandsIn,
  type Metre,
} from '@pentachord/core/model';
import { differInMode, type MusicalKey } from '@pentachord/core/pitch';
import { tonightInWords } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import { CueEditing } from '../state/editing/cue-editing';
import { SongEditing } from '../state/editing/song-editing';
import { Strengths } from '../state/editing/strengths';
import type { AppState } from '../state/reducers';
import { selectEntry } from '../state/selectors';
import { KeySelect } from '../ui/music/key-select';
import { TapButton } from '../ui/music/tap-button';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import { UndoButtons } from '../ui/undo-buttons';
import { SongActions } from './song-actions';
import { Tip } from '../ui/tips/tip';

/** What a song is: its name, keys, tempo, metre and length; and what can be made of it. */
@Component({
  selector: 'pc-song-heading',
  imports: [
    KeySelect,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatMenuModule,
    MatSelectModule,
    Tip,
    NameField,
    NumberField,
    TapButton,
    UndoButtons,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './song-heading.html',
  styleUrl: './song-heading.scss',
})
export class SongHeading {
  protected readonly editing = inject(SongEditing);
  protected readonly cues = inject(CueEditing);
  protected readonly strengths = inject(Strengths);
  protected readonly shows = inject(ShowEditing);
  protected readonly actions = inject(SongActions);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly entry = this.store.selectSignal(selectEntry);
  protected readonly song = this.editing.song;

  protected readonly strengthsHint = 'A low, a middle and a full cue, by measured loudness';
  protected readonly slowest = SLOWEST_TEMPO;
  protected readonly fastest = FASTEST_TEMPO;
  protected readonly longest = LONGEST_SECONDS;
  protected readonly mostNumber = MOST_SONG_NUMBER;
  protected readonly units: readonly Metre['unit'][] = [2, 4, 8, 16];

  protected readonly shift = computed(() => {
    const song = this.song();
    const shift = song ? shiftOfSong(song) : 0;
    if (shift === 0) return 'as fingered';
    return `${Math.abs(shift)} ${shift > 0 ? 'up' : 'down'}`;
  });
  /** What is otherwise tonight, and where; null when nothing is. */
  protected readonly tonight = computed(() => {
    const entry = this.entry();
    const song = this.song();
    return entry?.tonight && entry.songId === song?.id
      ? { entryId: entry.id, words: tonightInWords(song, entry.tonight) }
      : null;
  });

  protected setFingered(fingered: MusicalKey): void {
    const song = this.song();
    if (song) this.editing.change(withHandsIn(song, fingered));
  }

  /** What is odd about the two keys; empty when nothing is. */
  protected readonly modes = computed(() => {
    const song = this.song();
    if (!song || !differInMode(song.fingered, song.sounding)) return '';
    return `hands in a ${song.fingered.mode} key, sounds in a ${song.sounding.mode} one`;
  });

  /** Both keys are of the mode that the hands are in. */
  protected matchModes(): void {
    const song = this.song();
    if (song) this.editing.change({ sounding: { ...song.sounding, mode: song.fingered.mode } });
  }

  protected setBeats(beats: number, gesture: string): void {
    const metre = this.song()?.metre;
    if (metre) this.editing.change({ metre: { ...metre, beats } }, gesture);
  }

  protected setUnit(unit: Metre['unit']): void {
    const metre = this.song()?.metre;
    if (metre && unit !== metre.unit) this.editing.change({ metre: { ...metre, unit } });
  }
}
