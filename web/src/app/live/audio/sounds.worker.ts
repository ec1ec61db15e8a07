import '../../no-eval';
import { measureBudget, measureVoiceCost } from '@pentachord/core/cost';
import { measureMixture, measureResponse } from '@pentachord/core/loudness';
import { contains } from '@pentachord/core/range';
import {
  houseSources,
  referenceOf,
  sourceOf,
  zonesOf,
  type SoundSource,
  type Zone,
  type ZoneToMake,
} from '@pentachord/core/synthesis';
import { SoundCache, type KnownSound } from './sound-cache';
import {
  soundRequestSchema,
  type Coloured,
  type SoundAnswer,
  type SoundRequest,
  type LayeredStroke,
} from './sound-messages';

// This scope is a worker's; the compiler sees it beside pages and would take `self` for a window.
const scope = globalThis as unknown as {
  postMessage(message: SoundAnswer): void;
  addEventListener(type: 'message', listener: (event: MessageEvent<unknown>) => void): void;
};
const cache = new SoundCache();
let queue = Promise.resolve();

scope.addEventListener('message', (event) => {
  const read = soundRequestSchema.safeParse(event.data);
  queue = queue
    .then(() => {
      if (!read.success) throw read.error;
      return answer(read.data);
    })
    // Whoever asked waits for an answer, and what was asked for after it waits too.
    .catch(() => scope.postMessage({ kind: 'undone' }));
});

function answer(request: SoundRequest): void | Promise<void> {
  if (request.kind === 'render') return provide(request.sourceId);
  if (request.kind === 'know') return know(request.sourceId);
  if (request.kind === 'measure') return measureColoured(request);
  if (request.kind === 'mix') return mix(request.key, request.strokes);
  if (request.kind === 'tidy') return tidyUp();
  return gauge();
}

const stopwatch = () => performance.now();

/** How much sound this machine can bear, by playing one zone of a house sound. */
function gauge(): void {
  const [source] = houseSources();
  const zone = zonesOf(source).zones[0].make();
  const sound = { voicing: source.voicing, zones: [zone] };
  scope.postMessage({ kind: 'gauged', budget: measureBudget(sound, zone.rootKey, stopwatch) });
}

function mix(key: string, strokes: readonly LayeredStroke[]): void {
  const mixtures = strokes.map(({ weight, voices }) => measureMixture(voices, weight));
  scope.postMessage({
    kind: 'mixed',
    key,
    mixtures: mixtures.map(({ layerIds, weight, windows }) => ({
      layerIds: [...layerIds],
      weight,
      windows: [...windows],
    })),
  });
}

/** Zones around the reference note by source, since colours are tried one after the other. */
const around = new Map<string, Zone[]>();

function measureColoured({ key, sourceId, colour }: Coloured): void {
  const source = knownSource(sourceId);
  const reference = referenceOf(source);
  let zones = around.get(sourceId);
  if (!zones) {
    const near = zonesOf(source).zones.filter(({ keys }) => contains(keys, reference));
    zones = near.map((zone) => zone.make());
    around.set(sourceId, zones);
  }
  const response = measureResponse({ voicing: source.voicing, zones }, reference, colour);
  scope.postMessage({ kind: 'measured', key, response });
}

/** Sounds rendered here, and their hash, until they are measured and kept. */
const toKnow = new Map<string, { hash: string; zones: Zone[]; kept: boolean }>();

async function provide(id: string): Promise<void> {
  try {
    const source = zonesOf(knownSource(id));
    const hash = await hashOf(source.text);
    const kept = await cache.find(hash);
    const zones = kept ?? made(id, source.zones);
    toKnow.set(id, { hash, zones, kept: kept !== null });
    scope.postMessage({ kind: 'ready', sourceId: id, zones: zones.map(shared) });
  } catch (error) {
    failed(id, error);
  }
}

/** A zone in memory that the page and the audio thread share: nobody waits while it is handed on. */
function shared(zone: Zone): Zone {
  const copy = (samples: Float32Array) => {
    const there = new Float32Array(new SharedArrayBuffer(samples.byteLength));
    there.set(samples);
    return there;
  };
  const left = copy(zone.left);
  return { ...zone, left, right: zone.right === zone.left ? left : copy(zone.right) };
}

function made(sourceId: string, toMake: readonly ZoneToMake[]): Zone[] {
  const zones: Zone[] = [];
  for (const zone of toMake) {
    zones.push(zone.make());
    scope.postMessage({ kind: 'progress', sourceId, done: zones.length, of: toMake.length });
  }
  return zones;
}

async function know(id: string): Promise<void> {
  try {
    const source = knownSource(id);
    const waiting = toKnow.get(id);
    if (!waiting) throw new Error(`“${id}” was not rendered here`);
    toKnow.delete(id);
    const { hash, zones } = waiting;
    const kept = await cache.findKnown(hash);
    const known = kept ?? measure(source, zones);
    scope.postMessage({ kind: 'known', sourceId: id, ...known });
    // Only now, since handing it over takes time and somebody waited for the sound itself.
    if (!waiting.kept) void cache.keep(hash, zones);
    if (!kept) void cache.keepKnown(hash, known);
  } catch (error) {
    failed(id, error);
  }
}

/** What an earlier version of the program had kept goes. */
async function tidyUp(): Promise<void> {
  const hashes = houseSources().map((source) => hashOf(zonesOf(source).text));
  await cache.keepOnly(new Set(await Promise.all(hashes)));
  scope.postMessage({ kind: 'tidied' });
}

function failed(sourceId: string, error: unknown): void {
  const problem = error instanceof Error ? error.message : String(error);
  scope.postMessage({ kind: 'failed', sourceId, problem });
}

function knownSource(id: string): SoundSource {
  const source = sourceOf(id);
  if (!source) throw new Error(`there is no sound “${id}”`);
  return source;
}

function measure(source: SoundSource, zones: Zone[]): KnownSound {
  const reference = referenceOf(source);
  const sound = {
    voicing: source.voicing,
    zones: zones.filter(({ keys }) => contains(keys, reference)),
  };
  return {
    response: measureResponse(sound, reference),
    voiceCost: measureVoiceCost(sound, reference, stopwatch),
  };
}

async function hashOf(text: string): Promise<string> {
  const digest = await crypto.subtle.digest('SHA-256', new TextEncoder().encode(text));
  return [...new Uint8Array(digest)].map((byte) => byte.toString(16).padStart(2, '0')).join('');
}
