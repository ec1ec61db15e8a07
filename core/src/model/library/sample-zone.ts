import * as z from 'zod';
import { keyRangeSchema, velocityRangeSchema } from '../../range/range.js';
import { idSchema, sevenBitSchema } from '../identity.js';
import { LONGEST_RECORDING, loopSchema, recordingIdSchema } from './recording.js';

/** Zones of one sound at most. */
export const MOST_ZONES = 1024;
/** Seconds of one part of an envelope at most. */
export const LONGEST_PART = 60;
/** Sustain level that counts as silence, dB. */
export const SUSTAIN_SILENT = -60;
const place = z.number().min(0).max(LONGEST_RECORDING);
const part = z.number().min(0).max(LONGEST_PART);

/** A recording and the keys and velocities that it answers; what it plays of it, and how. */
export const sampleZoneSchema = z
  .strictObject({
    id: idSchema,
    recordingId: recordingIdSchema,
    /** The key at which it sounds at its own pitch. */
    root: sevenBitSchema,
    /** Fine tuning, cents: what the recording is moved by. */
    cents: z.number().min(-100).max(100),
    /** dB. */
    gain: z.number().min(-60).max(24),
    /** −1 left … 1 right. */
    pan: z.number().min(-1).max(1),
    keys: keyRangeSchema,
    velocities: velocityRangeSchema,
    /** Cents by which each key further moves the pitch: 100 full, 0 none. */
    tracking: z.number().min(-200).max(200),
    /** Plays to its end, whenever the key is let go. */
    oneShot: z.boolean(),
    /** Seconds from silence to full, at full, from there to the sustain level, and from letting go until it has fallen by 60 dB. */
    attack: part,
    hold: part,
    decay: part,
    /** dB; −60 is silence. */
    sustain: z.number().min(SUSTAIN_SILENT).max(0),
    release: part,
    /** What is played of it, seconds; an end of null is that of the recording. */
    start: place,
    end: place.nullable(),
    loop: loopSchema.nullable(),
    reverse: z.boolean(),
    /** Cuts off others of the same group, 1–255; 0 for none. */
    choke: z.number().int().min(0).max(255),
    /** Its place among zones that take turns, from 1; 0 when it takes none. */
    turn: z.number().int().min(0).max(128),
    /** The piece of a kit that it is, by its key in the General MIDI percussion map; null for none, or nobody knows. */
    piece: sevenBitSchema.nullable(),
  })
  .refine(({ start, end }) => end === null || start < end, {
    path: ['end'],
    message: 'it ends before it starts',
  });
export type SampleZone = z.infer<typeof sampleZoneSchema>;

/** How a zone plays its recording where nobody has said anything else. */
export const PLAIN_ZONE: Omit<SampleZone, 'id' | 'recordingId' | 'root' | 'keys' | 'velocities'> = {
  ...{ cents: 0, gain: 0, pan: 0, tracking: 100, oneShot: false },
  ...{ attack: 0.001, hold: 0, decay: 0, sustain: 0, release: 0.3 },
  ...{ start: 0, end: null, loop: null, reverse: false, choke: 0, turn: 0, piece: null },
};
