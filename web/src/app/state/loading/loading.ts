import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Opened } from '../show/document';

/** How far opening the show has come. */
export interface LoadingState {
  status: 'opening' | 'open' | 'failed';
  problem: string | null;
  /** Whether this browser had been here before it was opened. */
  wasHere: boolean;
}

export const loading = createActionGroup({
  source: 'Loading',
  events: {
    Asked: emptyProps(),
    Loaded: props<Opened>(),
    Failed: props<{ problem: string }>(),
  },
});

export const loadingReducer = createReducer<LoadingState>(
  { status: 'opening', problem: null, wasHere: false },
  on(loading.asked, (state): LoadingState => ({ ...state, status: 'opening', problem: null })),
  on(loading.loaded, (_state, { wasHere }): LoadingState => ({
    ...{ status: 'open', problem: null },
    wasHere,
  })),
  on(loading.failed, (state, { problem }): LoadingState => ({
    ...state,
    status: 'failed',
    problem,
  })),
);
