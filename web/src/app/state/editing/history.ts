import { createActionGroup, emptyProps, type ActionReducer } from '@ngrx/store';
import { applyPatches, enablePatches, produceWithPatches, type Patch as Change } from 'immer';
import { carryOut } from './carrying-out';
import type { DocumentState } from '../show/document';
import { editInWords, isEdit } from './edits';

enablePatches();

/** One step that can be undone. */
interface HistoryStep {
  words: string;
  gesture: string | null;
  forth: Change[];
  back: Change[];
}

/** What can be undone and redone, latest last. */
export interface History {
  past: HistoryStep[];
  future: HistoryStep[];
}

export const NO_HISTORY: History = { past: [], future: [] };
/** Steps that are remembered. */
const MOST_STEPS = 200;

export const history = createActionGroup({
  source: 'History',
  events: { Undo: emptyProps(), Redo: emptyProps() },
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
        history: remember(state.history, { words: editInWords(action), gesture, forth, back }),
      };
    }
    const { past, future } = state.history;
    if (action.type === history.undo.type) {
      const step = past.at(-1);
      if (!step) return state;
      return travelled(state, step.back, { past: past.slice(0, -1), future: [...future, step] });
    }
    if (action.type === history.redo.type) {
      const step = future.at(-1);
      if (!step) return state;
      return travelled(state, step.forth, { past: [...past, step], future: future.slice(0, -1) });
    }
    return reducer(state, action);
  };
}

function remember(before: History, step: HistoryStep): History {
  const last = before.past.at(-1);
  if (last && step.gesture !== null && last.gesture === step.gesture) {
    const joined: HistoryStep = {
      ...last,
      forth: [...last.forth, ...step.forth],
      back: [...step.back, ...last.back],
    };
    return { past: [...before.past.slice(0, -1), joined], future: [] };
  }
  return { past: [...before.past, step].slice(-MOST_STEPS), future: [] };
}

function travelled<S extends WithHistory>(state: S, changes: Change[], next: History): S {
  const things = applyPatches(state.document.things, changes);
  // A gesture that was undone is over: the next change of that name is a step of its own.
  const closed = next.past.at(-1);
  const past = closed ? [...next.past.slice(0, -1), { ...closed, gesture: null }] : next.past;
  return {
    ...state,
    document: { ...state.document, things },
    history: { past, future: next.future },
  };
}
