import type { Kind, Saved, ValueOf } from '@pentachord/core/model';
import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import {
  EMPTY_DOCUMENT,
  eachThing,
  thingsOf,
  type DocumentState,
  type Things,
} from '../show/document';
import { loading } from '../loading/loading';
import { without } from '../records';

/** A thing that was saved elsewhere since: both versions, until the player chooses. */
export interface Conflict {
  kind: Kind;
  id: string;
  /** What is there now; null when it has been removed. */
  present: Saved<ValueOf<Kind>> | null;
}

/** What the server has, and how saving goes. */
export interface SavingState {
  /** By kind and id: the version the server has answered for. */
  base: Record<string, Saved<ValueOf<Kind>>>;
  busy: boolean;
  /** Why the last save failed, in plain words; null when it did not. */
  problem: string | null;
  conflict: Conflict | null;
}

export const NOTHING_SAVED: SavingState = { base: {}, busy: false, problem: null, conflict: null };

export const saving = createActionGroup({
  source: 'Saving',
  events: {
    Begun: emptyProps(),
    Done: props<{ kind: Kind; id: string; sent: Saved<ValueOf<Kind>>; revision: number }>(),
    Removed: props<{ kind: Kind; id: string }>(),
    Failed: props<{ problem: string }>(),
    Refused: props<{ conflict: Conflict }>(),
    'Mine kept': emptyProps(),
    'Theirs taken': emptyProps(),
  },
});

/** The place of a thing in {@link SavingState.base}. */
export function thingKey(kind: Kind, id: string): string {
  return `${kind}/${id}`;
}

/** A thing that differs from what the server has. */
export interface Unsaved {
  kind: Kind;
  id: string;
  /** The revision it was made from; 0 for a new thing. */
  revision: number;
  /** What to save; null to remove it. */
  value: ValueOf<Kind> | null;
}

/** Everything that differs from what the server has, in an order that foreign keys allow. */
export function unsavedThings(things: Things, base: SavingState['base']): Unsaved[] {
  const found: Unsaved[] = [];
  eachThing(things, (kind, id, value) => {
    const saved = base[thingKey(kind, id)];
    if (saved?.value !== value) found.push({ kind, id, revision: saved?.revision ?? 0, value });
  });
  for (const key of Object.keys(base)) {
    const [kind, id] = key.split('/') as [Kind, string];
    if (!(id in things[kind])) found.push({ kind, id, revision: base[key].revision, value: null });
  }
  const order: Kind[] = ['sounds', 'devices', 'songs', 'patches', 'cues', 'shows', 'keepsakes'];
  const rank = (thing: Unsaved) =>
    thing.value === null ? order.length * 2 - order.indexOf(thing.kind) : order.indexOf(thing.kind);
  return found.sort((a, b) => rank(a) - rank(b));
}

export const savingReducer = createReducer<SavingState>(
  NOTHING_SAVED,
  on(loading.loaded, (_state, { document, sounds, keepsakes }) => {
    const base: SavingState['base'] = {};
    const add = (kind: Kind, saved: Saved<ValueOf<Kind>>[]) => {
      for (const one of saved) base[thingKey(kind, one.value.id)] = one;
    };
    add('shows', [document.show]);
    add('devices', document.devices);
    add('songs', document.songs);
    add('patches', document.patches);
    add('cues', document.cues);
    add('sounds', sounds);
    add('keepsakes', keepsakes);
    return { ...NOTHING_SAVED, base };
  }),
  on(saving.begun, (state) => ({ ...state, busy: true })),
  on(saving.done, (state, { kind, id, sent, revision }) => ({
    ...state,
    busy: false,
    problem: null,
    base: { ...state.base, [thingKey(kind, id)]: { revision, value: sent.value } },
  })),
  on(saving.removed, (state, { kind, id }) => {
    return { ...state, busy: false, problem: null, base: without(state.base, thingKey(kind, id)) };
  }),
  on(saving.failed, (state, { problem }) => ({ ...state, busy: false, problem })),
  on(saving.refused, (state, { conflict }) => ({ ...state, busy: false, problem: null, conflict })),
  on(saving.mineKept, saving.theirsTaken, (state) => {
    const { conflict } = state;
    if (!conflict) return state;
    const key = thingKey(conflict.kind, conflict.id);
    const rest = without(state.base, key);
    const base = conflict.present ? { ...rest, [key]: conflict.present } : rest;
    return { ...state, conflict: null, base };
  }),
);

/** The open show is what was loaded, and after a conflict, if the player says so, what is there now. */
export const documentReducer = createReducer<DocumentState>(
  EMPTY_DOCUMENT,
  on(loading.loaded, (_state, opened) => ({
    showId: opened.document.show.value.id,
    things: thingsOf(opened),
  })),
);

/** The things after the present version of a conflict has been taken. */
export function withTheirs(things: Things, conflict: Conflict): Things {
  const others = without<ValueOf<Kind>>(things[conflict.kind], conflict.id);
  const kept = conflict.present ? { ...others, [conflict.id]: conflict.present.value } : others;
  return { ...things, [conflict.kind]: kept };
}
