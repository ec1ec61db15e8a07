import type { Zone } from '../synthesis/zone.js';

const NO_SAMPLES = new Float32Array(0);
const NO_ZONE: Zone = {
  ...{ rootKey: 60, keys: { low: 0, high: 0 }, velocities: { low: 0, high: 0 } },
  ...{ sampleRate: 48_000, left: NO_SAMPLES, right: NO_SAMPLES },
  ...{ loopStart: -1, loopEnd: -1, loopDecay: 0 },
};

/** How a voice begins. Lengths in frames. */
export interface VoiceStart {
  id: number;
  strip: number;
  instance: number;
  /** The sound's slot, and the velocity: what chooses the zone of another note. */
  slot: number;
  velocity: number;
  zone: Zone;
  /** Samples of the recording a frame. */
  step: number;
  /** Seconds from note to note on a sound of one voice; −1 on others. */
  glideSeconds: number;
  gain: number;
  attackFrames: number;
  /** Frames at full, and the factor a frame by which it falls from then on to its sustain level, linear; 1 does not fall. */
  holdFrames: number;
  decayFall: number;
  sustain: number;
  /** Frames until it has fallen by 60 dB after letting go. */
  releaseFrames: number;
  /** Factor a frame once it is in the loop. */
  loopFall: number;
  /** Cut-off of its low-pass, Hz. */
  cutoff: number;
  /** 1 for one that plays to its end, whenever the key is let go. */
  oneShot: number;
  /** The group of its sound of which it is cut off by another; 0 for none. */
  choke: number;
}

/** Where a voice slides to, as a beginning has it: a fraction that one function hands to another would be an object. */
export type SlideGoal = Pick<VoiceStart, 'step' | 'glideSeconds'>;

/** A beginning to be filled in; its zone is put in before it is used. */
export function newVoiceStart(): VoiceStart {
  const numbers = {
    id: 0,
    strip: 0,
    instance: 0,
    slot: 0,
    velocity: 0.5,
    step: 0.5,
    oneShot: 0,
    choke: 0,
  };
  const falling = { holdFrames: 0.5, decayFall: 0.5, sustain: 0.5 };
  const envelope = { ...falling, gain: 0.5, attackFrames: 0.5, releaseFrames: 0.5, loopFall: 0.5 };
  return { ...numbers, ...envelope, glideSeconds: 0.5, cutoff: 0.5, zone: NO_ZONE };
}
