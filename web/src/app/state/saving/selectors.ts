import { createSelector } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectThings } from '../selectors';
import { sendable, stillSetAside, unsavedThings } from './saving';

const selectSaving = (state: AppState) => state.saving;

export const selectUnsaved = createSelector(selectThings, selectSaving, (things, { base }) =>
  unsavedThings(things, base),
);
export const selectBase = createSelector(selectSaving, ({ base }) => base);
/** What can be sent to the server now. */
export const selectSendable = createSelector(selectUnsaved, selectSaving, sendable);
/** What the player is asked about. */
export const selectConflict = createSelector(
  selectSaving,
  ({ conflicts }) => conflicts.at(0) ?? null,
);
/** What the server has refused for good, as it stands here. */
export const selectSetAside = createSelector(selectUnsaved, selectSaving, stillSetAside);

/** Saved, saving, or not saved and why. */
export const selectSavingState = createSelector(
  selectSaving,
  selectSendable,
  selectConflict,
  selectSetAside,
  (
    { busy, problem },
    toSend,
    conflict,
    setAside,
  ): { state: 'saved' | 'saving' | 'not saved'; why: string } => {
    if (problem && toSend.length > 0) return { state: 'not saved', why: problem };
    if (conflict) return { state: 'not saved', why: 'saved elsewhere since; choose a version' };
    if (busy || toSend.length > 0) return { state: 'saving', why: '' };
    if (setAside.length > 0) return { state: 'not saved', why: '' };
    return { state: 'saved', why: '' };
  },
);
