import {
  measureMixture,
  measureResponse,
  momentaryMaximum,
  powerOf,
  probesOf,
  THREE_STRENGTHS,
  threeStrengths,
  voicesOf,
  type Probe,
  type Strength,
} from '@pentachord/core/loudness';
import {
  newLayer,
  newPatch,
  newPatchSound,
  PLAIN_TIMBRE,
  type Patch,
} from '@pentachord/core/model';
import { compilePatch, compileRig, type CompiledLayer } from '@pentachord/core/routing';
import {
  BLOCK,
  blockOutput,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  METERS,
  VoiceEngine,
  type LoadedSound,
} from '@pentachord/core/sampler';
import { planZones, recipeOf, renderZone } from '@pentachord/core/synthesis';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { quantile, times, type Result } from './table.js';

const SAMPLE_RATE = 48_000;
const SECONDS = 3;
/** The note at which sounds are measured in the application too, where they reach it. */
const REFERENCE = 60;
/** Eight sounds that a patch might stack, struck and held. */
const SOUNDS = [
  'felt-piano',
  'tine-piano',
  'reed-piano',
  'glass-bells',
  'warm-pad',
  'slow-tide-strings',
  'fog-choir',
  'ferry-organ',
];

/** Three strengths of a patch of eight layers: how long it takes, and how near what then sounds comes to what was asked. */
export function measureStrengths(): Result[] {
  const rig = compileRig([
    {
      ...{ kind: 'keyboard', id: 'upper', rigId: 'rig', position: 0, name: 'Upper keys' },
      ...{
        place: 'keys1',
        port: 'upper',
        at: null,
        alsoAt: [],
        heardAs: null,
        settings: { known: null, wanted: {} },
        lowestKey: 21,
        highestKey: 108,
        channel: 1,
        octaveShift: 0,
      },
      touch: EVEN_TOUCH,
    },
  ]);
  const patch: Patch = {
    ...newPatch('patch', 'song', 0, 'Eight'),
    sounds: SOUNDS.map((id) => newPatchSound(id, id)),
    layers: SOUNDS.map((id, i) => ({ ...newLayer(id, id, id), level: -6 - i })),
  };
  const compiled = compilePatch(patch, { rig, songShift: 0 });
  const loaded = SOUNDS.map((id) => {
    const recipe = recipeOf(id);
    if (!recipe) throw new Error(`there is no house sound “${id}”`);
    return { voicing: recipe.voicing, zones: planZones(recipe).map(renderZone) };
  });
  const responses = new Map(SOUNDS.map((id, i) => [id, measureResponse(loaded[i], REFERENCE)]));
  const played = Array.from({ length: 88 }, (_, i) => ({ device: 0, channel: 1, key: 21 + i }));
  const soundOf = (layer: CompiledLayer) => ({
    sound: loaded[SOUNDS.indexOf(layer.librarySoundId)],
    colour: { timbre: PLAIN_TIMBRE, tone: { low: 0, high: 0 } },
  });
  const probes = probesOf(compiled, played);
  const listening = performance.now();
  const mixtures = probes.map((probe) => measureMixture(voicesOf(probe, soundOf), probe.weight));
  const listened = performance.now() - listening;
  const took = times(60, () => threeStrengths(compiled, responses, played, mixtures));
  const strengths = threeStrengths(compiled, responses, played, mixtures);
  if (!strengths) throw new Error('no strengths could be made');
  const heard = strengths.map((strength) => loudnessOf(strength, probes, loaded));
  const off = THREE_STRENGTHS.map(({ below }, i) => Math.abs(heard[2] - heard[i] - below));
  return [
    {
      what: 'listening to a patch of 8 layers beforehand, in a worker',
      value: listened,
      goal: 500,
      unit: 'ms',
    },
    {
      what: 'three strengths of 8 layers on 88 keys, 95 of 100 within',
      value: quantile(took, 0.95),
      goal: 50,
      unit: 'ms',
    },
    {
      what: 'three strengths, loudness of what sounds against what was asked, at most off',
      value: Math.max(...off),
      goal: 0.5,
      unit: 'dB',
    },
  ];
}

/** Loudness of a strength as it sounds, all layers at once: the mean of the power of every probe. */
function loudnessOf(
  { balance }: Strength,
  probes: readonly Probe[],
  loaded: readonly LoadedSound[],
): number {
  let power = 0;
  let weights = 0;
  for (const { key, velocity, weight } of probes) {
    power += weight * powerOf(render(balance, loaded, key, velocity));
    weights += weight;
  }
  return 10 * Math.log10(power / weights);
}

function render(
  balance: Strength['balance'],
  loaded: readonly LoadedSound[],
  key: number,
  velocity: number,
): number {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  SOUNDS.forEach((id, i) => {
    const { level = 0, muted } = balance[id];
    engine.load(i, loaded[i]);
    ring.write(COMMAND.level, 0, i, muted ? -60 : level, 0);
    if (!muted) ring.write(COMMAND.start, 0, i + 1, i, i, i + 1, 0, key, velocity, 1);
  });
  const frames = Math.ceil((SECONDS * SAMPLE_RATE) / BLOCK) * BLOCK;
  const left = new Float32Array(frames);
  const right = new Float32Array(frames);
  const output = blockOutput();
  for (let at = 0; at < frames; at += BLOCK) {
    engine.render(output);
    left.set(output.mix.left, at);
    right.set(output.mix.right, at);
  }
  return momentaryMaximum({ left, right, sampleRate: SAMPLE_RATE });
}
