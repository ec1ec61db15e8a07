import { computed, inject, Injectable } from '@angular/core';
import {
  freeName,
  newPatch,
  renewedPatch,
  UNNAMED_PATCH,
  type Patch,
  type Place,
} from '@pentachord/core/model';
import { whyPatchStays } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import {
  selectCuesBySong,
  selectKeyboards,
  selectPatchesBySong,
  selectSession,
  selectWrittenPatch,
} from '../selectors';
import { session } from '../session/session';
import { Editing } from './editing';
import { edits } from './edits';
import { showEdits } from './show-edits';

/** Edits of which patches the current song has, and in which order. */
@Injectable({ providedIn: 'root' })
export class PatchesOfSong {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly cuesBySong = this.store.selectSignal(selectCuesBySong);
  private readonly patchesBySong = this.store.selectSignal(selectPatchesBySong);
  private readonly keyboards = this.store.selectSignal(selectKeyboards);
  private readonly songId = computed(() => this.patch()?.songId ?? this.session().songId);
  readonly all = computed(
    (): readonly Patch[] => this.patchesBySong().get(this.songId() ?? '') ?? [],
  );
  /** Places of the keyboards that a copied patch may speak of. */
  readonly places = computed(
    (): ReadonlySet<Place> => new Set(this.keyboards().map(({ place }) => place)),
  );

  /** Adds a copy of a patch behind the others, and opens it; gives its name, null when there is no song. */
  add(wish: string, patch: Patch): string | null {
    const place = this.nextPlace(wish);
    if (!place) return null;
    this.put(renewedPatch(patch, place, this.places(), () => crypto.randomUUID()));
    return place.name;
  }

  /** Adds a copy of the open patch, as it is written whatever cue is on the desk, and opens it. */
  copyOpen(): void {
    const patch = this.patch();
    if (patch) this.add(patch.name, patch);
  }

  /** Adds a patch without layers, and opens it. */
  addEmpty(): void {
    const place = this.nextPlace(UNNAMED_PATCH);
    if (place) this.put(newPatch(place.id, place.songId, place.position, place.name));
  }

  open(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
  }

  /** A patch becomes the nth of its song, from 0. */
  move(patchId: string, to: number): void {
    const ids = this.all().map(({ id }) => id);
    const order = ids.filter((id) => id !== patchId);
    order.splice(Math.min(Math.max(0, to), order.length), 0, patchId);
    if (order.some((id, i) => id !== ids[i]))
      this.door.do(showEdits.patchesOrdered({ patchIds: order }));
  }

  /** Why a patch cannot be removed; an empty text when it can. */
  whyStays(patchId: string): string {
    const cues = this.cuesBySong().get(this.songId() ?? '') ?? [];
    return whyPatchStays(patchId, cues, this.all());
  }

  /** Removes a patch; where it was open another one of the song is. */
  remove(patchId: string): void {
    if (this.whyStays(patchId)) return;
    const other = this.all().find(({ id }) => id !== patchId);
    if (patchId === this.session().patchId && other) this.open(other.id);
    this.door.do(edits.patchRemoved({ patchId }));
  }

  /** Behind the last patch of the song, under a name that is free there. */
  private nextPlace(wish: string) {
    const songId = this.songId();
    const position = Math.max(-1, ...this.all().map((patch) => patch.position)) + 1;
    const names = this.all().map(({ name }) => name);
    return songId
      ? { id: crypto.randomUUID(), songId, position, name: freeName(wish, names) }
      : null;
  }

  private put(patch: Patch): void {
    this.door.do(edits.patchAdded({ patch }));
    this.open(patch.id);
  }
}
