import { CannotRead } from './cannot-read.js';

/** How samples lie in a file. */
export interface PcmLayout {
  channels: number;
  frames: number;
  /** Bits of one sample. */
  bits: number;
  isFloat: boolean;
  littleEndian: boolean;
  /** 8-bit samples of WAV files have no sign. */
  isUnsigned: boolean;
}

/** What is fainter is no sound, but makes processors slow (−400 dB). */
const NOTHING = 1e-20;
/** What is larger was never meant: 36 dB above full scale. */
const BEYOND = 64;
/** Sizes that are read: 8, 16, 24 and 32 bits, and 32 and 64 of floating point. */
const SIZES = { whole: [8, 16, 24, 32], float: [32, 64] };

/** Samples as −1…1, one array a channel. Numbers that are none, and such as are next to none, become silence. */
export function samplesOf(data: DataView, layout: PcmLayout): Float32Array[] {
  const { channels, frames, bits, isFloat } = layout;
  if (!(isFloat ? SIZES.float : SIZES.whole).includes(bits))
    throw new CannotRead(`its samples have ${bits} bits, which is not read`);
  const read = reader(data, layout);
  const stride = bits / 8;
  const sides = Array.from({ length: channels }, () => new Float32Array(frames));
  let at = 0;
  for (let frame = 0; frame < frames; frame++)
    for (let side = 0; side < channels; side++) {
      const sample = read(at);
      sides[side][frame] = Math.abs(sample) > NOTHING ? sample : 0;
      at += stride;
    }
  for (const side of sides) silenceWhatIsNone(side);
  return sides;
}

/** Numbers that are none, beyond all measure or next to none become silence, in place. */
export function silenceWhatIsNone(samples: Float32Array): void {
  for (let i = 0; i < samples.length; i++) {
    const size = Math.abs(samples[i]);
    if (!(size > NOTHING && size < BEYOND)) samples[i] = 0;
  }
}

function reader(
  data: DataView,
  { bits, isFloat, littleEndian, isUnsigned }: PcmLayout,
): (at: number) => number {
  if (isFloat)
    return bits === 64
      ? (at) => data.getFloat64(at, littleEndian)
      : (at) => data.getFloat32(at, littleEndian);
  if (bits === 8)
    return isUnsigned ? (at) => (data.getUint8(at) - 128) / 128 : (at) => data.getInt8(at) / 128;
  if (bits === 16) return (at) => data.getInt16(at, littleEndian) / 32_768;
  if (bits === 32) return (at) => data.getInt32(at, littleEndian) / 2_147_483_648;
  const [low, high] = littleEndian ? [0, 1] : [2, 0];
  return (at) =>
    (data.getInt16(at + high, littleEndian) * 256 + data.getUint8(at + low)) / 8_388_608;
}
