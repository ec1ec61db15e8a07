import type { ActionReducer, ActionReducerMap, MetaReducer } from '@ngrx/store';
import type { DocumentState } from './show/document';
import { NO_HISTORY, undoable, type History } from './editing/history';
import { loadingReducer, type LoadingState } from './loading/loading';
import { machineReducer, type MachineState } from './machine/machine';
import { measuredReducer, type MeasuredState } from './machine/measured';
import {
  documentReducer,
  saving,
  savingReducer,
  withTheirs,
  type SavingState,
} from './saving/saving';
import { sessionReducer, type SessionState } from './session/session';

/** The whole state of the desk. */
export interface AppState {
  loading: LoadingState;
  document: DocumentState;
  history: History;
  saving: SavingState;
  session: SessionState;
  measured: MeasuredState;
  machine: MachineState;
}

export const reducers: ActionReducerMap<AppState> = {
  loading: loadingReducer,
  document: documentReducer,
  history: (state = NO_HISTORY) => state,
  saving: savingReducer,
  session: sessionReducer,
  measured: measuredReducer,
  machine: machineReducer,
};

/** Taking the other version of a conflict replaces the thing; what was undone before no longer fits it. */
export function conflictChoice(reducer: ActionReducer<AppState>): ActionReducer<AppState> {
  return (state, action) => {
    const conflict = state?.saving.conflict;
    if (!state || !conflict || action.type !== saving.theirsTaken.type)
      return reducer(state, action);
    const document = { ...state.document, things: withTheirs(state.document.things, conflict) };
    return reducer({ ...state, document, history: NO_HISTORY }, action);
  };
}

export const metaReducers: MetaReducer<AppState>[] = [conflictChoice, undoable];
