import { createActionGroup, createReducer, emptyProps, on, props } from '@ngrx/store';
import type { Opened } from '../show/document';

/** How far opening the show has come. */
export interface LoadingState {
  status: 'opening' | 'open' | 'failed';
  problem: string | null;
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
  { status: 'opening', problem: null },
  on(loading.asked, (): LoadingState => ({ status: 'opening', problem: null })),
  on(loading.loaded, (): LoadingState => ({ status: 'open', problem: null })),
  on(loading.failed, (_state, { problem }): LoadingState => ({ status: 'failed', problem })),
);
