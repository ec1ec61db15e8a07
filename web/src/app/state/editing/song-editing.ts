import { inject, Injectable } from '@angular/core';
import { forKeyboards } from '@pentachord/core/library';
import type { Patch } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectWrittenSong } from '../selectors';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { PatchesOfSong } from './patches-of-song';
import { showEdits, type SongSettings } from './show-edits';

/** Edits of what the current song is, and what it starts from. */
@Injectable({ providedIn: 'root' })
export class SongEditing {
  private readonly door = inject(Editing);
  private readonly status = inject(StatusLine);
  private readonly patches = inject(PatchesOfSong);
  /** The current song as it is written. */
  readonly song = inject<Store<AppState>>(Store).selectSignal(selectWrittenSong);

  change(changes: SongSettings, gesture?: string): void {
    const songId = this.song()?.id;
    if (songId) this.door.do(showEdits.songChanged({ songId, changes, gesture }));
  }

  /** Makes a patch of the song from a starting point, one of the repertoire or one that was kept, and opens it. */
  startFrom(wish: string, patch: Patch): void {
    const places = [...this.patches.places()];
    const name = this.patches.add(
      wish,
      isStartingPoint(patch) ? forKeyboards(patch, places) : patch,
    );
    if (name !== null) this.status.say(`“${name}” is now a patch of ${this.song()?.name ?? ''}.`);
  }
}

/** Whether a patch is a starting point that ships, which speaks of the first and second keyboard. */
function isStartingPoint(patch: Patch): boolean {
  return patch.songId === 'starting-points';
}
