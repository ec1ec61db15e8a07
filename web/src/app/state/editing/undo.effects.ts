import { inject } from '@angular/core';
import type { Kind } from '@pentachord/core/model';
import { Router } from '@angular/router';
import { Actions, createEffect, ofType } from '@ngrx/effects';
import { concatLatestFrom } from '@ngrx/operators';
import { Store } from '@ngrx/store';
import { EMPTY, of, switchMap } from 'rxjs';
import type { AppState } from '../reducers';
import { saving } from '../saving/saving';
import { selectUndoing } from './selectors';
import { selectSession, selectShow, selectThings } from '../selectors';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { cuesOfSong, patchesOfSong, type Things } from '../show/document';
import { history, type ThingPlace } from './history';

/** Views in which a thing of a kind is seen; the first is where one is taken. */
const VIEW_OF: Partial<Record<Kind, readonly string[]>> = {
  patches: ['/patch', '/song'],
  cues: ['/song', '/patch', '/running-order'],
  songs: ['/song', '/running-order'],
  shows: ['/running-order', '/shows', '/song', '/rig/controls', '/rig'],
  rigs: ['/rig'],
  devices: ['/rig'],
  sounds: ['/library/sounds'],
};

/** Says what was undone or redone and where, and goes there. */
export const goWhereUndone = createEffect(
  (
    actions = inject(Actions),
    store = inject<Store<AppState>>(Store),
    status = inject(StatusLine),
    router = inject(Router),
  ) =>
    actions.pipe(
      ofType(history.undo, history.redo),
      concatLatestFrom(() => [
        store.select(selectUndoing),
        store.select(selectThings),
        store.select(selectSession),
        store.select(selectShow),
      ]),
      switchMap(([, travel, things, { patchId }, show]) => {
        if (!travel) return EMPTY;
        const { way, words, place } = travel;
        const order = show?.order ?? [];
        status.say(
          `${way === 'undone' ? 'Undone' : 'Redone'}: ${words}${placeInWords(things, place)}`,
        );
        const view = VIEW_OF[place.kind];
        const isThere = things[place.kind][place.id] as object | undefined;
        // What was done in several views is seen in any of them.
        if (view && isThere && !view.some((url) => router.url.startsWith(url)))
          void router.navigateByUrl(view[0]);
        if (place.kind !== 'patches') return EMPTY;
        const patch = things.patches[place.id];
        if (!patch || patch.id === patchId) return EMPTY;
        const { songId } = patch;
        // The song too, so that the running order shows where this is.
        const cue = cuesOfSong(things, songId).find((one) => one.patchId === patch.id);
        const entryId = order.find((e) => e.kind === 'song' && e.songId === songId)?.id ?? null;
        return of(
          session.cueReached({ entryId, songId, cueId: cue?.id ?? null, patchId: patch.id }),
        );
      }),
    ),
  { functional: true },
);

/** When the open patch is gone, by undoing or because it was removed elsewhere, another one of the song is opened. */
export const leaveGonePatch = createEffect(
  (actions = inject(Actions), store = inject<Store<AppState>>(Store)) =>
    actions.pipe(
      ofType(history.undo, history.redo, saving.theirsTaken, saving.followed, saving.dropped),
      concatLatestFrom(() => [store.select(selectThings), store.select(selectSession)]),
      switchMap(([, things, { patchId, songId }]) => {
        if (patchId === null || patchId in things.patches) return EMPTY;
        const other = songId ? patchesOfSong(things, songId).at(0) : undefined;
        return other ? of(session.patchOpened({ patchId: other.id })) : EMPTY;
      }),
    ),
  { functional: true },
);

/** `, in Tide of Saltglass`; nothing for what has no name any more. */
function placeInWords(things: Things, { kind, id }: ThingPlace): string {
  const thing = things[kind][id] as { name: string } | undefined;
  if (!thing) return '';
  const patch = things.patches[id];
  const song = kind === 'patches' && patch ? things.songs[patch.songId] : undefined;
  return song ? `, in ${thing.name} of ${song.name}` : `, of ${thing.name}`;
}
