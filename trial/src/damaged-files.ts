import {
  bytesOfTake,
  CannotRead,
  midiAsItCameIn,
  midiAsItSounded,
  patternsOfMidi,
  readMidiFile,
  readTake,
  recordingOf,
  takeOfMidi,
  writeMidiFile,
  writeWav,
  type MidiTakeSources,
} from '@pentachord/core/exchange';
import { messagesIn, soundedIn, stretchOf, strokesOf } from '@pentachord/core/logbook';
import { patternSchema, type Keyboard } from '@pentachord/core/model';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';
import { COMPRESSED } from './small-files.js';

/** Milliseconds beyond which a reader hangs. */
const HANGS = 1000;
const ID = '0'.repeat(64);

/** A short note as a file of each kind that is read. */
function goodFiles(): { name: string; bytes: Uint8Array }[] {
  const samples = Float32Array.from({ length: 2400 }, (_, i) => Math.sin(i / 9) / 2);
  const wav = (bits: 16 | 24 | 32) =>
    writeWav({ channels: [samples, samples], sampleRate: 48_000, bits });
  return [
    { name: 'a.wav', bytes: wav(16) },
    { name: 'b.wav', bytes: wav(24) },
    { name: 'c.wav', bytes: wav(32) },
    { name: 'd.mid', bytes: goodMidi() },
    { name: 'e.take', bytes: bytesOfTake(takeOfMidi(goodMidi(), SOURCES).whole) },
    ...Object.entries(COMPRESSED).map(([name, text]) => ({
      name,
      bytes: new Uint8Array(Buffer.from(text, 'base64')),
    })),
  ];
}

const keyboard: Keyboard = {
  ...{ kind: 'keyboard', id: 'upper', rigId: 'rig', position: 0, name: 'Upper', port: 'a port' },
  ...{ place: 'keys1', at: null, alsoAt: [], heardAs: null, channel: 1, octaveShift: 0 },
  ...{ settings: { known: null, wanted: {} }, lowestKey: 21, highestKey: 108, touch: EVEN_TOUCH },
};
const nowhere = { entryId: null, songId: null, cueId: null, patchId: null };
const SOURCES: MidiTakeSources = {
  about: {
    ...{ id: 'take', name: 'A take', where: 'desk', began: 0, showId: null, show: '' },
  },
  ...{ devices: [keyboard], steps: [], first: { ...nowhere, song: '', cue: '', patch: '' } },
};

/** Two tracks with all that a file says about the music. */
function goodMidi(): Uint8Array {
  const notes = Array.from({ length: 40 }, (_, i) => ({
    ...{ beat: i / 4, length: 0.5, key: 40 + (i % 12), velocity: 60 + i },
  }));
  const key = { tonic: 5, spelling: 'usual', mode: 'major' } as const;
  return writeMidiFile({
    tracks: [
      { name: 'Keel', channel: 1, notes, programs: [{ beat: 0, program: 33 }] },
      { name: 'Kit', channel: 10, notes, programs: [] },
    ],
    tempos: [{ beat: 0, tempo: 87 }],
    metres: [{ beat: 0, metre: { beats: 3, unit: 4 } }],
    keys: [{ beat: 0, key }],
  });
}

/** Reads a file of any kind as it is brought in. */
async function read(name: string, bytes: Uint8Array): Promise<void> {
  if (name.endsWith('.take')) readAsTake(bytes);
  else if (!name.endsWith('.mid')) await recordingOf(bytes, name, ID);
  else {
    for (const { pattern } of patternsOfMidi(readMidiFile(bytes), name, (at) => `track-${at}`))
      patternSchema.parse(pattern);
    readAsTake(bytesOfTake(takeOfMidi(bytes, SOURCES).whole));
  }
}

/** Reads a take, and makes of it all that can be made. */
function readAsTake(bytes: Uint8Array): void {
  const whole = readTake(bytes);
  if (typeof whole === 'string') throw new CannotRead(whole);
  const { take, roll } = whole;
  strokesOf(messagesIn(roll), take.seconds);
  soundedIn(roll, take.seconds);
  for (const one of [whole, stretchOf(whole, take.seconds / 3, take.seconds / 2)]) {
    midiAsItCameIn(one);
    midiAsItSounded(one);
  }
}

/** Gives damaged files to every reader: each is read, or refused with the reason, and soon. */
export async function readDamagedFiles(each: number, seed = 27): Promise<Finding[]> {
  const chance = new Chance(seed);
  const mistakes = new Map<string, number>();
  let tried = 0;
  let good = 0;
  let slowest = 0;
  global.gc?.();
  const before = process.memoryUsage().rss;
  for (const { name, bytes } of goodFiles())
    for (let i = 0; i < each; i++) {
      const broken = damaged(bytes, chance);
      const begun = performance.now();
      tried++;
      try {
        await read(name, broken);
        good++;
      } catch (error) {
        if (!(error instanceof CannotRead)) {
          const words = `${name}: ${error instanceof Error ? error.message.slice(0, 80) : String(error)}`;
          mistakes.set(words, (mistakes.get(words) ?? 0) + 1);
        }
      }
      slowest = Math.max(slowest, performance.now() - begun);
    }
  const grown = (process.memoryUsage().rss - before) / 1024 ** 2;
  const found = [...mistakes].map(([words, count]) => `${words} (${count})`).join('; ');
  return [
    {
      what: `${tried.toLocaleString('en')} damaged audio and MIDI files, ${good.toLocaleString('en')} of them good all the same`,
      found: found || 'each was read or refused with the reason',
      promised: 'no other error',
      holds: mistakes.size === 0,
    },
    {
      what: 'the longest of them',
      found: `${Math.round(slowest)} ms`,
      promised: `${HANGS} ms`,
      holds: slowest < HANGS,
    },
    {
      what: 'memory grown by them',
      found: `${Math.round(grown)} MB`,
      promised: 'less than 512 MB',
      holds: grown < 512,
    },
  ];
}

/** A file with some bytes changed, most of them in its head, cut, or with a part put in twice. */
function damaged(bytes: Uint8Array, chance: Chance): Uint8Array {
  let broken = bytes.slice();
  for (let i = chance.whole(1, 8); i > 0; i--) {
    const at = chance.percent(60)
      ? chance.whole(0, Math.min(100, broken.length - 1))
      : chance.whole(0, broken.length - 1);
    broken[at] = chance.of([0, 1, 127, 128, 255, chance.whole(0, 255)]);
  }
  if (chance.percent(15)) broken = broken.slice(0, chance.whole(0, broken.length));
  if (chance.percent(5)) {
    const from = chance.whole(0, Math.max(0, broken.length - 1));
    broken = new Uint8Array([...broken.subarray(0, from), ...broken.subarray(from >> 1)]);
  }
  return broken;
}
