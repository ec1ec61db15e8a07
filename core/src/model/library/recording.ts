import * as z from 'zod';
import { sevenBitSchema, textSchema } from '../identity.js';

/** What a recording is known by: SHA-256 of the bytes of its file, in hexadecimal. */
export const recordingIdSchema = z
  .string()
  .regex(/^[0-9a-f]{64}$/, 'a recording is known by the 64 digits of its SHA-256');
export type RecordingId = z.infer<typeof recordingIdSchema>;

/** The kinds of audio files that are read. */
export const recordingFormatSchema = z.enum(['wav', 'aiff', 'flac', 'mp3', 'ogg']);
export type RecordingFormat = z.infer<typeof recordingFormatSchema>;

/** The most bytes of one file, and seconds of one recording. */
export const MOST_RECORDING_BYTES = 1024 * 1024 * 1024;
export const LONGEST_RECORDING = 15 * 60;
const seconds = z.number().min(0).max(LONGEST_RECORDING);
const centsSchema = z.number().min(-50).max(50);

/** A loop, in seconds. What lies before its end goes over into what lies before its start, over the crossfade. */
export const loopSchema = z
  .strictObject({ start: seconds, end: seconds, crossfade: z.number().min(0).max(30) })
  .refine(({ start, end }) => start < end, {
    path: ['end'],
    message: 'a loop ends after it starts',
  });
export type Loop = z.infer<typeof loopSchema>;

/** What was heard in a recording. */
export const heardSchema = z.strictObject({
  pitch: z
    .strictObject({
      key: z.number().int().min(0).max(140),
      cents: centsSchema,
      confidence: z.number().min(0).max(1),
    })
    .nullable(),
  /** Integrated loudness of what sounds, LUFS, and that of its loudest 400 ms; −120 for silence. */
  lufs: z.number().min(-120).max(40),
  attackLufs: z.number().min(-120).max(40),
  start: seconds,
  end: seconds,
  loop: z
    .strictObject({
      start: seconds,
      end: seconds,
      crossfade: z.number().min(0).max(30),
      /** How far the two sides of its seam differ, dB. */
      seam: z.number(),
    })
    .nullable(),
  /** Highest sample, 1 = full scale. */
  peak: z.number().min(0),
  /** Both sides are the same, or there is one. */
  isMono: z.boolean(),
  /** Its colour: level of each octave band from 62 Hz to 16 kHz against the whole, dB. */
  colour: z.array(z.number()).max(16),
});
export type HeardInRecording = z.infer<typeof heardSchema>;

/** A note as a file names it, before anybody knows which octave number middle C bears there. */
export const namedNoteSchema = z.strictObject({
  /** 0 = C … 11 = B; sharps and flats counted in, so that C♭ is −1. */
  step: z.number().int().min(-2).max(13),
  octave: z.number().int().min(-2).max(10),
});
export type NamedNote = z.infer<typeof namedNoteSchema>;

/** What a file says of itself, by its chunks and its name. What it does not say is null. */
export const claimsSchema = z.strictObject({
  /** Root key and tuning as a chunk gives them, MIDI and cents. */
  root: sevenBitSchema.nullable(),
  cents: z.number().min(-100).max(100).nullable(),
  keys: z.strictObject({ low: sevenBitSchema, high: sevenBitSchema }).nullable(),
  velocities: z
    .strictObject({ low: z.number().int().min(1).max(127), high: z.number().int().min(1).max(127) })
    .nullable(),
  gain: z.number().min(-127).max(127).nullable(),
  loop: loopSchema.nullable(),
  /** Cue points, seconds. */
  cues: z.array(seconds).max(256),
  /** The note that the name bears. */
  note: namedNoteSchema.nullable(),
  /** A number from 0 to 127 in the name that may be a key. */
  number: sevenBitSchema.nullable(),
  /** How hard it was played by the name, 0 softest … 1 hardest. */
  strength: z.number().min(0).max(1).nullable(),
  /** Which of several of the same note and strength it is, from 1. */
  turn: z.number().int().min(1).max(128).nullable(),
});
export type Claims = z.infer<typeof claimsSchema>;

/** An audio file on keys, and what is known of it. It never changes: other bytes are another recording. */
export const recordingSchema = z.strictObject({
  id: recordingIdSchema,
  /** Name of the file that it came from, without folders. */
  name: textSchema(200).min(1),
  format: recordingFormatSchema,
  bytes: z.number().int().min(1).max(MOST_RECORDING_BYTES),
  sampleRate: z.number().min(1000).max(384_000),
  channels: z.number().int().min(1).max(2),
  /** Bits of a sample, 32 for float. */
  bits: z.number().int().min(1).max(64),
  frames: z.number().int().min(1),
  heard: heardSchema,
  claims: claimsSchema,
});
export type Recording = z.infer<typeof recordingSchema>;

/** Nothing is claimed. */
export const NO_CLAIMS: Claims = {
  ...{ root: null, cents: null, keys: null, velocities: null, gain: null, loop: null, cues: [] },
  ...{ note: null, number: null, strength: null, turn: null },
};

/** Seconds that a recording lasts. */
export function secondsOf({
  frames,
  sampleRate,
}: Pick<Recording, 'frames' | 'sampleRate'>): number {
  return frames / sampleRate;
}

/** The name of a recording without the ending of its file. */
export function shortName({ name }: Pick<Recording, 'name'>): string {
  return name.replace(/\.[a-z0-9]{2,5}$/i, '');
}

/** How the recordings are kept: those that sounds need and that are not as they should be, and those that nothing needs. */
export const recordingKeepingSchema = z.strictObject({
  missing: z.array(
    z.strictObject({
      id: recordingIdSchema,
      /** Empty when nobody knows it any more. */
      name: z.string(),
      why: z.enum(['missing', 'damaged', 'unknown']),
      /** Names of the sounds that need it. */
      sounds: z.array(z.string()),
    }),
  ),
  unused: z.array(
    z.strictObject({ id: recordingIdSchema, name: z.string(), bytes: z.number().int().min(0) }),
  ),
  /** Bytes of all of them. */
  bytes: z.number().int().min(0),
});
export type RecordingKeeping = z.infer<typeof recordingKeepingSchema>;

/** All recordings that are known. */
export const recordingListSchema = z.array(recordingSchema);

/** Recordings that are to be cleared away, as far as nothing needs them. */
export const clearingSchema = z.strictObject({ ids: z.array(recordingIdSchema).max(100_000) });
