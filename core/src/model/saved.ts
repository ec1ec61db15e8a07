import * as z from 'zod';
import { cueSchema } from './show/cue.js';
import { revisionSchema } from './identity.js';
import { keepsakeSchema } from './library/keepsake.js';
import { patchSchema } from './patch/patch.js';
import { deviceSchema, rigSchema } from './rig/rig.js';
import { showSchema } from './show/show.js';
import { songSchema } from './show/song.js';
import { patternSchema } from './library/pattern.js';
import { soundSchema } from './library/sound.js';

/** A thing together with how often it has been saved. Every save names the revision it was made from. */
export interface Saved<T> {
  revision: number;
  value: T;
}

function saved<T>(value: z.ZodType<T>) {
  return z.strictObject({ revision: revisionSchema, value });
}

/** The kinds of things that are saved one by one, under `/api/<kind>/<id>`, each with its schema. */
export const savedSchemas = {
  rigs: saved(rigSchema),
  shows: saved(showSchema),
  devices: saved(deviceSchema),
  songs: saved(songSchema),
  patches: saved(patchSchema),
  cues: saved(cueSchema),
  sounds: saved(soundSchema),
  patterns: saved(patternSchema),
  keepsakes: saved(keepsakeSchema),
} as const;
export type Kind = keyof typeof savedSchemas;
export const KINDS = Object.keys(savedSchemas) as Kind[];

/**
 * What one of a kind is called, and when it is saved: behind those that its things point to, which are there before them and go
 * after them. All that goes through every kind reads these two tables: a new kind is a line in each, and its tables in the server.
 */
const TABLE: Record<Kind, { name: string; rank: number }> = {
  rigs: { name: 'rig', rank: 0 },
  shows: { name: 'show', rank: 6 },
  devices: { name: 'device', rank: 1 },
  songs: { name: 'song', rank: 3 },
  patches: { name: 'patch', rank: 4 },
  cues: { name: 'cue', rank: 5 },
  sounds: { name: 'sound', rank: 2 },
  patterns: { name: 'pattern', rank: 2 },
  keepsakes: { name: 'keepsake', rank: 7 },
};

/** Something for every kind; that `make` gives what `T` says of its kind is for the caller to see to. */
export function ofEveryKind<T extends Record<Kind, unknown>>(make: (kind: Kind) => unknown): T {
  return Object.fromEntries(KINDS.map((kind) => [kind, make(kind)])) as T;
}

/** What one thing of a kind is called. */
export function kindInWords(kind: Kind): string {
  return TABLE[kind].name;
}

/** Compares two changes of things, `null` where one is removed, so that each comes when everything that it needs is there. */
export function inSavingOrder(
  one: { kind: Kind; value: unknown },
  other: { kind: Kind; value: unknown },
): number {
  return rankOf(one) - rankOf(other);
}

function rankOf({ kind, value }: { kind: Kind; value: unknown }): number {
  const { rank } = TABLE[kind];
  return value === null ? 2 * KINDS.length - rank : rank;
}

/** The type of a saved kind's value. */
export type ValueOf<K extends Kind> = z.infer<(typeof savedSchemas)[K]>['value'];

/** The repertoire, and every show and rig. */
export const repertoireSchema = z.strictObject({
  /** Name of the database, made with it. */
  database: z.string().min(1).max(64),
  rigs: z.array(savedSchemas.rigs),
  shows: z.array(savedSchemas.shows),
  devices: z.array(savedSchemas.devices),
  songs: z.array(savedSchemas.songs),
  patches: z.array(savedSchemas.patches),
  cues: z.array(savedSchemas.cues),
});
export type Repertoire = z.infer<typeof repertoireSchema>;

export const soundListSchema = z.array(savedSchemas.sounds);
export const patternListSchema = z.array(savedSchemas.patterns);
export const keepsakeListSchema = z.array(savedSchemas.keepsakes);

/** What the server answers when it cannot do what was asked. */
export const faultSchema = z.strictObject({
  error: z.strictObject({
    code: z.enum([
      'invalid',
      'not-found',
      'stale',
      'in-use',
      'too-large',
      'internal',
      /** Asked from a page of another origin. */
      'foreign',
      /** Meant for another database than the one that is open. */
      'other-database',
      /** The disk is full: the same can be tried again when there is room. */
      'no-room',
      /** The disk can only be read. */
      'unwritable',
      /** There is no database open. */
      'unavailable',
    ]),
    /** Plain words: what happened, what is safe, what to do. */
    message: z.string(),
    /** Where in the body the fault lies, such as `layers[2].keys.low`. */
    path: z.string().optional(),
    /** For `stale`: the present version, or null when it is gone. */
    present: z.unknown().optional(),
  }),
});
export type Fault = z.infer<typeof faultSchema>;

/** The answer of the health check. */
export const healthSchema = z.strictObject({
  status: z.literal('ok'),
  version: z.string(),
  schemaVersion: z.number().int(),
  /** Name of the database that is open. */
  database: z.string(),
});

/** The header in which a request that changes something names the database it is meant for. */
export const DATABASE_HEADER = 'Pentachord-Database';

/** The path of an issue as a person reads it: `layers[2].keys.low`. */
export function pathInWords(path: readonly PropertyKey[]): string {
  return path
    .map((step, index) =>
      typeof step === 'number' ? `[${step}]` : (index === 0 ? '' : '.') + String(step),
    )
    .join('');
}
