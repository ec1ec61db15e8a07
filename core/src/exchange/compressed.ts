import { NO_CLAIMS } from '../model/library/recording.js';
import { CannotRead } from './cannot-read.js';
import { checkShape, type DecodedAudio } from './decoded.js';
import { silenceWhatIsNone } from './pcm.js';

/** What the decoders give. */
interface Decoded {
  channelData: Float32Array[];
  samplesDecoded: number;
  sampleRate: number;
  bitDepth?: number;
  errors: readonly { message: string }[];
}

type Compressed = 'flac' | 'mp3' | 'ogg';

/**
 * Reads a FLAC, MP3 or Ogg Vorbis file by decoders of WebAssembly, which are fetched when they are wanted first.
 * @throws CannotRead
 */
export async function readCompressed(format: Compressed, bytes: Uint8Array): Promise<DecodedAudio> {
  const { channelData, samplesDecoded, sampleRate, bitDepth, errors } = await decoded(
    format,
    bytes,
  );
  checkShape(channelData.length, sampleRate, samplesDecoded);
  // A decoder goes on behind what it cannot read, and leaves a hole.
  if (errors.length > 0)
    throw new CannotRead('it is cut off or damaged: a part of it cannot be read');
  const channels = channelData.map((samples) => samples.subarray(0, samplesDecoded));
  for (const samples of channels) silenceWhatIsNone(samples);
  return {
    format,
    channels,
    sampleRate,
    bits: format === 'flac' ? (bitDepth ?? 16) : 32,
    claims: NO_CLAIMS,
  };
}

async function decoded(format: Compressed, bytes: Uint8Array): Promise<Decoded> {
  try {
    if (format === 'flac') {
      const { FLACDecoder } = await import('@wasm-audio-decoders/flac');
      return await all(new FLACDecoder(), (decoder) => decoder.decodeFile(bytes));
    }
    if (format === 'ogg') {
      const { OggVorbisDecoder } = await import('@wasm-audio-decoders/ogg-vorbis');
      return await all(new OggVorbisDecoder(), (decoder) => decoder.decodeFile(bytes));
    }
    const { MPEGDecoder } = await import('mpg123-decoder');
    return await all(new MPEGDecoder(), (decoder) => decoder.decode(bytes));
  } catch (error) {
    throw new CannotRead(
      `it is damaged (${error instanceof Error ? error.message : String(error)})`,
    );
  }
}

async function all<D extends { ready: Promise<unknown>; free(): void }>(
  decoder: D,
  decode: (decoder: D) => Decoded | Promise<Decoded>,
): Promise<Decoded> {
  await decoder.ready;
  try {
    return await decode(decoder);
  } finally {
    decoder.free();
  }
}
