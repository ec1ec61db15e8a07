import { createSelector } from '@ngrx/store';
import type { AppState } from '../reducers';

/** Everything that can be undone and redone. */
export const selectHistory = (state: AppState) => state.history;

/** What was undone or redone last. */
export const selectUndoing = createSelector(selectHistory, ({ undoing }) => undoing);

export const selectUndo = createSelector(selectHistory, ({ past, future }) => ({
  undo: past.at(-1)?.words ?? null,
  redo: future.at(-1)?.words ?? null,
}));
