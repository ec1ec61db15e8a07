import { inSavingOrder, KINDS, type Kind, type Saved, type ValueOf } from '@pentachord/core/model';
import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import {
  EMPTY_DOCUMENT,
  answeredByKind,
  eachThing,
  thingsOf,
  type Answered,
  type DocumentState,
  type Things,
  type Unsaved,
} from '../show/document';
import { loading } from '../loading/loading';
import { session } from '../session/session';
import { without } from '../records';

/** A thing that was saved elsewhere since: both versions, until the player chooses. */
export interface Conflict {
  kind: Kind;
  id: string;
  /** What is there now; null when it has been removed. */
  present: Saved<ValueOf<Kind>> | null;
}

/** A change that the server refuses for good: it waits until it is mended, tried again or dropped; the rest is saved. */
export interface SetAside {
  kind: Kind;
  id: string;
  /** Why it was refused, in plain words. */
  problem: string;
  /** What was refused; null for a removal. Another value is tried by itself. */
  value: ValueOf<Kind> | null;
}

/** What the server has, and how saving goes. */
export interface SavingState {
  /** By kind and id: the version the server has answered for. */
  base: Record<string, Saved<ValueOf<Kind>>>;
  busy: boolean;
  /** Why the last save failed, in plain words; null when it did not. */
  problem: string | null;
  /** What was saved elsewhere since; the player is asked about the first. */
  conflicts: Conflict[];
  /** By kind and id. */
  setAside: Record<string, SetAside>;
}

export const NOTHING_SAVED: SavingState = {
  base: {},
  busy: false,
  problem: null,
  conflicts: [],
  setAside: {},
};

export const saving = createActionGroup({
  source: 'Saving',
  events: {
    Begun: emptyProps(),
    Done: props<{ kind: Kind; id: string; sent: Saved<ValueOf<Kind>>; revision: number }>(),
    Removed: props<{ kind: Kind; id: string }>(),
    Failed: props<{ problem: string }>(),
    'Conflict met': props<{ conflict: Conflict }>(),
    'Set aside': props<{ refused: SetAside }>(),
    'Mine kept': emptyProps(),
    'Theirs taken': emptyProps(),
    /** Another window has saved something that is not changed here. */
    Followed: props<{ conflict: Conflict }>(),
    /** What was set aside is sent once more as it is. */
    'Tried again': props<{ kind: Kind; id: string }>(),
    /** What was set aside is given up for what the server has. */
    Dropped: props<{ kind: Kind; id: string }>(),
  },
});

/** The place of a thing in {@link SavingState.base}. */
export function thingKey(kind: Kind, id: string): string {
  return `${kind}/${id}`;
}

/** By kind and id what the server has answered. */
export function baseOf(answered: Answered): SavingState['base'] {
  const base: SavingState['base'] = {};
  const all = answeredByKind(answered);
  for (const kind of KINDS) for (const one of all[kind]) base[thingKey(kind, one.value.id)] = one;
  return base;
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
  return found.sort(inSavingOrder);
}

export const savingReducer = createReducer<SavingState>(
  NOTHING_SAVED,
  on(loading.loaded, (_state, { repertoire, sounds, patterns, keepsakes, unsaved }) => {
    let base = baseOf({ repertoire, sounds, patterns, keepsakes });
    // What was changed here was made from the revision it names: if the server has gone on since, that is a conflict.
    for (const { kind, id, revision, value } of unsaved) {
      const key = thingKey(kind, id);
      const known = base[key] as Saved<ValueOf<Kind>> | undefined;
      if (revision === 0) base = without(base, key);
      else if (known) base[key] = { revision, value: known.value };
      else if (value) base[key] = { revision, value: { ...value } };
    }
    return { ...NOTHING_SAVED, base };
  }),
  on(saving.begun, (state) => ({ ...state, busy: true })),
  on(saving.done, (state, { kind, id, sent, revision }) => ({
    ...state,
    busy: false,
    problem: null,
    setAside: without(state.setAside, thingKey(kind, id)),
    base: { ...state.base, [thingKey(kind, id)]: { revision, value: sent.value } },
  })),
  on(saving.removed, (state, { kind, id }) => {
    const key = thingKey(kind, id);
    return {
      ...state,
      busy: false,
      problem: null,
      setAside: without(state.setAside, key),
      base: without(state.base, key),
    };
  }),
  on(saving.failed, (state, { problem }) => ({ ...state, busy: false, problem })),
  on(saving.conflictMet, (state, { conflict }) => ({
    ...state,
    busy: false,
    problem: null,
    conflicts: [...state.conflicts.filter((other) => !isSame(other, conflict)), conflict],
  })),
  on(saving.setAside, (state, { refused }) => ({
    ...state,
    busy: false,
    problem: null,
    setAside: { ...state.setAside, [thingKey(refused.kind, refused.id)]: refused },
  })),
  on(saving.mineKept, saving.theirsTaken, (state) => {
    const [conflict, ...conflicts] = state.conflicts;
    return conflict ? { ...withPresent(state, conflict), conflicts } : state;
  }),
  on(saving.followed, (state, { conflict }) => withPresent(state, conflict)),
  on(saving.triedAgain, saving.dropped, (state, { kind, id }) => ({
    ...state,
    setAside: without(state.setAside, thingKey(kind, id)),
  })),
);

/** The state after it is known what the server has of a thing. */
function withPresent(state: SavingState, { kind, id, present }: Conflict): SavingState {
  const key = thingKey(kind, id);
  const rest = without(state.base, key);
  return { ...state, base: present ? { ...rest, [key]: present } : rest };
}

function isSame(a: { kind: Kind; id: string }, b: { kind: Kind; id: string }): boolean {
  return a.kind === b.kind && a.id === b.id;
}

/** What of the unsaved can be sent now: not what waits for the player, and not what was refused as it is. */
export function sendable(
  unsaved: readonly Unsaved[],
  { conflicts, setAside }: SavingState,
): Unsaved[] {
  return unsaved.filter((thing) => {
    const refused = setAside[thingKey(thing.kind, thing.id)];
    return (
      !conflicts.some((conflict) => isSame(conflict, thing)) &&
      !(refused && refused.value === thing.value)
    );
  });
}

/** What was refused and is still so: a thing that was changed since is tried by itself. */
export function stillSetAside(unsaved: readonly Unsaved[], state: SavingState): SetAside[] {
  return unsaved.flatMap((thing) => {
    const refused = state.setAside[thingKey(thing.kind, thing.id)];
    return refused && refused.value === thing.value ? [refused] : [];
  });
}

/** What was loaded, and the show that is open. Edits are carried out by the history. */
export const documentReducer = createReducer<DocumentState>(
  EMPTY_DOCUMENT,
  on(loading.loaded, (_state, opened) => ({
    database: opened.repertoire.database,
    showId: opened.showId,
    things: thingsOf(opened),
  })),
  on(session.showOpened, (state, { showId }) => ({ ...state, showId })),
);
