import type { ReadyAccompanist, ReadyPattern } from '@pentachord/core/patterns';

/** How an accompanist stands, for its line of the table. */
export interface BandState {
  id: string;
  letter: string;
  name: string;
  colour: string;
  sound: string;
  manner: string;
  keys: string;
  playing: string;
  next: string;
  /** How far it is in its round, 0 … 1; null while nothing plays. */
  place: number | null;
  /** Where bars begin in its round, 0 … 1. */
  bars: readonly number[];
  /** What plays as a line: how much is struck in each part of its round. */
  wave: string;
}

const PARTS = 24;
const WIDTH = 240;
const HIGH = 26;

/** A pattern as a wave over its round: higher where more is struck, and struck harder. */
export function waveOf(ready: ReadyPattern | null): string {
  if (!ready) return `M0 15L${WIDTH} 15`;
  const struck = new Array<number>(PARTS).fill(0);
  for (let i = 0; i < ready.count; i++) {
    const at = Math.min(PARTS - 1, Math.floor((ready.beats[i] / ready.round) * PARTS));
    struck[at] += ready.velocities[i];
  }
  const most = Math.max(1, ...struck);
  const points = struck.map((sum, i) => {
    const around = (struck.at(i - 1) ?? 0) + 2 * sum + (struck.at((i + 1) % PARTS) ?? 0);
    const [x, y] = [((i + 0.5) / PARTS) * WIDTH, HIGH - (around / (4 * most)) * (HIGH - 4)];
    return `${x.toFixed(1)} ${y.toFixed(1)}`;
  });
  return `M${points.join('L')}`;
}

/** The keys that an accompanist owns, from the lowest to the highest; null for none. */
export function runOf({ patterns, source }: ReadyAccompanist): [number, number] | null {
  const keys = patterns.map(({ key }) => key);
  if (source.stopKey !== null) keys.push(source.stopKey);
  return keys.length > 0 ? [Math.min(...keys), Math.max(...keys)] : null;
}
