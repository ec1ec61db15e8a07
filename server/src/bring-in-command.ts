// npm run bring-in -- PATH…: takes audio files, MIDI files, folders and zip archives into the database. The running server is asked;
// where none runs, the folder is opened. One line of JSON a recording, or a track of a MIDI file, on standard output, and nothing
// else there.
import { createHash } from 'node:crypto';
import { readdirSync, readFileSync, statSync } from 'node:fs';
import { basename, dirname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { fileURLToPath } from 'node:url';
import {
  CannotRead,
  entriesOf,
  entryBytes,
  isArchive,
  isAudioName,
  isMidiFile,
  patternsOfMidi,
  readMidiFile,
  recordingOf,
} from '@pentachord/core/exchange';
import {
  faultSchema,
  MOST_RECORDING_BYTES,
  patternSchema,
  type Pattern,
  type Recording,
} from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { pino } from 'pino';
import { fillIn } from './demo/fill.js';
import { settingsFrom } from './settings.js';
import { DataFolder } from './store/data-folder.js';
import { CannotStart, inWords } from './store/folder.js';
import { FolderLock } from './store/folder-lock.js';

const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');
process.umask(0o077);

/** Where recordings and patterns go. */
interface Taker {
  take(recording: Recording, bytes: Uint8Array): Promise<'taken' | 'already'>;
  takePattern(pattern: Pattern): Promise<'taken' | 'already'>;
  close(): Promise<void>;
}

try {
  process.exitCode = await bringIn(process.argv.slice(2));
} catch (error) {
  console.error(error instanceof Error ? error.message : String(error));
  process.exitCode = error instanceof CannotStart ? 2 : 1;
}

async function bringIn(paths: readonly string[]): Promise<number> {
  if (paths.length === 0) {
    console.error(
      'npm run bring-in -- PATH…: audio or MIDI files, folders of them, or zip archives',
    );
    return 2;
  }
  const taker = await takerOf(settingsFrom(process.env, root));
  try {
    for (const path of paths)
      for await (const line of linesOf(resolve(process.env['INIT_CWD'] ?? '.', path), path, taker))
        process.stdout.write(`${JSON.stringify(line)}\n`);
  } finally {
    await taker.close();
  }
  // What was refused is told in its line: the command has done what it was asked for.
  return 0;
}

/** A track of a MIDI file that became a pattern. */
interface PatternLine {
  file: string;
  result: 'taken' | 'already' | 'refused';
  why?: string;
  /** 1–16. */
  channel: number;
  /** The id of the pattern. */
  pattern: string;
  name: string;
  category: string;
  /** Beats. */
  length: number;
  /** Beats a minute. */
  tempo: number;
  /** As on a chord sheet; null for none. */
  key: string | null;
  /** How many notes. */
  notes: number;
  /** What could not be read as it stands. */
  doubts: string[];
}

interface Line extends Found {
  file: string;
  result: 'taken' | 'already' | 'refused';
  why?: string;
}

/** What was heard, all of it null where nothing could be: MIDI key, cents, 0–1, LUFS, seconds. */
type Found = { root: number | null } & {
  [K in 'cents' | 'confidence' | 'lufs' | 'start' | 'end']: number | null;
} & { [K in 'loop' | 'claims']: object | null };

function refused(file: string, why: string): Line {
  const nothing: Found = {
    ...{ root: null, cents: null, confidence: null, lufs: null, start: null, end: null },
    ...{ loop: null, claims: null },
  };
  return { file, result: 'refused', why, ...nothing };
}

/** One line for each file that a path leads to. */
async function* linesOf(
  path: string,
  said: string,
  taker: Taker,
): AsyncIterable<Line | PatternLine> {
  let bytes: Uint8Array;
  try {
    const stats = statSync(path);
    if (stats.isDirectory()) {
      const names = readdirSync(path).sort((a, b) => a.localeCompare(b, 'en', { numeric: true }));
      for (const name of names) {
        const inside = join(path, name);
        // A folder holds other things too; what is named by itself is always answered for.
        if (statSync(inside).isDirectory() || isAudioName(name) || /\.(zip|midi?)$/i.test(name))
          yield* linesOf(inside, join(said, name), taker);
      }
      return;
    }
    if (!stats.isFile()) throw new CannotRead('it is no file');
    if (stats.size > MOST_RECORDING_BYTES)
      throw new CannotRead('it is larger than a recording can be');
    bytes = readFileSync(path);
  } catch (error) {
    yield refused(said, whyOf(error));
    return;
  }
  if (isMidiFile(bytes)) yield* linesOfMidi(bytes, said, taker);
  else if (isArchive(bytes)) yield* linesOfArchive(bytes, said, taker);
  else yield await lineOf(bytes, said, taker);
}

/** One line for each track of a MIDI file that holds notes: it becomes a pattern. */
async function* linesOfMidi(
  bytes: Uint8Array,
  file: string,
  taker: Taker,
): AsyncIterable<Line | PatternLine> {
  try {
    const read = readMidiFile(bytes);
    const id = createHash('sha256').update(bytes).digest('hex').slice(0, 32);
    const made = patternsOfMidi(
      read,
      basename(file).replace(/\.[^.]*$/, ''),
      (at) => `midi-${id}-${at + 1}`,
    );
    if (made.length === 0) throw new CannotRead('it holds no notes');
    for (const { pattern, channel, doubts } of made) {
      const { id: patternId, name, category, length, key, tempo, notes } = pattern;
      const about = {
        ...{ file, channel, pattern: patternId, name, category, length, tempo },
        ...{ key: key && musicalKeyName(key), notes: notes.length },
        doubts: [...read.doubts, ...doubts],
      };
      try {
        yield { ...about, result: await taker.takePattern(patternSchema.parse(pattern)) };
      } catch (error) {
        yield { ...about, result: 'refused', why: whyOf(error) };
      }
    }
  } catch (error) {
    yield refused(file, whyOf(error));
  }
}

async function* linesOfArchive(
  archive: Uint8Array,
  said: string,
  taker: Taker,
): AsyncIterable<Line> {
  try {
    for (const entry of entriesOf(archive)) {
      const file = `${said}/${entry.name}`;
      if (entry.problem) yield refused(file, entry.problem);
      else if (isAudioName(entry.name))
        yield await lineOf(() => entryBytes(archive, entry), file, taker);
    }
  } catch (error) {
    yield refused(said, whyOf(error));
  }
}

async function lineOf(
  from: Uint8Array | (() => Uint8Array),
  file: string,
  taker: Taker,
): Promise<Line> {
  try {
    const bytes = typeof from === 'function' ? from() : from;
    const id = createHash('sha256').update(bytes).digest('hex');
    const { recording, word } = await recordingOf(bytes, file, id);
    const result = await taker.take(recording, bytes);
    const { heard, claims } = recording;
    const { pitch, lufs, start, end, loop } = heard;
    const found = {
      root: pitch?.key ?? null,
      cents: pitch?.cents ?? 0,
      confidence: pitch?.confidence ?? 0,
      ...{ lufs, start, end, loop, claims },
    };
    return { file, result, ...(word === null ? {} : { why: word }), ...found };
  } catch (error) {
    return refused(file, whyOf(error));
  }
}

function whyOf(error: unknown): string {
  return error instanceof CannotRead ? error.message : inWords(error);
}

/** The running server, or the folder itself. */
async function takerOf({ data }: { data: string }): Promise<Taker> {
  const address = FolderLock.addressOfOther(data);
  if (address && (await answers(address))) return serverAt(address);
  const keeping = await DataFolder.open(data, { log: pino({ level: 'silent' }), fill: fillIn });
  const { recordings, store } = keeping;
  const { closed, readOnly } = keeping.state();
  if (!recordings || !store || readOnly) {
    await keeping.close();
    throw new CannotStart(readOnly ?? closed ?? 'The database cannot be opened.');
  }
  return {
    take: async (recording, bytes) => recordings.take(recording, Readable.from([bytes])),
    takePattern: async (value) => {
      if (await store.find('patterns', value.id)) return 'already';
      const outcome = await store.save('patterns', { revision: 0, value });
      if (outcome.kind !== 'done') throw new CannotRead('it could not be kept');
      return 'taken';
    },
    close: async () => keeping.close(),
  };
}

async function answers(address: string): Promise<boolean> {
  try {
    return (await fetch(`${address}/api/health`)).ok;
  } catch {
    return false;
  }
}

function serverAt(address: string): Taker {
  const at = (recording: Recording) => `${address}/api/recordings/${recording.id}`;
  return {
    take: async (recording, bytes) => {
      const known = await fetch(at(recording), {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(recording),
      });
      await sent(known);
      // Where its bytes are there already, that was all.
      if (known.status !== 202) return known.status === 201 ? 'taken' : 'already';
      await sent(
        await fetch(`${at(recording)}/bytes`, {
          method: 'PUT',
          headers: { 'Content-Type': 'application/octet-stream' },
          // Bytes of a file are never in shared memory.
          body: bytes as Uint8Array<ArrayBuffer>,
        }),
      );
      const entered = await fetch(at(recording), {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(recording),
      });
      await sent(entered);
      if (entered.status === 202) throw new CannotRead('its bytes did not stay; bring it in again');
      return entered.status === 201 ? 'taken' : 'already';
    },
    takePattern: async (value) => {
      const there = `${address}/api/patterns/${value.id}`;
      if ((await fetch(there)).ok) return 'already';
      const kept = await fetch(there, {
        method: 'PUT',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision: 0, value }),
      });
      await sent(kept);
      return 'taken';
    },
    close: async () => Promise.resolve(),
  };
}

async function sent(response: Response): Promise<void> {
  if (response.ok) return;
  const fault = faultSchema.safeParse(await response.json().catch(() => null));
  throw new CannotRead(
    fault.success ? fault.data.error.message : `the server answered ${response.status}`,
  );
}
