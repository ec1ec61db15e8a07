import { remarks } from '@pentachord/core/coverage';
import { createSelector } from '@ngrx/store';
import { selectCompiled } from '../selectors';
import { selectRemarkSettings } from './selectors';

/** Everything worth noticing about the patch on the desk. Fetched after the field is there. */
export const selectRemarks = createSelector(
  selectCompiled,
  selectRemarkSettings,
  (compiled, settings) => (compiled ? remarks(compiled, settings) : []),
);
