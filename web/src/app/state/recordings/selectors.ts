import { createSelector } from '@ngrx/store';
import { recordingsOfSound } from '@pentachord/core/model';
import type { AppState } from '../reducers';
import { selectSounds } from '../selectors';

/** By name, numbers by their value; one that is made once is many times quicker. */
const NAMES = new Intl.Collator('en', { numeric: true });

const selectRecordings = (state: AppState) => state.recordings;
export const selectRecordingsById = createSelector(selectRecordings, ({ byId }) => byId);
/** All of them, by name. */
export const selectRecordingList = createSelector(selectRecordingsById, (byId) =>
  Object.values(byId)
    .filter((one) => one !== undefined)
    .sort((a, b) => NAMES.compare(a.name, b.name)),
);
export const selectRecordingKeeping = createSelector(selectRecordings, ({ keeping }) => keeping);

/** Ids of recordings that sounds need and nobody knows here, as one text, so that the same ones are told once. */
export const selectUnknownRecordings = createSelector(
  selectRecordings,
  selectSounds,
  ({ byId, isListed }, sounds) =>
    isListed
      ? [...sounds.values()]
          .flatMap(recordingsOfSound)
          .filter((id) => !byId[id])
          .join(' ')
      : '',
);
