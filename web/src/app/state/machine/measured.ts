import type { CoreShare } from '@pentachord/core/cost';
import type { Response } from '@pentachord/core/loudness';
import { sourceIdOf, type Sound } from '@pentachord/core/model';
import { createActionGroup, createReducer, on, props } from '@ngrx/store';

/** What was measured of a sound that is played here: how loud it is, and what one voice of it costs. */
export interface MeasuredSound {
  response: Response;
  voiceCost: CoreShare;
}

/** What is known of the sounds that are played here. */
export interface MeasuredState {
  /** By source. */
  sounds: Readonly<Record<string, MeasuredSound>>;
  /** Loudness of sounds in another colour than they were made, by loudness key. */
  coloured: Readonly<Record<string, Response>>;
}

/** What was measured of a sound of the library; undefined while nothing was. */
export function measuredOf(
  { sounds }: MeasuredState,
  sound: Pick<Sound, 'id' | 'origin'>,
): MeasuredSound | undefined {
  const id = sourceIdOf(sound);
  return id === null ? undefined : sounds[id];
}

export const measured = createActionGroup({
  source: 'Measured',
  events: {
    Sound: props<{ sourceId: string } & MeasuredSound>(),
    Coloured: props<{ key: string; response: Response }>(),
  },
});

export const measuredReducer = createReducer<MeasuredState>(
  { sounds: {}, coloured: {} },
  on(measured.sound, (state, { sourceId, response, voiceCost }) => ({
    ...state,
    sounds: { ...state.sounds, [sourceId]: { response, voiceCost } },
  })),
  on(measured.coloured, (state, { key, response }) => ({
    ...state,
    coloured: { ...state.coloured, [key]: response },
  })),
);
