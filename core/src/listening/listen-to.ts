import { integratedLoudness, momentaryMaximum, type Lufs } from '../loudness/bs1770.js';
import { colourOf } from './colour.js';
import { heardLoop } from './loop.js';
import { heardPitch, type HeardPitch } from './pitch.js';
import { areSame } from './same-sides.js';
import { soundingPart } from './sounding-part.js';

/** What is heard in a recording; places in seconds. */
export interface Heard {
  pitch: HeardPitch | null;
  /** Integrated loudness (BS.1770) of what sounds; −∞ for silence. A mono recording counts as one channel. */
  lufs: Lufs;
  /** Loudness of the loudest 400 ms: what the attack is heard as. */
  attackLufs: Lufs;
  start: number;
  end: number;
  /** Null where none is good. `crossfade` in seconds; `seam` in dB, before the crossfade. */
  loop: { start: number; end: number; crossfade: number; seam: number } | null;
  /** Highest sample, 0 … 1 and above. */
  peak: number;
  /** Both sides are the same, or there is one. */
  isMono: boolean;
  /** Level of octave bands against the whole, dB. */
  colour: number[];
}

/** What is shorter than this, in seconds, is listened to for its pitch from its very beginning. */
const ATTACK = 0.03;
const CONCERT_A = 440;

/**
 * Listens to a recording: pitch, loudness, where it begins and ends, and a loop that neither clicks nor pulses.
 * @param channels one or two channels of the same length, −1 … 1
 * @param sampleRate frames per second
 * @throws RangeError without a channel, or without a sample rate above 0
 */
export function listenTo(channels: readonly Float32Array[], sampleRate: number): Heard {
  if (channels.length === 0) throw new RangeError('there is no channel to listen to');
  if (!(sampleRate > 0)) throw new RangeError(`${sampleRate} is no sample rate`);
  const samples = mixed(channels);
  const peak = highest(channels);
  const part = soundingPart(peak > 0 ? loudestOf(channels) : samples, sampleRate);
  if (!part) {
    const seconds = samples.length / sampleRate;
    return {
      ...{ pitch: null, lufs: -Infinity, attackLufs: -Infinity, start: 0, end: seconds },
      ...{ loop: null, peak, isMono: true, colour: [] },
    };
  }
  const { start, end } = part;
  const settled = Math.min(start + Math.round(ATTACK * sampleRate), start + ((end - start) >> 2));
  const pitch = heardPitch(samples, settled, end, sampleRate);
  const period = pitch ? sampleRate / frequencyOf(pitch) : 0;
  const loop = heardLoop(samples, start, end, sampleRate, period);
  const sounding = {
    left: channels[0].subarray(start, end),
    // A mono recording is one channel, and the other one silent.
    right: channels[1]?.subarray(start, end) ?? new Float32Array(end - start),
    sampleRate,
  };
  return {
    pitch,
    lufs: integratedLoudness(sounding),
    attackLufs: momentaryMaximum(sounding),
    start: start / sampleRate,
    end: end / sampleRate,
    loop: loop && {
      start: loop.start / sampleRate,
      end: loop.end / sampleRate,
      crossfade: loop.crossfade / sampleRate,
      seam: Number(loop.seam.toFixed(1)),
    },
    peak,
    isMono: channels.length === 1 || areSame(channels[0], channels[1]),
    colour: colourOf(samples, start, end, sampleRate),
  };
}

function frequencyOf({ key, cents }: HeardPitch): number {
  return CONCERT_A * 2 ** ((key - 69 + cents / 100) / 12);
}

function mixed(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  const [left, right] = channels;
  const sum = new Float32Array(left.length);
  for (let i = 0; i < sum.length; i++) sum[i] = (left[i] + right[i]) / 2;
  // Sides that are each other’s opposite leave nothing in the middle.
  return power(sum) > power(left) * 0.05 ? sum : left;
}

/** Whichever side is louder at each moment. */
function loudestOf(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  const [left, right] = channels;
  const loudest = new Float32Array(left.length);
  for (let i = 0; i < loudest.length; i++)
    loudest[i] = Math.max(Math.abs(left[i]), Math.abs(right[i]));
  return loudest;
}

function power(samples: Float32Array): number {
  let sum = 0;
  for (let i = 0; i < samples.length; i++) sum += samples[i] * samples[i];
  return sum;
}

function highest(channels: readonly Float32Array[]): number {
  let most = 0;
  for (const samples of channels)
    for (let i = 0; i < samples.length; i++) most = Math.max(most, Math.abs(samples[i]));
  return most;
}
