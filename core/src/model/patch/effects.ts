import * as z from 'zod';
import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';

const returnLevel = z.number().min(SILENCE_DB).max(LOUDEST_DB);

/** The effects that the layers of a patch share. Each costs once, however many layers send to it. */
export const effectsSchema = z.strictObject({
  /** A room. `level` is how loud it comes back, dB. */
  reverb: z.strictObject({ level: returnLevel }),
  /** Echoes `beats` apart (of the song’s tempo); each is `feedback` (0–0.9) of the one before. */
  delay: z.strictObject({
    level: returnLevel,
    beats: z.number().min(0.125).max(4),
    feedback: z.number().min(0).max(0.9),
  }),
  /** Voices a little out of tune: how fast they move, Hz, and how far, 0–1. */
  chorus: z.strictObject({
    level: returnLevel,
    rate: z.number().min(0.05).max(8),
    depth: z.number().min(0).max(1),
  }),
});
export type Effects = z.infer<typeof effectsSchema>;
export type EffectName = keyof Effects;
export const EFFECT_NAMES = ['reverb', 'delay', 'chorus'] as const;

/** As a patch starts out. */
export const USUAL_EFFECTS: Effects = {
  reverb: { level: 0 },
  delay: { level: 0, beats: 0.75, feedback: 0.35 },
  chorus: { level: 0, rate: 0.6, depth: 0.5 },
};
