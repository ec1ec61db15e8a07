import type { SampleZone } from '../model/library/sample-zone.js';

/** Sound to be written, with what its file says of itself. */
export interface WavToWrite {
  /** One or two, of the same length, −1…1. */
  channels: readonly Float32Array[];
  sampleRate: number;
  /** 16, 24, or 32 for floating point. */
  bits: 16 | 24 | 32;
  /** Root, tuning, ranges and loop go into its `smpl` and `inst` chunks. */
  zone?: Pick<SampleZone, 'root' | 'cents' | 'gain' | 'keys' | 'velocities' | 'loop'>;
}

const SAMPLER_BYTES = 36;
const LOOP_BYTES = 24;
const INSTRUMENT_BYTES = 7;

/** A WAV file. Samples beyond full scale are held to it but in floating point. */
export function writeWav({ channels, sampleRate, bits, zone }: WavToWrite): Uint8Array {
  const frames = channels[0].length;
  const frameBytes = (channels.length * bits) / 8;
  const dataBytes = frames * frameBytes;
  const sampler = zone ? SAMPLER_BYTES + (zone.loop ? LOOP_BYTES : 0) : 0;
  const size =
    12 + 8 + 16 + 8 + even(dataBytes) + (zone ? 8 + sampler + 8 + even(INSTRUMENT_BYTES) : 0);
  const bytes = new Uint8Array(size);
  const view = new DataView(bytes.buffer);
  let at = 0;
  const text = (four: string) => {
    for (const character of four) view.setUint8(at++, character.charCodeAt(0));
  };
  const chunk = (id: string, length: number, fill: (from: number) => void) => {
    text(id);
    view.setUint32(at, length, true);
    at += 4;
    fill(at);
    at += even(length);
  };
  text('RIFF');
  view.setUint32(at, size - 8, true);
  at += 4;
  text('WAVE');
  chunk('fmt ', 16, (from) => {
    view.setUint16(from, bits === 32 ? 3 : 1, true);
    view.setUint16(from + 2, channels.length, true);
    view.setUint32(from + 4, sampleRate, true);
    view.setUint32(from + 8, sampleRate * frameBytes, true);
    view.setUint16(from + 12, frameBytes, true);
    view.setUint16(from + 14, bits, true);
  });
  chunk('data', dataBytes, (from) => writeSamples(view, from, channels, bits));
  if (zone) {
    chunk('smpl', sampler, (from) => writeSampler(view, from, zone, sampleRate));
    chunk('inst', INSTRUMENT_BYTES, (from) => writeInstrument(view, from, zone));
  }
  return bytes;
}

/** Frames of a part of a WAV file that is written part by part. */
const PART_FRAMES = 48_000;

/** A WAV file as {@link writeWav} writes it, part by part: for what is too long to be written at once. */
export function* wavInParts({
  channels,
  sampleRate,
  bits,
}: Omit<WavToWrite, 'zone'>): Generator<Uint8Array<ArrayBuffer>> {
  const frames = channels[0].length;
  const frameBytes = (channels.length * bits) / 8;
  const none = channels.map(() => new Float32Array(0));
  const heading = Uint8Array.from(writeWav({ channels: none, sampleRate, bits }));
  const view = new DataView(heading.buffer);
  view.setUint32(4, heading.length - 8 + even(frames * frameBytes), true);
  view.setUint32(heading.length - 4, frames * frameBytes, true);
  yield heading;
  for (let from = 0; from < frames; from += PART_FRAMES) {
    const part = channels.map((samples) => samples.subarray(from, from + PART_FRAMES));
    const bytes = new Uint8Array(part[0].length * frameBytes);
    writeSamples(new DataView(bytes.buffer), 0, part, bits);
    yield bytes;
  }
  if ((frames * frameBytes) % 2 === 1) yield new Uint8Array(1);
}

function even(bytes: number): number {
  return bytes + (bytes % 2);
}

function writeSamples(
  view: DataView,
  from: number,
  channels: readonly Float32Array[],
  bits: 16 | 24 | 32,
): void {
  let at = from;
  for (let frame = 0; frame < channels[0].length; frame++)
    for (const samples of channels) {
      const sample = samples[frame];
      if (bits === 32) view.setFloat32(at, sample, true);
      else if (bits === 16) view.setInt16(at, whole(sample, 32_768), true);
      else {
        const value = whole(sample, 8_388_608);
        view.setUint8(at, value & 0xff);
        view.setInt16(at + 1, value >> 8, true);
      }
      at += bits / 8;
    }
}

function whole(sample: number, full: number): number {
  return Math.max(-full, Math.min(full - 1, Math.round(sample * full)));
}

type Said = NonNullable<WavToWrite['zone']>;

function writeSampler(
  view: DataView,
  from: number,
  { root, cents, loop }: Said,
  rate: number,
): void {
  // Tuning is written as what the recording lies above a key; the zone says by how much it is moved.
  const above = -cents;
  const key = above < 0 && root > 0 ? root - 1 : root;
  const fraction = (above < 0 ? above + 100 : above) / 100;
  view.setUint32(from + 8, Math.round(1e9 / rate), true);
  view.setUint32(from + 12, key, true);
  view.setUint32(from + 16, Math.min(2 ** 32 - 1, Math.round(fraction * 2 ** 32)), true);
  view.setUint32(from + 28, loop ? 1 : 0, true);
  if (!loop) return;
  view.setUint32(from + SAMPLER_BYTES + 8, Math.round(loop.start * rate), true);
  view.setUint32(from + SAMPLER_BYTES + 12, Math.round(loop.end * rate) - 1, true);
}

function writeInstrument(view: DataView, from: number, zone: Said): void {
  const { root, cents, gain, keys, velocities } = zone;
  const values = [root, Math.round(Math.max(-50, Math.min(50, -cents))), Math.round(gain)];
  [...values, keys.low, keys.high, velocities.low, velocities.high].forEach((value, i) =>
    view.setInt8(from + i, value),
  );
}
