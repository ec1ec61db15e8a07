import type { Kind, ValueOf } from '@pentachord/core/model';
import type { ActionReducer } from '@ngrx/store';
import type { Things } from '../show/document';
import { forgetting, replacing, type History, type WithHistory } from '../editing/history';
import { without } from '../records';
import { saving, thingKey, type Conflict, type SavingState } from './saving';

interface WithSaving extends WithHistory {
  saving: SavingState;
}

/**
 * What happens on screen when another version of a thing is taken: it replaces the one that was there. What could be undone
 * of that thing no longer fits it and goes, and only that; the version given up can be brought back by undoing once.
 */
export function versionChosen<S extends WithSaving>(reducer: ActionReducer<S>): ActionReducer<S> {
  return (state, action) => {
    const chosen = state && choiceIn(state.saving, action);
    if (!state || !chosen) return reducer(state, action);
    const { version, words } = chosen;
    const { kind, id, present } = version;
    const before = state.document.things;
    const things = withVersion(before, kind, id, present?.value ?? null);
    const history: History = words
      ? replacing(state.history, before, things, { kind, id }, words)
      : forgetting(state.history, { kind, id });
    return reducer({ ...state, document: { ...state.document, things }, history }, action);
  };
}

/** The version that an action takes, and what undoing it is called; no words when there is nothing given up. */
function choiceIn(
  state: SavingState,
  action: { type: string },
): { version: Conflict; words: string | null } | null {
  if (action.type === saving.theirsTaken.type) {
    const version = state.conflicts.at(0);
    return version ? { version, words: 'the other version taken' } : null;
  }
  if (action.type === saving.followed.type)
    return { version: (action as ReturnType<typeof saving.followed>).conflict, words: null };
  if (action.type !== saving.dropped.type) return null;
  const { kind, id } = action as ReturnType<typeof saving.dropped>;
  const present = state.base[thingKey(kind, id)] ?? null;
  return { version: { kind, id, present }, words: 'a change dropped' };
}

function withVersion(things: Things, kind: Kind, id: string, value: ValueOf<Kind> | null): Things {
  const others = without<ValueOf<Kind>>(things[kind], id);
  return { ...things, [kind]: value ? { ...others, [id]: value } : others };
}
