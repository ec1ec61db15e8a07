import {
  BLOCK,
  blockOutput,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  LIMIT,
  Limiter,
  METERS,
  VoiceEngine,
} from '@pentachord/core/sampler';
import { HOUSE_SOUNDS, planZones, renderZone } from '@pentachord/core/synthesis';
import type { Result } from './table.js';

const SAMPLE_RATE = 48_000;
const VOICES = 64;
const SECONDS = 6;

/** What one voice of a steady recording costs, in percent of a core. */
function costOfVoice(stereo: boolean): number {
  const left = Float32Array.from({ length: SAMPLE_RATE }, (_, i) => 0.5 * Math.sin(i / 29));
  const zone = {
    rootKey: 60,
    keys: { low: 0, high: 127 },
    velocities: { low: 1, high: 127 },
    sampleRate: SAMPLE_RATE,
    left,
    right: stereo ? left.slice() : left,
    loopStart: 0,
    loopEnd: left.length,
    loopDecay: 0,
  };
  const voicing = { attack: 0.01, release: 0.2, dynamics: 20, brightness: 8000, darkening: 1 };
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  engine.load(0, { voicing, zones: [zone] });
  for (let voice = 0; voice < VOICES; voice++)
    ring.write(COMMAND.start, 0, voice + 1, 0, 0, 1, 0, 40 + (voice % 40), 100, 0.3, 0);
  const output = blockOutput();
  const blocks = (SECONDS * SAMPLE_RATE) / BLOCK;
  const begun = performance.now();
  for (let i = 0; i < blocks; i++) engine.render(output);
  return (performance.now() - begun) / 10 / SECONDS / VOICES;
}

/** The sound's share: rendering the house sounds, and what voices cost of one core. */
export function measureSound(): Result[] {
  const start = performance.now();
  const sounds = HOUSE_SOUNDS.map((recipe) => ({
    voicing: recipe.voicing,
    zones: planZones(recipe).map(renderZone),
  }));
  const rendering = (performance.now() - start) / 1000;

  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const engine = new VoiceEngine(SAMPLE_RATE, ring, new Float32Array(METERS));
  sounds.forEach((sound, slot) => engine.load(slot, sound));
  for (let voice = 0; voice < VOICES; voice++) {
    const strip = voice % 16;
    ring.write(COMMAND.level, 0, strip, -12, 0);
    ring.write(
      COMMAND.start,
      0,
      voice + 1,
      strip,
      voice % sounds.length,
      1,
      0,
      40 + (voice % 40),
      100,
      0.3,
    );
  }
  const output = blockOutput();
  const blocks = (SECONDS * SAMPLE_RATE) / BLOCK;
  const playing = performance.now();
  for (let i = 0; i < blocks; i++) engine.render(output);
  const share = (performance.now() - playing) / 1000 / SECONDS;
  const { peak, limiting } = limited();
  return [
    {
      what: `rendering all ${HOUSE_SOUNDS.length} house sounds`,
      value: rendering,
      goal: 20,
      unit: 's',
    },
    { what: `${VOICES} voices, share of one core`, value: share * 100, goal: 60, unit: '%' },
    { what: 'one mono voice, share of one core', value: costOfVoice(false), goal: 0.5, unit: '%' },
    { what: 'one stereo voice, share of one core', value: costOfVoice(true), goal: 1, unit: '%' },
    {
      what: 'peak out of the limiter with +12 dBFS going in, of full scale',
      value: peak * 100,
      goal: LIMIT * 100.0001,
      unit: '%',
    },
    { what: 'the limiter, share of one core', value: limiting, goal: 1, unit: '%' },
  ];
}

/** What comes out of the limiter when a sine four times as large as full scale goes in, and what it costs in percent of a core. */
function limited(): { peak: number; limiting: number } {
  const limiter = new Limiter(SAMPLE_RATE);
  const { mix: from } = blockOutput();
  const { mix: into } = blockOutput();
  const blocks = (SECONDS * SAMPLE_RATE) / BLOCK;
  let peak = 0;
  let spent = 0;
  for (let block = 0; block < blocks; block++) {
    for (let i = 0; i < BLOCK; i++) {
      from.left[i] = 4 * Math.sin((block * BLOCK + i) / 37);
      from.right[i] = -from.left[i];
    }
    const begun = performance.now();
    limiter.render(from, into);
    spent += performance.now() - begun;
    for (const sample of into.left) peak = Math.max(peak, Math.abs(sample));
  }
  return { peak, limiting: spent / 10 / SECONDS };
}
