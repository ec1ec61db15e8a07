import type { CoreShare } from '@pentachord/core/cost';
import type { Response } from '@pentachord/core/loudness';
import { createActionGroup, createReducer, on, props } from '@ngrx/store';

/** What was measured of a house sound: how loud it is, and what one voice of it costs. */
export interface MeasuredSound {
  response: Response;
  voiceCost: CoreShare;
}

/** What is known of the house sounds. */
export interface MeasuredState {
  /** By recipe. */
  sounds: Readonly<Record<string, MeasuredSound>>;
  /** Loudness of sounds in another colour than they were made, by loudness key. */
  coloured: Readonly<Record<string, Response>>;
}

export const measured = createActionGroup({
  source: 'Measured',
  events: {
    Sound: props<{ recipe: string } & MeasuredSound>(),
    Coloured: props<{ key: string; response: Response }>(),
  },
});

export const measuredReducer = createReducer<MeasuredState>(
  { sounds: {}, coloured: {} },
  on(measured.sound, (state, { recipe, response, voiceCost }) => ({
    ...state,
    sounds: { ...state.sounds, [recipe]: { response, voiceCost } },
  })),
  on(measured.coloured, (state, { key, response }) => ({
    ...state,
    coloured: { ...state.coloured, [key]: response },
  })),
);
