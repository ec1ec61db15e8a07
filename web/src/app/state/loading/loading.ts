import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Opened } from '../show/document';

/** How far opening the show has come. */
export interface LoadingState {
  status: 'opening' | 'open' | 'failed';
  problem: string | null;
  /** Whether this browser had been here before it was opened. */
  wasHere: boolean;
  /** True while the desk stands on the copy that this browser keeps, because the server did not answer. */
  isKept: boolean;
}

export const loading = createActionGroup({
  source: 'Loading',
  events: {
    Asked: emptyProps(),
    Loaded: props<Opened>(),
    Failed: props<{ problem: string }>(),
    /** What the server has is known again. */
    'Caught up': emptyProps(),
  },
});

export const loadingReducer = createReducer<LoadingState>(
  { status: 'opening', problem: null, wasHere: false, isKept: false },
  on(loading.asked, (state): LoadingState => ({ ...state, status: 'opening', problem: null })),
  on(loading.loaded, (_state, { wasHere, isKept }): LoadingState => ({
    ...{ status: 'open', problem: null },
    ...{ wasHere, isKept },
  })),
  on(loading.caughtUp, (state): LoadingState => ({ ...state, isKept: false })),
  on(loading.failed, (state, { problem }): LoadingState => ({
    ...state,
    status: 'failed',
    problem,
  })),
);
