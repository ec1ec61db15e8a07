import { recordingsOfSound, type SampledSound } from '../model/library/sound.js';
import type { Recording } from '../model/library/recording.js';
import { intersection, type Span } from '../range/range.js';
import type { Recordings } from './loudness-steps.js';

/** Memory that recordings take in bytes, and what of it nobody hears. */
export interface Trimmable {
  bytes: number;
  /** Before they sound and behind where they have ended. */
  silence: number;
  /** Both sides of stereo recordings that are the same on both. */
  mono: number;
  /** Of recordings on keys that nothing reaches. */
  unreached: number;
}

/** Bytes that a recording takes in memory. */
export function memoryOfRecording({ frames, channels, bits, heard }: Recording): number {
  return frames * (heard.isMono ? 1 : channels) * bytesOfSample(bits);
}

function bytesOfSample(bits: number): number {
  return bits <= 16 ? 2 : 4;
}

/**
 * What the recordings of sounds take, and what could be trimmed of it.
 * @param reached keys of a sound that layers play, as they sound; null where all may be
 */
export function trimmable(
  sounds: readonly SampledSound[],
  recordings: Recordings,
  reached: (soundId: string) => readonly Span[] | null,
): Trimmable {
  const found: Trimmable = { bytes: 0, silence: 0, mono: 0, unreached: 0 };
  const seen = new Set<string>();
  for (const sound of sounds)
    for (const id of recordingsOfSound(sound)) {
      const recording = recordings[id];
      if (!recording || seen.has(id)) continue;
      seen.add(id);
      const bytes = memoryOfRecording(recording);
      found.bytes += bytes;
      if (!isReached(sound, id, reached(sound.id))) {
        found.unreached += bytes;
        continue;
      }
      const { heard, frames, sampleRate, channels, bits } = recording;
      const sounding = ((heard.end - heard.start) * sampleRate) / frames;
      found.silence += Math.max(0, Math.round(bytes * (1 - sounding)));
      // Held once already; on the disk it lies twice.
      if (heard.isMono && channels === 2) found.mono += frames * bytesOfSample(bits);
    }
  return found;
}

function isReached(
  { origin }: SampledSound,
  recordingId: string,
  reached: readonly Span[] | null,
): boolean {
  if (!reached) return true;
  return origin.zones.some(
    (zone) =>
      zone.recordingId === recordingId && reached.some((span) => intersection(span, zone.keys)),
  );
}
