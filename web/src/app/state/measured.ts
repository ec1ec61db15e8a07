import type { Response } from '@pentachord/core/loudness';
import { createActionGroup, createReducer, on, props } from '@ngrx/store';

/** How loud the house sounds were measured to be, by recipe. */
export type MeasuredState = Readonly<Record<string, Response>>;

export const measured = createActionGroup({
  source: 'Measured',
  events: { Sound: props<{ recipe: string; response: Response }>() },
});

export const measuredReducer = createReducer<MeasuredState>(
  {},
  on(measured.sound, (state, { recipe, response }) => ({ ...state, [recipe]: response })),
);
