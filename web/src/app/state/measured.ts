import type { CoreShare } from '@pentachord/core/cost';
import type { Response } from '@pentachord/core/loudness';
import { createActionGroup, createReducer, on, props } from '@ngrx/store';

/** What was measured of a house sound: how loud it is, and what one voice of it costs. */
export interface MeasuredSound {
  response: Response;
  voiceCost: CoreShare;
}

/** By recipe. */
export type MeasuredState = Readonly<Record<string, MeasuredSound>>;

export const measured = createActionGroup({
  source: 'Measured',
  events: { Sound: props<{ recipe: string } & MeasuredSound>() },
});

export const measuredReducer = createReducer<MeasuredState>(
  {},
  on(measured.sound, (state, { recipe, response, voiceCost }) => ({
    ...state,
    [recipe]: { response, voiceCost },
  })),
);
