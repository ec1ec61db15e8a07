import type { Recording } from '../model/library/recording.js';
import { playedLoudness } from './loudness-steps.js';

/** Recordings of one strength, that take turns if there are several. */
export interface Strength<R> {
  alternates: R[];
  /** Mean loudness as played at gain 0, LUFS. */
  loudness: number;
}

/** Recordings of one note that lie closer than this in loudness are alternates of one strength, dB. */
const ALIKE = 1.5;

/**
 * Parts recordings of one note into strengths, the softest first. Where all their names say how hard they were played, or which of several
 * they are, that decides who takes turns; else those that are about as loud do. Strengths are sorted by measured loudness.
 */
export function strengthsOf<R extends Pick<Recording, 'heard' | 'claims' | 'channels' | 'name'>>(
  recordings: readonly R[],
): Strength<R>[] {
  const groups = byName(recordings) ?? byLoudness(recordings);
  return groups
    .map((alternates) => ({ alternates: inTurn(alternates), loudness: mean(alternates) }))
    .sort((a, b) => a.loudness - b.loudness);
}

function byName<R extends Pick<Recording, 'claims'>>(recordings: readonly R[]): R[][] | null {
  if (recordings.some(({ claims }) => claims.strength === null && claims.velocities === null))
    return null;
  const groups = new Map<string, R[]>();
  for (const recording of recordings) {
    const { strength, velocities } = recording.claims;
    const key = velocities ? `${velocities.low}-${velocities.high}` : String(strength);
    groups.set(key, [...(groups.get(key) ?? []), recording]);
  }
  return [...groups.values()];
}

function byLoudness<R extends Pick<Recording, 'heard' | 'claims' | 'channels'>>(
  recordings: readonly R[],
): R[][] {
  const sorted = [...recordings].sort((a, b) => playedLoudness(a) - playedLoudness(b));
  const groups: R[][] = [];
  for (const recording of sorted) {
    const last = groups.at(-1);
    const { turn } = recording.claims;
    const isAlike = last && playedLoudness(recording) - playedLoudness(last[0]) < ALIKE;
    // Two that bear the same number are no alternates of each other.
    const isTwin = turn !== null && last?.some(({ claims }) => claims.turn === turn);
    if (last && isAlike && !isTwin) last.push(recording);
    else groups.push([recording]);
  }
  return groups;
}

function inTurn<R extends Pick<Recording, 'claims' | 'name'>>(alternates: R[]): R[] {
  return [...alternates].sort(
    (a, b) =>
      (a.claims.turn ?? 0) - (b.claims.turn ?? 0) ||
      a.name.localeCompare(b.name, 'en', { numeric: true }),
  );
}

function mean<R extends Pick<Recording, 'heard' | 'channels'>>(recordings: readonly R[]): number {
  return recordings.reduce((sum, r) => sum + playedLoudness(r), 0) / recordings.length;
}
