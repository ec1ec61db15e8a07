import type { RecordingFormat } from '../model/library/recording.js';
import { readAiff } from './aiff.js';
import { CannotRead } from './cannot-read.js';
import { readCompressed } from './compressed.js';
import type { DecodedAudio } from './decoded.js';
import { claimsOfName } from './file-names.js';
import { readWav } from './wav.js';

/** Names of files that may hold sound. */
const ENDINGS = /\.(wav|wave|rf64|aif|aiff|aifc|flac|mp3|ogg|oga)$/i;

/** Whether the name of a file is one of an audio file that can be read. */
export function isAudioName(name: string): boolean {
  return ENDINGS.test(name);
}

/** What an audio file is by its first bytes, whatever its name says; null for none. */
export function formatOf(bytes: Uint8Array): RecordingFormat | null {
  const text = (from: number, to: number) => String.fromCharCode(...bytes.subarray(from, to));
  const head = text(0, 4);
  const kind = text(8, 12);
  if ((head === 'RIFF' || head === 'RF64') && kind === 'WAVE') return 'wav';
  if (head === 'FORM' && (kind === 'AIFF' || kind === 'AIFC')) return 'aiff';
  if (head === 'fLaC') return 'flac';
  if (head === 'OggS') return 'ogg';
  // The frame sync of MPEG audio, or the tag that stands before it.
  if (text(0, 3) === 'ID3') return 'mp3';
  const isSync = bytes.length > 3 && bytes[0] === 0xff && (bytes[1] & 0xe0) === 0xe0;
  return isSync && (bytes[1] & 0x06) !== 0 ? 'mp3' : null;
}

/**
 * Reads an audio file: WAV, AIFF, FLAC, MP3 or Ogg Vorbis, known by its bytes.
 * @param name of the file, which may say what was played
 * @throws CannotRead with the reason
 */
export async function readAudio(bytes: Uint8Array, name: string): Promise<DecodedAudio> {
  if (bytes.length === 0) throw new CannotRead('it is empty');
  const format = formatOf(bytes);
  if (!format) throw new CannotRead('it is no WAV, AIFF, FLAC, MP3 or Ogg Vorbis file');
  const read =
    format === 'wav'
      ? readWav(bytes)
      : format === 'aiff'
        ? readAiff(bytes)
        : await readCompressed(format, bytes);
  return { ...read, claims: { ...read.claims, ...claimsOfName(name) } };
}
