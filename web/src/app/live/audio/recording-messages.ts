import type { MidiFile } from '@pentachord/core/exchange';
import { responseSchema } from '@pentachord/core/loudness';
import { metreSchema, recordingSchema, sampledOriginSchema } from '@pentachord/core/model';
import { musicalKeySchema } from '@pentachord/core/pitch';
import * as z from 'zod';
import {
  colouredSchema,
  loadedSoundSchema,
  playableSchema,
  recordedZoneSchema,
  shareSchema,
} from './sound-messages';

const bytesSchema = z.instanceof<typeof Uint8Array<ArrayBuffer>>(Uint8Array);

/** Lowest and highest sample of some hundred stretches by turns, −128…127: how a recording looks. */
const outlineSchema = z.instanceof<typeof Int8Array<ArrayBufferLike>>(Int8Array);

/** A MIDI file as it was read; its beats go on through the whole file. */
const midiFileSchema: z.ZodType<MidiFile> = z.strictObject({
  tracks: z.array(
    z.strictObject({
      name: z.string(),
      channel: z.number().int().min(1).max(16),
      notes: z.array(
        z.strictObject({
          beat: z.number().min(0),
          length: z.number().min(0),
          key: z.number().int().min(0).max(127),
          velocity: z.number().int().min(1).max(127),
        }),
      ),
      programs: z.array(z.strictObject({ beat: z.number(), program: z.number().int() })),
    }),
  ),
  tempos: z.array(z.strictObject({ beat: z.number(), tempo: z.number() })),
  metres: z.array(z.strictObject({ beat: z.number(), metre: metreSchema })),
  keys: z.array(z.strictObject({ beat: z.number(), key: musicalKeySchema })),
  doubts: z.array(z.string()),
});

/** What workers are asked for that know recordings. */
export const recordingRequestSchema = z.discriminatedUnion('kind', [
  /** A file is to be read and listened to. */
  z.strictObject({
    kind: z.literal('listen'),
    name: z.string(),
    file: z.union([z.instanceof(Blob), bytesSchema]),
  }),
  /** A MIDI file is to be read. */
  z.strictObject({ kind: z.literal('readMidi'), file: z.union([z.instanceof(Blob), bytesSchema]) }),
  /** What lies in an archive, and one file of it. */
  z.strictObject({ kind: z.literal('unpack'), file: z.instanceof(Blob) }),
  /** The sound of a recording is wanted. */
  z.strictObject({ kind: z.literal('decode'), recordingId: z.string() }),
  /** How a recording looks, without keeping it. */
  z.strictObject({ kind: z.literal('look'), recordingId: z.string() }),
  /** A sound is to be made of recordings. */
  z.strictObject({
    kind: z.literal('lay'),
    origin: sampledOriginSchema,
    audio: z.array(z.object({ id: z.string(), ...playableSchema.shape })),
  }),
  /** How loud a sound of recordings is, and what one voice of it costs. */
  z.strictObject({
    kind: z.literal('know'),
    sound: loadedSoundSchema,
    reference: z.number().int(),
    /** In another colour than its own; then its cost is not asked for. */
    colour: colouredSchema.shape.colour.nullable(),
  }),
  /** WAV files of recordings, each with what its zone says, are to be packed. */
  z.strictObject({
    kind: z.literal('pack'),
    origin: sampledOriginSchema,
    recordings: z.array(recordingSchema),
  }),
]);
export type RecordingRequest = z.infer<typeof recordingRequestSchema>;

/** What they answer. */
export const recordingAnswerSchema = z.discriminatedUnion('kind', [
  z.strictObject({
    kind: z.literal('listened'),
    recording: recordingSchema,
    bytes: bytesSchema,
    /** What is worth knowing of it though it was taken. */
    word: z.string().nullable(),
    outline: outlineSchema,
  }),
  z.strictObject({ kind: z.literal('midiRead'), midi: midiFileSchema }),
  z.strictObject({
    kind: z.literal('unpacked'),
    files: z.array(
      z.strictObject({ name: z.string(), bytes: bytesSchema.nullable(), problem: z.string() }),
    ),
  }),
  z.strictObject({
    kind: z.literal('decoded'),
    /** Whether this browser keeps it, so that it plays without the server. */
    isKept: z.boolean(),
    audio: playableSchema,
  }),
  z.strictObject({ kind: z.literal('looked'), outline: outlineSchema }),
  z.strictObject({ kind: z.literal('laid'), zones: z.array(recordedZoneSchema) }),
  z.strictObject({
    kind: z.literal('known'),
    response: responseSchema,
    voiceCost: shareSchema,
  }),
  z.strictObject({ kind: z.literal('packed'), archive: bytesSchema }),
  /** It cannot be done, and why. */
  z.strictObject({ kind: z.literal('refused'), problem: z.string() }),
]);
export type RecordingAnswer = z.infer<typeof recordingAnswerSchema>;

/** What each request is answered with. */
interface Answers {
  listen: 'listened';
  readMidi: 'midiRead';
  unpack: 'unpacked';
  decode: 'decoded';
  look: 'looked';
  lay: 'laid';
  know: 'known';
  pack: 'packed';
}
export type RequestKind = RecordingRequest['kind'];
export type AnswerTo<K extends RequestKind> = Extract<RecordingAnswer, { kind: Answers[K] }>;
