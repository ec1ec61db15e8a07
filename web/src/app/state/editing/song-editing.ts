import { computed, inject, Injectable } from '@angular/core';
import { forKeyboards } from '@pentachord/core/library';
import {
  freeName,
  isKeyboard,
  newPatch,
  renewedPatch,
  UNNAMED_PATCH,
  type Patch,
  type Song,
} from '@pentachord/core/model';
import { whyPatchStays } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import {
  selectCuesBySong,
  selectDevices,
  selectPatchesBySong,
  selectSession,
  selectWrittenSong,
} from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { edits } from './edits';
import { showEdits, type SongSettings } from './show-edits';

/** Edits of the current song: what it is, and its patches. */
@Injectable({ providedIn: 'root' })
export class SongEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly status = inject(StatusLine);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  private readonly patchesBySong = this.store.selectSignal(selectPatchesBySong);
  /** The current song as it is written. */
  readonly song = this.store.selectSignal(selectWrittenSong);
  private readonly cues = computed(() => this.cuesBySong().get(this.song()?.id ?? '') ?? []);
  readonly patches = computed(
    (): readonly Patch[] => this.patchesBySong().get(this.song()?.id ?? '') ?? [],
  );

  change(changes: SongSettings, gesture?: string): void {
    const songId = this.song()?.id;
    if (songId) this.door.do(showEdits.songChanged({ songId, changes, gesture }));
  }

  /** Makes a patch of the song from a starting point, one of the repertoire or one that was kept, and opens it. */
  startFrom(name: string, patch: Patch): void {
    const song = this.song();
    if (!song) return;
    const keyboards = this.devices().filter(isKeyboard);
    const laid = isStartingPoint(patch)
      ? forKeyboards(
          patch,
          keyboards.map(({ place }) => place),
        )
      : patch;
    const names = this.patches().map((own) => own.name);
    const place = {
      ...this.nextPlace(song),
      name: freeName(name, names),
    };
    const known = new Set(keyboards.map(({ place }) => place));
    this.open(renewedPatch(laid, place, known, () => crypto.randomUUID()));
    this.status.say(`“${place.name}” is now a patch of ${song.name}.`);
  }

  /** Adds a patch without layers, and opens it. */
  newPatch(): void {
    const song = this.song();
    if (!song) return;
    const place = this.nextPlace(song);
    const names = this.patches().map(({ name }) => name);
    this.open(newPatch(place.id, song.id, place.position, freeName(UNNAMED_PATCH, names)));
  }

  openPatch(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
  }

  /** A patch becomes the nth of its song, from 0. */
  movePatch(patchId: string, to: number): void {
    const ids = this.patches().map(({ id }) => id);
    const order = ids.filter((id) => id !== patchId);
    order.splice(Math.min(Math.max(0, to), order.length), 0, patchId);
    if (order.some((id, i) => id !== ids[i]))
      this.door.do(showEdits.patchesOrdered({ patchIds: order }));
  }

  /** Why a patch cannot be removed; an empty text when it can. */
  whyPatchStays(patchId: string): string {
    return whyPatchStays(patchId, this.cues(), this.patches());
  }

  removePatch(patchId: string): void {
    if (this.whyPatchStays(patchId)) return;
    const other = this.patches().find(({ id }) => id !== patchId);
    if (patchId === this.session().patchId && other) this.openPatch(other.id);
    this.door.do(edits.patchRemoved({ patchId }));
  }

  private nextPlace({ id: songId }: Song) {
    const position = Math.max(-1, ...this.patches().map((patch) => patch.position)) + 1;
    return { id: crypto.randomUUID(), songId, position };
  }

  private open(patch: Patch): void {
    this.door.do(edits.patchAdded({ patch }));
    this.openPatch(patch.id);
  }
}

/** Whether a patch is a starting point that ships, which speaks of the first and second keyboard. */
function isStartingPoint(patch: Patch): boolean {
  return patch.songId === 'starting-points';
}
