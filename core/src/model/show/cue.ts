import * as z from 'zod';
import {
  channelSchema,
  controllerNumberSchema,
  idSchema,
  nameSchema,
  sevenBitSchema,
  textSchema,
} from '../identity.js';
import { bandMovesSchema } from '../patch/band-settings.js';
import { MOST_CHOICES } from '../patch/chooser.js';
import { levelSchema, sendsSchema } from '../patch/layer.js';
import { bankSchema } from '../library/sound.js';
import { placeSchema } from '../rig/place.js';
import { songLengthSchema, tempoSchema } from './song.js';

/** The most layers that a cue may balance, those that are gone included. */
const MOST_BALANCED = 128;

/** What a cue does to one layer; what it leaves out stays as the patch has it. */
export const cueLevelSchema = z.strictObject({
  level: levelSchema.optional(),
  muted: z.boolean().optional(),
  /** Whether the raised floor of touch is on. */
  lift: z.boolean().optional(),
  /** How much goes to the shared effects, dB. */
  sends: sendsSchema.partial().optional(),
});
export type CueLevel = z.infer<typeof cueLevelSchema>;

/** A program that a cue chooses on an instrument that no layer plays. */
export const programOutSchema = z.strictObject({
  /** The sound module or keyboard that is told. */
  place: placeSchema,
  channel: channelSchema,
  /** Chosen before the program; null to stay in the bank that it is in. */
  bank: bankSchema.nullable(),
  program: sevenBitSchema,
});
export type ProgramOut = z.infer<typeof programOutSchema>;
/** The most programs that a cue chooses. */
export const MOST_PROGRAMS_OUT = 16;

/** A place in a song at which a patch is recalled, at some balance, over some seconds. */
export const cueSchema = z.strictObject({
  id: idSchema,
  songId: idSchema,
  position: z.number().int().min(0),
  name: nameSchema,
  patchId: idSchema,
  /** Where on the song's own time it is expected, in seconds; never before the cues that stand before it. */
  atSeconds: songLengthSchema,
  /** By layer id. A layer that is gone is passed over, so that undoing its removal brings its balance back. */
  balance: z
    .record(idSchema, cueLevelSchema)
    .refine(
      (balance) => Object.keys(balance).length <= MOST_BALANCED,
      `a cue balances at most ${MOST_BALANCED} layers`,
    ),
  /** Treatments that it switches, by id; one that is gone is passed over. */
  treatments: z
    .record(idSchema, z.boolean())
    .refine((all) => Object.keys(all).length <= 64, 'a cue switches at most 64 treatments'),
  /** What choosers pick, by their id, from 0; one that is gone is passed over. */
  choices: z
    .record(
      idSchema,
      z
        .number()
        .int()
        .min(0)
        .max(MOST_CHOICES - 1),
    )
    .refine((all) => Object.keys(all).length <= 16, 'a cue picks for at most 16 choosers'),
  /** Where it puts settings of accompanists, by their id; one that is gone is passed over. */
  band: z
    .record(idSchema, bandMovesSchema)
    .refine((all) => Object.keys(all).length <= 64, 'a cue moves at most 64 accompanists')
    .default({}),
  /** Where controllers are put on recall. */
  controllers: z
    .array(z.strictObject({ controller: controllerNumberSchema, value: sevenBitSchema }))
    .max(32),
  /** Programs that are chosen elsewhere on recall. */
  programs: z.array(programOutSchema).max(MOST_PROGRAMS_OUT).default([]),
  /** Beats per minute, or null for the song's. */
  tempo: tempoSchema.nullable(),
  /** Length of the glide in seconds, or null for the show's default. */
  fadeSeconds: z.number().min(0).max(60).nullable(),
  /** What the player wants to be told. */
  note: textSchema(500),
});
export type Cue = z.infer<typeof cueSchema>;
/** A controller position that a cue brings. */
export type ControllerPosition = Cue['controllers'][number];

/** A cue that recalls a patch as it is written. */
export function newCue(
  id: string,
  songId: string,
  position: number,
  name: string,
  patchId: string,
): Cue {
  return {
    id,
    songId,
    position,
    name,
    patchId,
    atSeconds: 0,
    balance: {},
    treatments: {},
    choices: {},
    band: {},
    controllers: [],
    programs: [],
    tempo: null,
    fadeSeconds: null,
    note: '',
  };
}
