import { recordingSchema, type Recording } from '../model/library/recording.js';
import { listenTo, type Heard } from '../listening/listen-to.js';
import { readAudio } from './audio-files.js';
import { CannotRead } from './cannot-read.js';
import type { DecodedAudio } from './decoded.js';

/** What is quieter counts as silence, LUFS and peak. */
const SILENT = 10 ** (-80 / 20);
const LOWEST = -120;
const HIGHEST = 40;
/** Samples in a row at the very top that count as clipped, and how many such places are worth a word. */
const FLAT = 3;
const CLIPPED = 5;
const LONGEST_NAME = 200;

/** An audio file that can be put on keys. */
export interface BroughtIn {
  recording: Recording;
  audio: DecodedAudio;
  /** What is worth knowing of it though it was taken, in words; null for nothing. */
  word: string | null;
}

/**
 * Reads an audio file and listens to it.
 * @param id SHA-256 of the bytes
 * @throws CannotRead with the reason, also for one that holds nothing but silence
 */
export async function recordingOf(bytes: Uint8Array, name: string, id: string): Promise<BroughtIn> {
  const audio = await readAudio(bytes, name);
  const heard = listenTo(audio.channels, audio.sampleRate);
  if (heard.peak < SILENT) throw new CannotRead('it holds nothing but silence');
  const recording = recordingSchema.parse({
    id,
    name: [...name.replace(/^.*[/\\]/, '')].slice(-LONGEST_NAME).join(''),
    format: audio.format,
    bytes: bytes.length,
    sampleRate: audio.sampleRate,
    channels: audio.channels.length,
    bits: audio.bits,
    frames: audio.channels[0].length,
    heard: { ...heard, lufs: finite(heard.lufs), attackLufs: finite(heard.attackLufs) },
    claims: audio.claims,
  } satisfies Recording & { heard: Heard });
  return { recording, audio, word: clippedIn(audio.channels) };
}

/** Held to what can be kept: the filters of a damaged sample rate may answer with anything. */
function finite(lufs: number): number {
  if (Number.isNaN(lufs)) return LOWEST;
  return Math.min(HIGHEST, Math.max(LOWEST, Math.round(lufs * 100) / 100));
}

function clippedIn(channels: readonly Float32Array[]): string | null {
  let places = 0;
  for (const samples of channels) {
    let row = 0;
    for (let i = 0; i < samples.length; i++) {
      row = Math.abs(samples[i]) >= 0.9999 ? row + 1 : 0;
      if (row === FLAT) places++;
    }
  }
  return places >= CLIPPED ? `it is clipped in ${places} places` : null;
}
