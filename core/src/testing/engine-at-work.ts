import { BLOCK, blockOutput } from '../sampler/block.js';
import { COMMAND, COMMAND_RING_BYTES, CommandRing } from '../sampler/command-ring.js';
import { METER, METERS, STRIPS } from '../sampler/meters.js';
import { VoiceEngine } from '../sampler/voice-engine.js';
import type { Voicing, Zone } from '../synthesis/zone.js';

/** Frames a second. */
export const RATE = 48_000;

/** A recording that stands at one height: what comes out is the gain itself. */
export function still(height: number, changes: Partial<Zone> = {}): Zone {
  const left = new Float32Array(4800).fill(height);
  return {
    ...{ rootKey: 60, keys: { low: 0, high: 127 }, velocities: { low: 1, high: 127 } },
    ...{ sampleRate: RATE, left, right: left, loopStart: 0, loopEnd: 4800, loopDecay: 0 },
    ...changes,
  };
}

/** A sine of 480 Hz at its root, middle C. */
export function sine(changes: Partial<Zone> = {}): Zone {
  const wave = (_: unknown, i: number) => 0.5 * Math.sin((2 * Math.PI * i) / 100);
  const left = Float32Array.from({ length: 4800 }, wave);
  return still(0, { left, right: left, ...changes });
}

/** Hz of every wave of a stretch, by its rising zero crossings. */
export function pitches(samples: Float32Array): number[] {
  const at: number[] = [];
  for (let i = 1; i < samples.length; i++)
    if (samples[i - 1] < 0 && samples[i] >= 0)
      at.push(i - samples[i] / (samples[i] - samples[i - 1]));
  return at.slice(1).map((place, i) => RATE / (place - at[i]));
}

/** The most that sound turns within three frames: what clicks turns sharply. */
export function curvature(samples: Float32Array): number {
  let most = 0;
  for (let i = 2; i < samples.length; i++)
    most = Math.max(most, Math.abs(samples[i] - 2 * samples[i - 1] + samples[i - 2]));
  return most;
}

/** Sounds at once, and as it is recorded. */
export const PLAIN = { attack: 0, release: 0.001, dynamics: 0, brightness: 20_000, darkening: 0 };

/** What a command says after its frame. */
type Values = Parameters<CommandRing['write']> extends [number, number, ...infer R] ? R : never;

/** An engine whose strips are all at 0 dB, and whoever gives it orders. */
export class EngineAtWork {
  readonly ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  readonly meters = new Float32Array(METERS);
  readonly engine = new VoiceEngine(RATE, this.ring, this.meters);
  readonly output = blockOutput();

  /** @param voicing of every sound: at once, and as it is recorded, but for what is given */
  constructor(private readonly voicing: Partial<Voicing> = {}) {
    for (let strip = 0; strip < STRIPS; strip++) this.order(COMMAND.level, strip, 0, 0);
  }

  load(slot: number, ...zones: Zone[]): void {
    this.engine.load(slot, { voicing: { ...PLAIN, ...this.voicing }, zones });
  }

  order(command: number, ...values: Values): void {
    this.ring.write(command, 0, ...values);
  }

  start(
    voice: number,
    { strip = 0, slot = 0, instance = 1, polyphony = 0, note = 60, velocity = 127, gain = 1 } = {},
    { glide = 0, frame = 0 } = {},
  ): void {
    const struck = [voice, strip, slot, instance, polyphony, note, velocity, gain, glide] as const;
    this.ring.write(COMMAND.start, frame, ...struck);
  }

  end(voice: number, frame = 0): void {
    this.ring.write(COMMAND.end, frame, voice);
  }

  silence(): void {
    this.order(COMMAND.silence);
  }

  /** Renders blocks; the height at the end of the last one. */
  after(blocks = 1): number {
    for (let i = 0; i < blocks; i++) this.engine.render(this.output);
    return this.output.mix.left[BLOCK - 1];
  }

  /** Renders at least so long; what is left in the mix, or in what goes to an effect. */
  render(seconds: number, bus = -1): Float32Array {
    const blocks = Math.ceil((seconds * RATE) / BLOCK);
    const all = new Float32Array(blocks * BLOCK);
    const { left } = bus < 0 ? this.output.mix : this.output.buses[bus];
    for (let i = 0; i < blocks; i++) {
      this.after();
      all.set(left, i * BLOCK);
    }
    return all;
  }

  /** Voices that sound. */
  get voices(): number {
    return this.meters[METER.voices];
  }

  /** Voices taken from others in all, and from voices of these strips. */
  stolen(...strips: number[]): number[] {
    const { meters } = this;
    return [meters[METER.stolen], ...strips.map((strip) => meters[METER.stolenFrom + strip])];
  }
}
