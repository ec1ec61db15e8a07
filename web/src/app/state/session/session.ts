import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { LevelNow } from '@pentachord/core/routing';
import { dequal } from 'dequal';
import * as z from 'zod';

/** Where the player is: what is current, selected and soloed. Not part of the show. */
export interface SessionState {
  /** The current place in the show; no entry for a song that is open outside of the running order. */
  entryId: string | null;
  songId: string | null;
  cueId: string | null;
  /** The patch on the desk. */
  patchId: string | null;
  /** The layer whose edges can be taken hold of. */
  layerId: string | null;
  /** Every selected layer, that one included. */
  layerIds: string[];
  /** The keyboard that the field shows. */
  keyboardId: string | null;
  soloed: string[];
  /** True while Showtime is open: cues are played as cues, with their balance. */
  showtime: boolean;
  /** True while the Song view is open, where cues are played as cues too. */
  songOpen: boolean;
  /** What is played and edited on the desk: the patch as it is written, or the current cue’s balance of it. */
  balance: 'written' | 'cue';
  hands: HandsState;
}

/** Where hands have moved things on the desk, beside what is written: looked at now and then. */
export interface HandsState {
  /** Octaves by which a control has a device heard higher or lower, by its id. */
  octaves: Readonly<Record<string, number>>;
  /** What choosers have picked, by id. */
  picks: Readonly<Record<string, number>>;
  /** Levels of layers that stand otherwise than written, by id. */
  levels: Readonly<Record<string, LevelNow>>;
}

export const NOWHERE: SessionState = {
  hands: { octaves: {}, picks: {}, levels: {} },
  entryId: null,
  songId: null,
  cueId: null,
  patchId: null,
  layerId: null,
  layerIds: [],
  keyboardId: null,
  soloed: [],
  showtime: false,
  songOpen: false,
  balance: 'written',
};

/** What is remembered over a reload. */
export const bookmarkSchema = z.object({
  showId: z.string(),
  /** Not there in bookmarks of old. */
  entryId: z.string().nullable().default(null),
  songId: z.string().nullable(),
  cueId: z.string().nullable(),
  patchId: z.string().nullable(),
  keyboardId: z.string().nullable(),
});
export type Bookmark = z.infer<typeof bookmarkSchema>;

export const session = createActionGroup({
  source: 'Session',
  events: {
    'Place restored': props<Omit<Bookmark, 'showId'>>(),
    /** A step of the show became current, chosen on screen or from a pad, pedal or key. */
    'Cue reached': props<{
      entryId: string | null;
      songId: string;
      cueId: string | null;
      patchId: string | null;
    }>(),
    'Show opened': props<{ showId: string | null }>(),
    'Hands moved': props<{ hands: HandsState }>(),
    'Balance chosen': props<{ balance: 'written' | 'cue' }>(),
    'Patch opened': props<{ patchId: string }>(),
    'Layer selected': props<{ layerId: string | null }>(),
    /** Several layers; the last one is the one whose edges can be taken hold of. */
    'Layers selected': props<{ layerIds: string[] }>(),
    'Keyboard chosen': props<{ keyboardId: string }>(),
    'Solo toggled': props<{ layerId: string }>(),
    'Song entered': emptyProps(),
    'Song left': emptyProps(),
    'Showtime entered': emptyProps(),
    'Showtime left': emptyProps(),
  },
});

export const sessionReducer = createReducer<SessionState>(
  NOWHERE,
  on(session.placeRestored, (state, { entryId, songId, cueId, patchId, keyboardId }) => ({
    ...state,
    entryId,
    songId,
    cueId,
    patchId,
    keyboardId,
    ...(patchId === state.patchId ? {} : { layerId: null, layerIds: [], soloed: [] }),
  })),
  // Each part stays the same object while nothing of it moves, so that nothing else is worked out anew.
  on(session.handsMoved, (state, { hands }) => ({
    ...state,
    hands: {
      octaves: same(state.hands.octaves, hands.octaves),
      picks: same(state.hands.picks, hands.picks),
      levels: same(state.hands.levels, hands.levels),
    },
  })),
  on(session.balanceChosen, (state, { balance }) => ({ ...state, balance })),
  on(session.cueReached, (state, { entryId, songId, cueId, patchId }) => ({
    ...state,
    entryId,
    songId,
    cueId,
    // A song without a patch leaves no other song's on the desk.
    patchId,
    layerId: patchId === state.patchId ? state.layerId : null,
    layerIds: patchId === state.patchId ? state.layerIds : [],
    soloed: patchId === state.patchId ? state.soloed : [],
  })),
  on(session.patchOpened, (state, { patchId }) => ({
    ...state,
    patchId,
    layerId: null,
    layerIds: [],
    soloed: [],
  })),
  on(session.layerSelected, (state, { layerId }) => ({
    ...state,
    layerId,
    layerIds: layerId === null ? [] : [layerId],
  })),
  on(session.layersSelected, (state, { layerIds }) => ({
    ...state,
    layerId: layerIds.at(-1) ?? null,
    layerIds,
  })),
  on(session.keyboardChosen, (state, { keyboardId }) => ({ ...state, keyboardId })),
  on(session.soloToggled, (state, { layerId }) => ({
    ...state,
    soloed: state.soloed.includes(layerId)
      ? state.soloed.filter((id) => id !== layerId)
      : [...state.soloed, layerId],
  })),
  on(session.songEntered, (state) => ({ ...state, songOpen: true })),
  on(session.songLeft, (state) => ({ ...state, songOpen: false })),
  on(session.showtimeEntered, (state) => ({ ...state, showtime: true, soloed: [] })),
  on(session.showtimeLeft, (state) => ({ ...state, showtime: false })),
);

function same<T>(before: T, now: T): T {
  return dequal(before, now) ? before : now;
}
