import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatTooltipModule } from '@angular/material/tooltip';
import {
  FASTEST_TEMPO,
  LONGEST_SECONDS,
  MOST_SONG_NUMBER,
  shiftOfSong,
  SLOWEST_TEMPO,
  type Metre,
} from '@pentachord/core/model';
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
import { SongDeeds } from './song-deeds';

/** What a song is: its name, keys, tempo, metre and length; and what can be made of it. */
@Component({
  selector: 'pc-song-heading',
  imports: [
    KeySelect,
    MatButtonModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatTooltipModule,
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
  protected readonly deeds = inject(SongDeeds);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly entry = this.store.selectSignal(selectEntry);
  protected readonly song = this.editing.song;

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

  protected setBeats(beats: number, gesture: string): void {
    const metre = this.song()?.metre;
    if (metre) this.editing.change({ metre: { ...metre, beats } }, gesture);
  }

  protected setUnit(unit: Metre['unit']): void {
    const metre = this.song()?.metre;
    if (metre && unit !== metre.unit) this.editing.change({ metre: { ...metre, unit } });
  }
}
