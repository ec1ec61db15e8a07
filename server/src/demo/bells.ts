import { readFileSync } from 'node:fs';
import { dirname, join, resolve } from 'node:path';
import { Readable } from 'node:stream';
import { fileURLToPath } from 'node:url';
import { asInstrument, conventionOf, proposedDynamics } from '@pentachord/core/mapping';
import { recordingListSchema, type Recording, type SampledSound } from '@pentachord/core/model';
import type { RecordingFiles } from '../store/recording-files.js';
import type { Store } from '../store/store.js';

/** Where the WAV files of the demo lie, with what was heard in them; `npm run demo-bells` makes them. */
const FOLDER = resolve(dirname(fileURLToPath(import.meta.url)), '../../demo-recordings');

/** The keys that the bells are laid out over. */
const KEYS = { low: 48, high: 105 };

/** The recordings of the demo’s bells. */
export function bellRecordings(): Recording[] {
  return recordingListSchema.parse(JSON.parse(readFileSync(join(FOLDER, 'known.json'), 'utf8')));
}

/** The demo’s bells, laid out as the program lays out what is dropped on it. */
export function nightBells(recordings = bellRecordings()): SampledSound {
  let zone = 0;
  const laying = {
    recordings,
    middleC: conventionOf(recordings)?.middleC ?? (4 as const),
    newId: () => `night-bell-${++zone}`,
  };
  const { zones } = asInstrument(laying, KEYS, 'crossfaded');
  const known = Object.fromEntries(recordings.map((one) => [one.id, one]));
  return {
    ...{ id: 'demo-night-bells', name: 'Night bells', category: 'mallets and bells' },
    ...{ tags: ['recordings', 'struck', 'bright'], favourite: false },
    ...{ lowestNote: KEYS.low, highestNote: KEYS.high },
    origin: { kind: 'recordings', dynamics: proposedDynamics(zones, known), zones },
  };
}

/** Brings the recordings: what is known of them, and their bytes where there is a place for those. */
export async function bringBells(store: Store, files: RecordingFiles | null): Promise<void> {
  const recordings = bellRecordings();
  if (files)
    for (const { id, name } of recordings)
      if (!files.file(id)) await files.take(id, Readable.from([readFileSync(join(FOLDER, name))]));
  await store.recordings.enter(recordings);
}
