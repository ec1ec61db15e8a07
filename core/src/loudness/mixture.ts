import type { CompiledLayer, CompiledPatch } from '../routing/compile.js';
import { judge, rangeGainOf, VERDICT } from '../routing/judge.js';
import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METERS } from '../sampler/meters.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import type { LoadedSound } from '../sampler/zone-table.js';
import { kWeighted } from './bs1770.js';
import type { Colour } from '../model/patch/colour.js';
import type { PlayedKey } from './plumb-line.js';

/** Velocities at which a patch is measured as a whole: gentle, usual, dug in. */
export const STRENGTH_VELOCITIES = [48, 80, 112] as const;
/** Keys that are listened to at most: each costs the rendering of a voice of every layer. */
const MOST_PROBES = 3;
const SAMPLE_RATE = 48_000;
const SECONDS = 2;
/** Frames of a step; a window of loudness is eight of them, 400 ms. */
const STEP = SAMPLE_RATE / 20;
const STEPS_PER_WINDOW = 8;

/** A stroke that stands for many: layers, and how many keys and velocities sound just these. */
export interface Probe extends PlayedKey {
  velocity: number;
  weight: number;
  layers: readonly CompiledLayer[];
}

/** One voice of a mixture, without the level of its layer. */
export interface MixedVoice {
  layerId: string;
  sound: LoadedSound;
  note: number;
  velocity: number;
  /** Linear. */
  gain: number;
  /** −1…1 */
  pan: number;
  colour: Colour;
}

/**
 * What layers make together at one stroke: for every 50 ms, the power that every two of them have in common over 400 ms,
 * rows and columns by layer. Layers that sound one note are not independent of each other, so that their powers alone do not
 * tell what they make together.
 */
export interface Mixture {
  layerIds: readonly string[];
  weight: number;
  windows: readonly Float64Array[];
}

/** The strokes that say most of a patch: of the sets of layers that sound somewhere, those that sound in most places. */
export function probesOf(patch: CompiledPatch, played: readonly PlayedKey[]): Probe[] {
  const sets = new Map<
    string,
    { layers: CompiledLayer[]; places: (PlayedKey & { velocity: number })[] }
  >();
  for (const place of played)
    for (const velocity of STRENGTH_VELOCITIES) {
      const { device, channel, key } = place;
      const layers = patch.layers.filter(
        (layer) => judge(layer, device, channel, key, velocity) === VERDICT.sounds,
      );
      if (layers.length === 0) continue;
      const name = layers.map(({ id }) => id).join();
      const set = sets.get(name) ?? { layers, places: [] };
      sets.set(name, set);
      set.places.push({ ...place, velocity });
    }
  return [...sets.values()]
    .sort((a, b) => b.places.length - a.places.length)
    .slice(0, MOST_PROBES)
    .map(({ layers, places }) => ({
      ...places[Math.floor(places.length / 2)],
      weight: places.length,
      layers,
    }));
}

/** The voices of a probe, as far as their sounds are there. */
export function voicesOf(
  probe: Probe,
  soundOf: (layer: CompiledLayer) => { sound: LoadedSound; colour: Colour } | null,
): MixedVoice[] {
  return probe.layers.flatMap((layer) => {
    const found = soundOf(layer);
    const note = probe.key + layer.shift;
    if (!found || note < 0 || note > 127) return [];
    return [
      {
        layerId: layer.id,
        ...found,
        note,
        velocity: layer.touch[probe.velocity],
        gain: rangeGainOf(layer, probe.key, probe.velocity),
        pan: layer.source.pan,
      },
    ];
  });
}

/** Renders voices, each alone, and finds what they have in common. */
export function measureMixture(voices: readonly MixedVoice[], weight: number): Mixture {
  const signals = voices.map(renderWeighted);
  const count = voices.length;
  const steps = Math.floor((SECONDS * SAMPLE_RATE) / STEP);
  const common = Array.from({ length: steps }, () => new Float64Array(count * count));
  for (let a = 0; a < count; a++)
    for (let b = a; b < count; b++)
      for (let step = 0; step < steps; step++) {
        const from = step * STEP;
        let sum = 0;
        for (let i = from; i < from + STEP; i++)
          sum +=
            signals[a].left[i] * signals[b].left[i] + signals[a].right[i] * signals[b].right[i];
        common[step][a * count + b] = sum;
        common[step][b * count + a] = sum;
      }
  const windows: Float64Array[] = [];
  for (let first = 0; first + STEPS_PER_WINDOW <= steps; first++) {
    const window = new Float64Array(count * count);
    for (let step = first; step < first + STEPS_PER_WINDOW; step++)
      for (let i = 0; i < window.length; i++)
        window[i] += common[step][i] / (STEP * STEPS_PER_WINDOW);
    windows.push(window);
  }
  return { layerIds: voices.map(({ layerId }) => layerId), weight, windows };
}

/** Power of the loudest 400 ms of a mixture, with the linear gain that each layer has. */
export function powerOfMixture(
  { layerIds, windows }: Mixture,
  gainOf: (layerId: string) => number,
): number {
  const gains = layerIds.map(gainOf);
  const count = gains.length;
  let most = 0;
  for (const window of windows) {
    let power = 0;
    for (let a = 0; a < count; a++)
      for (let b = 0; b < count; b++) power += gains[a] * gains[b] * window[a * count + b];
    most = Math.max(most, power);
  }
  return most;
}

function renderWeighted({ sound, note, velocity, gain, pan, colour }: MixedVoice) {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  engine.load(0, sound);
  const { brightness, attack, release, vibrato } = colour.timbre;
  ring.write(COMMAND.level, 0, 0, 0, 0);
  ring.write(COMMAND.pan, 0, 0, pan);
  ring.write(COMMAND.tone, 0, 0, colour.tone.low, colour.tone.high);
  ring.write(COMMAND.timbre, 0, 0, brightness, attack, release, vibrato);
  ring.write(COMMAND.start, 0, 1, 0, 0, 1, 0, note, velocity, gain);
  const frames = Math.ceil((SECONDS * SAMPLE_RATE) / BLOCK) * BLOCK;
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  const output = blockOutput();
  for (let at = 0; at < frames; at += BLOCK) {
    engine.render(output);
    left.set(output.mix.left, at);
    right.set(output.mix.right, at);
  }
  return { left: kWeighted(left, SAMPLE_RATE), right: kWeighted(right, SAMPLE_RATE) };
}
