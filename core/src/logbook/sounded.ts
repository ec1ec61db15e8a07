import type { Seconds } from '../units/times.js';
import { KIND, LEVEL_FLOOR, NO_END, recordsOf } from './roll.js';

/** A note as it sounded. */
export interface SoundedNote {
  seconds: Seconds;
  length: Seconds;
  /** Its layer, by its place among those of the take. */
  layer: number;
  /** The key that sounded, and how hard. */
  key: number;
  velocity: number;
}

/** How a layer was heard from a moment on. */
export interface HeardSetting {
  seconds: Seconds;
  layer: number;
  /** dB, −60 for silence; or −1…1 between left and right. */
  value: number;
  /** Seconds within which a level gets there. */
  within: Seconds;
}

/** What sounded in a take. */
export interface Sounded {
  /** In the order in which they began. */
  notes: SoundedNote[];
  levels: HeardSetting[];
  pans: HeardSetting[];
}

/** Seconds below which a note was let go as it began: nobody has heard it. */
const SHORTEST: Seconds = 1e-6;

interface Voice {
  note: SoundedNote;
  end: Seconds | null;
}

/**
 * The notes of a roll as they sounded in the end: what was handed over ahead and called off or moved is as it came. What was
 * never let go ends with the take.
 */
export function soundedIn(roll: Uint8Array, until: Seconds): Sounded {
  const found: Sounded = { notes: [], levels: [], pans: [] };
  /** What of each voice may still change. */
  const open = new Map<number, Voice>();
  const close = (voice: Voice) => {
    const { note } = voice;
    note.length = Math.min(voice.end ?? until, until) - note.seconds;
    if (note.length > SHORTEST) found.notes.push(note);
  };
  for (const { seconds, kind, a, b, who, more } of recordsOf(roll)) {
    if (kind === KIND.level)
      found.levels.push({
        ...{ seconds, layer: who, within: (a + b * 256) / 100 },
        value: more / 100 + LEVEL_FLOOR,
      });
    else if (kind === KIND.pan)
      found.pans.push({ seconds, layer: who, within: 0, value: more / 1000 - 1 });
    else if (kind === KIND.silence) {
      for (const voice of open.values()) {
        if (voice.note.seconds >= seconds) continue;
        voice.end = Math.min(voice.end ?? seconds, seconds);
        close(voice);
      }
      open.clear();
    } else if (kind === KIND.began) {
      const before = open.get(more);
      if (before) close(before);
      open.set(more, {
        note: { seconds, length: 0, layer: who, key: a, velocity: b },
        end: null,
      });
    } else {
      const voice = open.get(more);
      if (!voice) continue;
      const { note } = voice;
      if (kind === KIND.ended)
        voice.end = Math.min(voice.end ?? Infinity, Math.max(seconds, note.seconds));
      else if (kind === KIND.beginsThen) note.seconds = seconds;
      else if (kind === KIND.endsThen)
        voice.end = seconds === NO_END ? null : Math.max(seconds, note.seconds);
    }
  }
  for (const voice of open.values()) close(voice);
  found.notes.sort(
    (one, other) => one.seconds - other.seconds || one.layer - other.layer || one.key - other.key,
  );
  return found;
}
