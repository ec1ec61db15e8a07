import type { Claims } from '../model/library/recording.js';
import { CannotRead } from './cannot-read.js';
import { chunksOf, fourCharacters, only, type Chunk } from './chunks.js';
import { checkShape, plausible, type DecodedAudio } from './decoded.js';
import { samplesOf } from './pcm.js';

/** How AIFF-C files name what is not compressed. */
const PLAIN: Readonly<Record<string, { isFloat: boolean; littleEndian: boolean }>> = {
  NONE: { isFloat: false, littleEndian: false },
  twos: { isFloat: false, littleEndian: false },
  sowt: { isFloat: false, littleEndian: true },
  fl32: { isFloat: true, littleEndian: false },
  FL32: { isFloat: true, littleEndian: false },
  fl64: { isFloat: true, littleEndian: false },
  FL64: { isFloat: true, littleEndian: false },
};

/** Reads an AIFF or uncompressed AIFF-C file, with its `INST` and `MARK` chunks. @throws CannotRead */
export function readAiff(bytes: Uint8Array): DecodedAudio {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 12) throw new CannotRead('it is cut off');
  const kind = fourCharacters(view, 8);
  if (fourCharacters(view, 0) !== 'FORM' || (kind !== 'AIFF' && kind !== 'AIFC'))
    throw new CannotRead('it is no AIFF file');
  const chunks = chunksOf(view, false);
  const common = only(chunks, 'COMM')?.data;
  const sound = only(chunks, 'SSND')?.data;
  if (!common || common.byteLength < 18)
    throw new CannotRead('it is damaged: it does not say how its sound is written');
  if (!sound || sound.byteLength < 8)
    throw new CannotRead('it is cut off or damaged: its sound is missing');
  const channels = common.getUint16(0);
  const claimed = common.getUint32(2);
  // Samples of odd sizes fill whole bytes.
  const bits = Math.ceil(common.getUint16(6) / 8) * 8;
  const sampleRate = extended(common, 8);
  const coding = kind === 'AIFC' && common.byteLength >= 22 ? fourCharacters(common, 18) : 'NONE';
  if (!(coding in PLAIN))
    throw new CannotRead(`its sound is compressed in a way that is not read (${coding.trim()})`);
  const offset = 8 + sound.getUint32(0);
  const frameBytes = (channels * bits) / 8;
  checkShape(channels, sampleRate, claimed);
  if (offset + claimed * frameBytes > sound.byteLength)
    throw new CannotRead('it is cut off or damaged: its sound is shorter than it says');
  const data = new DataView(sound.buffer, sound.byteOffset + offset, claimed * frameBytes);
  return {
    ...{ format: 'aiff', sampleRate, bits: PLAIN[coding].isFloat ? 32 : bits },
    channels: samplesOf(data, {
      ...{ channels, frames: claimed, bits, isUnsigned: false, ...PLAIN[coding] },
    }),
    claims: plausible(claimsOf(chunks, sampleRate), claimed / sampleRate),
  };
}

/** A number of 80 bits, as sample rates are written. */
function extended(view: DataView, at: number): number {
  const exponent = (view.getUint16(at) & 0x7fff) - 16_383;
  const mantissa = view.getUint32(at + 2) * 2 ** -31 + view.getUint32(at + 6) * 2 ** -63;
  return mantissa * 2 ** exponent;
}

function claimsOf(chunks: readonly Chunk[], sampleRate: number): Partial<Claims> {
  const of = (id: string, least: number) =>
    chunks.find((chunk) => chunk.id === id && chunk.size >= least)?.data;
  const marks = marksIn(of('MARK', 2), sampleRate);
  const claims: Partial<Claims> = { cues: [...marks.values()] };
  const instrument = of('INST', 20);
  if (!instrument) return claims;
  const start = marks.get(instrument.getInt16(10));
  const end = marks.get(instrument.getInt16(12));
  return {
    ...claims,
    root: instrument.getUint8(0),
    cents: instrument.getInt8(1),
    keys: { low: instrument.getUint8(2), high: instrument.getUint8(3) },
    velocities: { low: instrument.getUint8(4), high: instrument.getUint8(5) },
    gain: instrument.getInt16(6),
    loop:
      instrument.getInt16(8) > 0 && start !== undefined && end !== undefined
        ? { start, end, crossfade: 0 }
        : null,
  };
}

/** Markers in seconds, by their number. */
function marksIn(view: DataView | undefined, sampleRate: number): Map<number, number> {
  const marks = new Map<number, number>();
  if (!view) return marks;
  let at = 2;
  for (let i = view.getUint16(0); i > 0 && at + 7 <= view.byteLength; i--) {
    marks.set(view.getInt16(at), view.getUint32(at + 2) / sampleRate);
    // A name with its length before it, filled up to an even number of bytes.
    at += 6 + ((view.getUint8(at + 6) + 2) & ~1);
  }
  return marks;
}
