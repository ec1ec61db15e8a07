import '../../no-eval';
import { measureVoiceCost } from '@pentachord/core/cost';
import {
  archiveOf,
  entriesOf,
  entryBytes,
  isAudioName,
  readAudio,
  readMidiFile,
  recordingOf,
  writeWav,
} from '@pentachord/core/exchange';
import { measureResponse } from '@pentachord/core/loudness';
import { loadedSound, playableAudio } from '@pentachord/core/mapping';
import { shortName } from '@pentachord/core/model';
import { contains } from '@pentachord/core/range';
import { outlineOf } from './outline';
import { hashOf, RecordingCache } from './recording-cache';
import {
  recordingRequestSchema,
  type RecordingAnswer,
  type RecordingRequest,
} from './recording-messages';

// This scope is a worker's; the compiler sees it beside pages and would take `self` for a window.
const scope = globalThis as unknown as {
  postMessage(message: RecordingAnswer): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<unknown>) => void): void;
};
const cache = new RecordingCache();
const sharedRoom = (bytes: number) => new SharedArrayBuffer(bytes);

type Of<K extends RecordingRequest['kind']> = Extract<RecordingRequest, { kind: K }>;

scope.addEventListener('message', ({ data }) => {
  void answer(data).then((answered) => scope.postMessage(answered));
});

async function answer(data: unknown): Promise<RecordingAnswer> {
  try {
    const request = recordingRequestSchema.parse(data);
    switch (request.kind) {
      case 'listen':
        return await listen(request);
      case 'readMidi':
        return { kind: 'midiRead', midi: readMidiFile(await bytesOf(request.file)) };
      case 'unpack':
        return unpack(await bytesOf(request.file));
      case 'decode':
        return await decode(request);
      case 'look':
        return await look(request);
      case 'lay':
        return lay(request);
      case 'know':
        return know(request);
      case 'pack':
        return await pack(request);
    }
  } catch (error) {
    const problem = error instanceof Error ? error.message : String(error);
    return { kind: 'refused', problem };
  }
}

async function bytesOf(file: Blob | Uint8Array<ArrayBuffer>): Promise<Uint8Array<ArrayBuffer>> {
  return file instanceof Blob ? new Uint8Array(await file.arrayBuffer()) : file;
}

async function listen({ name, file }: Of<'listen'>): Promise<RecordingAnswer> {
  const bytes = await bytesOf(file);
  const { recording, audio, word } = await recordingOf(bytes, name, await hashOf(bytes));
  const outline = outlineOf(audio.channels[0]);
  return { kind: 'listened', recording, bytes, word, outline };
}

/** The audio files of an archive; what is refused stands beside them with the reason. */
function unpack(archive: Uint8Array): RecordingAnswer {
  const files = entriesOf(archive)
    .filter(({ name, problem }) => problem !== null || isAudioName(name))
    .map((entry) => {
      const { name, problem } = entry;
      if (problem) return { name, bytes: null, problem };
      try {
        return { name, bytes: new Uint8Array(entryBytes(archive, entry)), problem: '' };
      } catch (error) {
        return {
          name,
          bytes: null,
          problem: error instanceof Error ? error.message : String(error),
        };
      }
    });
  return { kind: 'unpacked', files };
}

async function decode({ recordingId }: Of<'decode'>): Promise<RecordingAnswer> {
  const { bytes, isKept } = await cache.find(recordingId);
  return { kind: 'decoded', isKept, audio: playableAudio(await readAudio(bytes, ''), sharedRoom) };
}

async function look({ recordingId }: Of<'look'>): Promise<RecordingAnswer> {
  const { bytes } = await cache.find(recordingId);
  const { channels } = await readAudio(bytes, '');
  return { kind: 'looked', outline: outlineOf(channels[0]) };
}

function lay({ origin, audio }: Of<'lay'>): RecordingAnswer {
  const byId = new Map(audio.map(({ id, ...one }) => [id, one]));
  const { zones } = loadedSound(origin, (id) => byId.get(id), sharedRoom);
  return { kind: 'laid', zones: [...zones] };
}

function know({ sound, reference, colour }: Of<'know'>): RecordingAnswer {
  const heard = { ...sound, zones: sound.zones.filter(({ keys }) => contains(keys, reference)) };
  return {
    kind: 'known',
    response: measureResponse(heard, reference, colour ?? undefined),
    voiceCost: colour ? 0 : measureVoiceCost(heard, reference, () => performance.now()),
  };
}

/** The recordings of a sound as WAV files, with what the first zone of each says of it. */
async function pack({ origin, recordings }: Of<'pack'>): Promise<RecordingAnswer> {
  const files: Record<string, Uint8Array> = {};
  for (const recording of recordings) {
    const zone = origin.zones.find(({ recordingId }) => recordingId === recording.id);
    const { bytes } = await cache.find(recording.id);
    const { channels, sampleRate, bits } = await readAudio(bytes, recording.name);
    const depth = bits <= 16 ? 16 : bits === 24 ? 24 : 32;
    const name = freeIn(files, shortName(recording));
    files[name] = writeWav({ channels, sampleRate, bits: depth, zone });
  }
  return { kind: 'packed', archive: new Uint8Array(archiveOf(files)) };
}

function freeIn(files: Readonly<Record<string, unknown>>, wish: string): string {
  for (let n = 1; ; n++) {
    const name = n === 1 ? `${wish}.wav` : `${wish} ${n}.wav`;
    if (!(name in files)) return name;
  }
}
