import type { NamedNote, Recording } from '../model/library/recording.js';
import type { MidiNote } from '../pitch/note-names.js';

/** Which octave number middle C bears in the names of files. */
export type NamedMiddleC = 3 | 4 | 5;

/** The convention that the names of recordings follow, and how many of those that were heard bear it out. */
export interface Convention {
  middleC: NamedMiddleC;
  /** Recordings whose name and pitch agree by it. */
  agree: number;
  /** Recordings with a note in their name and a pitch that was heard. */
  of: number;
}

/** The key that a named note is, by a convention; null outside 0–127. */
export function keyOfNamed({ step, octave }: NamedNote, middleC: NamedMiddleC): MidiNote | null {
  const key = (octave - middleC + 5) * 12 + step;
  return key >= 0 && key <= 127 ? key : null;
}

/**
 * Which convention of middle C the names of recordings follow: the one by which most of them are what was heard. Null where no
 * name agrees by any, so that there is no telling.
 */
export function conventionOf(
  recordings: readonly Pick<Recording, 'heard' | 'claims'>[],
): Convention | null {
  const named = recordings.flatMap(({ heard, claims }) =>
    claims.note && heard.pitch ? [{ note: claims.note, key: heard.pitch.key }] : [],
  );
  const counted = ([4, 3, 5] as const).map((middleC) => ({
    middleC,
    agree: named.filter(({ note, key }) => {
      const claimed = keyOfNamed(note, middleC);
      return claimed !== null && Math.abs(claimed - key) <= 1;
    }).length,
    of: named.length,
  }));
  const best = counted.reduce((a, b) => (b.agree > a.agree ? b : a));
  return best.agree > 0 ? best : null;
}

/** How sure hearing has to be to be believed against a name. */
const SURE = 0.75;

/** The root of a recording, by ear and by what it claims, and which of them is taken. */
export interface RootOf {
  /** The key that is taken; null where neither says anything. */
  key: MidiNote | null;
  /** Cents that the recording lies above it, as far as was heard. */
  cents: number;
  heard: MidiNote | null;
  claimed: MidiNote | null;
  from: 'ear' | 'claim' | null;
}

/** The root of a recording: what was heard for sure, else what it claims, else what was heard. */
export function rootOf(
  { heard, claims }: Pick<Recording, 'heard' | 'claims'>,
  middleC: NamedMiddleC,
): RootOf {
  const { pitch } = heard;
  const byEar = pitch && pitch.key <= 127 ? pitch.key : null;
  const named = claims.note ? keyOfNamed(claims.note, middleC) : null;
  // A number alone may count anything; it is a key where nothing speaks against it.
  const number = byEar === null || claims.number === byEar ? claims.number : null;
  const claimed = claims.root ?? named ?? number;
  const isSure = pitch !== null && (pitch.confidence >= SURE || claimed === byEar);
  const from =
    byEar !== null && (isSure || claimed === null) ? 'ear' : claimed === null ? null : 'claim';
  const key = from === 'ear' ? byEar : claimed;
  // A claim that lies elsewhere is about another pitch than the one whose cents were heard.
  const cents =
    from === 'ear' || (pitch && key === byEar) ? (pitch?.cents ?? 0) : (claims.cents ?? 0);
  return { key, cents, heard: byEar, claimed, from };
}
