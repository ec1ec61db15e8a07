import { createReducer, on, type ActionReducerMap, type MetaReducer } from '@ngrx/store';
import type { DocumentState } from './show/document';
import { history, NO_HISTORY, undoable, type History } from './editing/history';
import { loading, loadingReducer, type LoadingState } from './loading/loading';
import { machineReducer, type MachineState } from './machine/machine';
import { preferencesReducer, type Preferences } from './machine/preferences';
import { measuredReducer, type MeasuredState } from './machine/measured';
import { recordingsReducer, type RecordingsState } from './recordings/recordings';
import { documentReducer, savingReducer, type SavingState } from './saving/saving';
import { versionChosen } from './saving/choosing';
import { sessionReducer, type SessionState } from './session/session';

/** The whole state of the desk. */
export interface AppState {
  loading: LoadingState;
  document: DocumentState;
  history: History;
  saving: SavingState;
  session: SessionState;
  measured: MeasuredState;
  recordings: RecordingsState;
  machine: MachineState;
  preferences: Preferences;
}

export const reducers: ActionReducerMap<AppState> = {
  loading: loadingReducer,
  document: documentReducer,
  // What was fetched anew is not what could be undone.
  history: createReducer(
    NO_HISTORY,
    on(loading.loaded, () => NO_HISTORY),
    on(history.restored, (before, { past, future }) =>
      before.past.length + before.future.length > 0 ? before : { ...NO_HISTORY, past, future },
    ),
  ),
  saving: savingReducer,
  session: sessionReducer,
  measured: measuredReducer,
  recordings: recordingsReducer,
  machine: machineReducer,
  preferences: preferencesReducer,
};

export const metaReducers: MetaReducer<AppState>[] = [versionChosen, undoable];
