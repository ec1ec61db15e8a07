import { createActionGroup, emptyProps, props, type ActionReducer } from '@ngrx/store';
import { applyPatches, enablePatches, produceWithPatches, type Patch as Change } from 'immer';
import type { Kind } from '@pentachord/core/model';
import { carryOut } from './carrying-out';
import type { DocumentState, Things } from '../show/document';
import { editInWords, isEdit } from './edits';

enablePatches();

/** The thing that a step changed first, and where it stands. */
export interface ThingPlace {
  kind: Kind;
  id: string;
}

/** One step that can be undone. */
interface HistoryStep {
  words: string;
  place: ThingPlace;
  gesture: string | null;
  forth: Change[];
  back: Change[];
}

/** What can be undone and redone, latest last. */
export interface History {
  past: HistoryStep[];
  future: HistoryStep[];
  /** What was undone or redone last; a new object each time. */
  undoing: Undoing | null;
}

/** A step that was undone or redone. */
export interface Undoing {
  way: 'undone' | 'redone';
  words: string;
  place: ThingPlace;
}

export const NO_HISTORY: History = { past: [], future: [], undoing: null };
/** Steps that are remembered. */
const MOST_STEPS = 200;

export const history = createActionGroup({
  source: 'History',
  events: {
    Undo: emptyProps(),
    Redo: emptyProps(),
    /** What could be undone before the page was loaded anew. */
    Restored: props<{ past: HistoryStep[]; future: HistoryStep[] }>(),
  },
});

/** State over which the meta-reducer works. */
export interface WithHistory {
  document: DocumentState;
  history: History;
}

/**
 * Carries out edits, remembering each as the changes that Immer found, forth and back; steps of one gesture become one.
 * Everything that is not an edit goes on to the reducers below.
 */
export function undoable<S extends WithHistory>(reducer: ActionReducer<S>): ActionReducer<S> {
  return (state, action) => {
    if (!state) return reducer(state, action);
    if (isEdit(action)) {
      const [things, forth, back] = produceWithPatches(state.document.things, (draft) =>
        carryOut(draft, action),
      );
      if (forth.length === 0) return state;
      const gesture = 'gesture' in action ? (action.gesture ?? null) : null;
      return {
        ...state,
        document: { ...state.document, things },
        history: remember(state.history, {
          words: editInWords(action),
          place: placeOf(forth),
          gesture,
          forth,
          back,
        }),
      };
    }
    const { past, future } = state.history;
    if (action.type === history.undo.type) {
      const step = past.at(-1);
      if (!step) return state;
      return undoing(state, step.back, {
        past: past.slice(0, -1),
        future: [...future, step],
        undoing: { way: 'undone', words: step.words, place: step.place },
      });
    }
    if (action.type === history.redo.type) {
      const step = future.at(-1);
      if (!step) return state;
      return undoing(state, step.forth, {
        past: [...past, step],
        future: future.slice(0, -1),
        undoing: { way: 'redone', words: step.words, place: step.place },
      });
    }
    return reducer(state, action);
  };
}

function remember(before: History, step: HistoryStep): History {
  const last = before.past.at(-1);
  if (last && step.gesture !== null && last.gesture === step.gesture) {
    const joined: HistoryStep = {
      ...last,
      forth: step.forth.reduce(withNext, last.forth),
      back: step.back.reduceRight(withEarlier, last.back),
    };
    return { ...before, past: [...before.past.slice(0, -1), joined], future: [] };
  }
  return { ...before, past: [...before.past, step].slice(-MOST_STEPS), future: [] };
}

/** The thing that the first change of a step is in. */
function placeOf([first]: readonly Change[]): ThingPlace {
  const [kind, id] = first.path as [Kind, string];
  return { kind, id };
}

/** The history without the steps that touch a thing. */
export function forgetting(history: History, { kind, id }: ThingPlace): History {
  const isElsewhere = ({ forth }: HistoryStep) =>
    forth.every(({ path }) => path[0] !== kind || (path.length > 1 && path[1] !== id));
  return {
    ...history,
    past: history.past.filter(isElsewhere),
    future: history.future.filter(isElsewhere),
  };
}

/** The history after a thing has been replaced by another version: without its steps, and with one that brings it back. */
export function replacing(
  history: History,
  before: Things,
  after: Things,
  place: ThingPlace,
  words: string,
): History {
  const { kind, id } = place;
  const [, forth, back] = produceWithPatches(before, (draft) => {
    const records = draft[kind] as Record<string, unknown>;
    if (id in after[kind]) records[id] = after[kind][id];
    else Reflect.deleteProperty(records, id);
  });
  const kept = forgetting(history, place);
  return forth.length > 0 ? remember(kept, { words, place, gesture: null, forth, back }) : kept;
}

/** Changes with one that follows them: where it only sets anew what one of them has set, that one is replaced. */
function withNext(changes: Change[], next: Change): Change[] {
  const at = changes.findLastIndex((change) => touch(change, next));
  if (at < 0 || !setsAnew(changes[at], next)) return [...changes, next];
  return changes.with(at, next);
}

/** Changes back with one that goes before them: it has no say where they go back further. */
function withEarlier(changes: Change[], earlier: Change): Change[] {
  const after = changes.find((change) => touch(change, earlier));
  return after && setsAnew(after, earlier) ? changes : [earlier, ...changes];
}

/** Whether two changes have to do with each other: one lies within the other. */
function touch(a: Change, b: Change): boolean {
  const length = Math.min(a.path.length, b.path.length);
  return a.path.slice(0, length).every((part, i) => part === b.path[i]);
}

function setsAnew(a: Change, b: Change): boolean {
  return a.op === 'replace' && b.op === 'replace' && a.path.length === b.path.length;
}

function undoing<S extends WithHistory>(state: S, changes: Change[], next: History): S {
  let things: Things;
  try {
    things = applyPatches(state.document.things, changes);
  } catch {
    // Steps that were kept in the browser and do not fit what is there: they are no use any more.
    return { ...state, history: NO_HISTORY };
  }
  // A gesture that was undone is over: the next change of that name is a step of its own.
  const closed = next.past.at(-1);
  const past = closed ? [...next.past.slice(0, -1), { ...closed, gesture: null }] : next.past;
  return {
    ...state,
    document: { ...state.document, things },
    history: { ...next, past },
  };
}
