import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatTooltipModule } from '@angular/material/tooltip';
import { musicalKeyName } from '@pentachord/core/pitch';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import {
  selectCuesBySong,
  selectPatchesOfAllSongs,
  selectSession,
  selectShow,
  selectTimeline,
  selectTotalSeconds,
} from '../state/selectors';
import { session } from '../state/session/session';
import { StatusLine } from '../state/session/status-line';
import { Roving, RovingItem } from '../ui/focus/roving';

/** The running order laid out in time: songs as wide as they are long, cues as ticks. */
@Component({
  selector: 'pc-ribbon',
  imports: [MatTooltipModule, Roving, RovingItem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ribbon.html',
  styleUrl: './ribbon.scss',
})
export class Ribbon {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly status = inject(StatusLine);
  protected readonly show = this.store.selectSignal(selectShow);
  private readonly entries = this.store.selectSignal(selectTimeline);
  private readonly cues = this.store.selectSignal(selectCuesBySong);
  private readonly patches = this.store.selectSignal(selectPatchesOfAllSongs);
  private readonly total = this.store.selectSignal(selectTotalSeconds);
  private readonly place = this.store.selectSignal(selectSession);

  protected readonly totals = computed(() => {
    const slot = this.show()?.slotSeconds ?? 0;
    const total = this.total();
    return {
      songs: this.entries().filter((e) => e.song).length,
      total: clockTime(total),
      slot: clockTime(slot),
      over: total > slot ? clockTime(total - slot) : null,
    };
  });

  protected readonly blocks = computed(() => {
    const { songId, cueId } = this.place();
    return this.entries().map(({ entry, song, name, start, lengthSeconds }) => ({
      id: entry.id,
      songId: song?.id ?? null,
      name,
      length: lengthSeconds,
      title: `${name}, ${clockTime(lengthSeconds)}, begins at ${clockTime(start)}`,
      facts: song ? `${musicalKeyName(song.sounding)} · ${song.tempo}` : clockTime(lengthSeconds),
      current: song?.id === songId,
      cues: song
        ? (this.cues().get(song.id) ?? []).map((cue) => ({
            id: cue.id,
            name: cue.name,
            patchId: cue.patchId,
            current: cue.id === cueId,
          }))
        : [],
    }));
  });

  /** The current song with its cues. */
  protected readonly current = computed(() => {
    const block = this.blocks().find((b) => b.current);
    return block?.songId ? { name: block.name, songId: block.songId, cues: block.cues } : null;
  });

  protected openSong(songId: string): void {
    const cue = this.cues().get(songId)?.at(0);
    const patchId = cue?.patchId ?? this.patches().get(songId)?.at(0)?.id ?? null;
    this.store.dispatch(session.cueReached({ songId, cueId: cue?.id ?? null, patchId }));
  }

  protected openCue(songId: string, cueId: string, patchId: string): void {
    this.store.dispatch(session.cueReached({ songId, cueId, patchId }));
  }
}
