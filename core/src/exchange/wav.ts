import type { Claims } from '../model/library/recording.js';
import { CannotRead } from './cannot-read.js';
import { chunksOf, fourCharacters, only, type Chunk } from './chunks.js';
import { checkShape, plausible, type DecodedAudio } from './decoded.js';
import { samplesOf } from './pcm.js';

const PCM = 1;
const FLOAT = 3;
const EXTENSIBLE = 0xfffe;
/** A size that stands in a chunk of its own. */
const ELSEWHERE = 0xffffffff;
const UNITY = 2 ** 32;

/**
 * Reads a WAV file: RIFF, extensible or RF64; 8, 16, 24, 32 bits or floating point; with its `smpl`, `inst` and `cue ` chunks.
 * @throws CannotRead
 */
export function readWav(bytes: Uint8Array): DecodedAudio {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  if (view.byteLength < 12) throw new CannotRead('it is cut off');
  const kind = fourCharacters(view, 0);
  if ((kind !== 'RIFF' && kind !== 'RF64') || fourCharacters(view, 8) !== 'WAVE')
    throw new CannotRead('it is no WAV file');
  const chunks = chunksOf(view, true, (id, size, soFar) =>
    kind === 'RF64' && id === 'data' && size === ELSEWHERE ? sizeIn64(soFar) : size,
  );
  const format = only(chunks, 'fmt ');
  const data = only(chunks, 'data');
  if (!format || format.size < 16)
    throw new CannotRead('it is damaged: it does not say how its sound is written');
  if (!data) throw new CannotRead('it is cut off or damaged: its sound is missing');
  const { channels, sampleRate, bits, isFloat, frameBytes } = formatOf(format.data);
  const frames = Math.floor(data.size / frameBytes);
  checkShape(channels, sampleRate, frames);
  return {
    ...{ format: 'wav', sampleRate, bits: isFloat ? 32 : bits },
    channels: samplesOf(data.data, {
      ...{ channels, frames, bits, isFloat, littleEndian: true, isUnsigned: true },
    }),
    claims: plausible(claimsOf(chunks, sampleRate), frames / sampleRate),
  };
}

function sizeIn64(chunks: readonly Chunk[]): number {
  const sizes = chunks.find(({ id, size }) => id === 'ds64' && size >= 16)?.data;
  if (!sizes) throw new CannotRead('it is damaged: it does not say how long its sound is');
  return Number(sizes.getBigUint64(8, true));
}

function formatOf(format: DataView) {
  const tag = format.getUint16(0, true);
  const channels = format.getUint16(2, true);
  const sampleRate = format.getUint32(4, true);
  const bits = format.getUint16(14, true);
  const isExtensible = tag === EXTENSIBLE && format.byteLength >= 26;
  const coding = isExtensible ? format.getUint16(24, true) : tag;
  if (coding !== PCM && coding !== FLOAT)
    throw new CannotRead(`its sound is compressed in a way that is not read (${coding})`);
  const frameBytes = (channels * bits) / 8;
  if (!Number.isInteger(frameBytes) || frameBytes < 1)
    throw new CannotRead('it is damaged: it does not say how its sound is written');
  return { channels, sampleRate, bits, isFloat: coding === FLOAT, frameBytes };
}

function claimsOf(chunks: readonly Chunk[], sampleRate: number): Partial<Claims> {
  const of = (id: string, least: number) =>
    chunks.find((chunk) => chunk.id === id && chunk.size >= least)?.data;
  const claims: Partial<Claims> = {};
  const instrument = of('inst', 7);
  if (instrument) {
    claims.root = instrument.getUint8(0);
    claims.cents = instrument.getInt8(1);
    claims.gain = instrument.getInt8(2);
    claims.keys = { low: instrument.getUint8(3), high: instrument.getUint8(4) };
    claims.velocities = { low: instrument.getUint8(5), high: instrument.getUint8(6) };
  }
  const sampler = of('smpl', 36);
  if (sampler) {
    claims.root = sampler.getUint32(12, true);
    claims.cents = (sampler.getUint32(16, true) / UNITY) * 100;
    if (sampler.getUint32(28, true) > 0 && sampler.byteLength >= 60)
      claims.loop = {
        start: sampler.getUint32(44, true) / sampleRate,
        // The last sample of it, which is played too.
        end: (sampler.getUint32(48, true) + 1) / sampleRate,
        crossfade: 0,
      };
  }
  const cues = of('cue ', 4);
  if (cues) {
    const count = Math.min(256, cues.getUint32(0, true), Math.floor((cues.byteLength - 4) / 24));
    claims.cues = Array.from(
      { length: count },
      (_, i) => cues.getUint32(4 + i * 24 + 20, true) / sampleRate,
    );
  }
  return claims;
}
