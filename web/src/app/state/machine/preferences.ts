import { createActionGroup, createReducer, on, props } from '@ngrx/store';
import * as z from 'zod';

/** A pair of channels of the output device, from 0; null to go with the main pair. */
const pairSchema = z.number().int().min(0).max(31).nullable();

/** What a player prefers at this machine. */
export const preferencesSchema = z.object({
  /** What middle C is called; null as the show has it. */
  middleC: z
    .union([z.literal(3), z.literal(4), z.literal(5)])
    .nullable()
    .default(null),
  /** MIDI numbers beside the names of notes. */
  noteNumbers: z.boolean().default(false),
  accidentals: z.enum(['usual', 'sharps', 'flats']).default('usual'),
  /** The channel that new layers listen to; null for any. */
  channel: z.number().int().min(1).max(16).nullable().default(null),
  /** The browser's id of the output device; empty for the one that the machine uses. */
  outputDevice: z.string().max(500).default(''),
  latency: z.enum(['interactive', 'balanced', 'playback']).default('interactive'),
  pairs: z
    .object({
      main: z.number().int().min(0).max(31),
      second: pairSchema,
      third: pairSchema,
      fourth: pairSchema,
    })
    .default({ main: 0, second: null, third: null, fourth: null }),
});
export type Preferences = z.infer<typeof preferencesSchema>;

/** Where nobody has said anything. */
export const USUAL_PREFERENCES: Preferences = preferencesSchema.parse({});

/** Where the browser keeps them. */
const KEY = 'pentachord preferences';

/** As they were chosen last; what cannot be read is as usual. */
export function rememberedPreferences(): Preferences {
  try {
    const kept: unknown = JSON.parse(localStorage.getItem(KEY) ?? '{}');
    return preferencesSchema.safeParse(kept).data ?? USUAL_PREFERENCES;
  } catch {
    return USUAL_PREFERENCES;
  }
}

/** Remembers them; a browser that keeps nothing begins as usual next time. */
export function rememberPreferences(preferences: Preferences): void {
  try {
    localStorage.setItem(KEY, JSON.stringify(preferences));
  } catch {
    // They hold as long as the page is open.
  }
}

export const preferences = createActionGroup({
  source: 'Preferences',
  events: {
    Changed: props<{ changes: Partial<Preferences> }>(),
    Remembered: props<{ preferences: Preferences }>(),
  },
});

export const preferencesReducer = createReducer<Preferences>(
  USUAL_PREFERENCES,
  on(preferences.remembered, (_state, { preferences: remembered }) => remembered),
  on(preferences.changed, (state, { changes }) => ({ ...state, ...changes })),
);
