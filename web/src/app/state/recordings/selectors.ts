import { createSelector } from '@ngrx/store';
import type { AppState } from '../reducers';

const selectRecordings = (state: AppState) => state.recordings;
export const selectRecordingsById = createSelector(selectRecordings, ({ byId }) => byId);
/** All of them, by name. */
export const selectRecordingList = createSelector(selectRecordingsById, (byId) =>
  Object.values(byId)
    .filter((one) => one !== undefined)
    .sort((a, b) => a.name.localeCompare(b.name, 'en', { numeric: true })),
);
export const selectRecordingKeeping = createSelector(selectRecordings, ({ keeping }) => keeping);
