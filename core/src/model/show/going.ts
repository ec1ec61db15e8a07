import * as z from 'zod';
import { textSchema } from '../identity.js';

const portSchema = textSchema(120).min(1);

/** Where the click is heard: on both sides, on one, or on a pair of outputs of its own. */
export const CLICK_OUTPUTS = ['both', 'left', 'right', '3-4', '5-6', '7-8'] as const;
export type ClickOutput = (typeof CLICK_OUTPUTS)[number];

/** What keeps time in a show, and who is told. */
export const showClockSchema = z.strictObject({
  /** The port whose MIDI clock is followed; null for a clock of our own. */
  leader: portSchema.nullable(),
  /** Ports that are sent MIDI clock. */
  followers: z.array(portSchema).max(16),
  countInBars: z.number().int().min(0).max(4),
  /** The metronome by sound; its light is always there. */
  click: z.strictObject({
    on: z.boolean(),
    output: z.enum(CLICK_OUTPUTS),
    /** dB. */
    level: z.number().min(-60).max(6),
  }),
});
export type ShowClockSettings = z.infer<typeof showClockSchema>;

/** How a show is gone through. */
export const goingSchema = z.strictObject({
  /** Seconds for which a control has to rest before it is heard again. */
  guardSeconds: z.number().min(0).max(2),
  /** What comes after the last step. */
  atEnd: z.enum(['stop', 'wrap']),
  clock: showClockSchema,
});
export type Going = z.infer<typeof goingSchema>;

/** How a new show is gone through. */
export const USUAL_GOING: Going = {
  guardSeconds: 0.15,
  atEnd: 'stop',
  clock: {
    leader: null,
    followers: [],
    countInBars: 1,
    click: { on: false, output: 'both', level: -12 },
  },
};
