import {
  LONGEST_PATTERN,
  MOST_PATTERN_NOTES,
  SHORTEST_NOTE,
} from '../model/library/pattern-limits.js';
import type { PatternNote } from '../model/library/pattern.js';
import type { Beats } from '../units/times.js';

/** A key that comes so little before the first beat was meant for it. */
const EARLY: Beats = 0.25;
/** Who stops so little after a bar has begun meant its line. */
const LATE: Beats = 0.5;

interface Held {
  beat: Beats;
  velocity: number;
}

/**
 * What hands play as it becomes a pattern. Beats are counted from its first one, on and on; once its length is known it goes round,
 * and what is played in each round is a pass of its own, which can be taken back. Notes are kept as they were played.
 */
export class PatternTake {
  /** What was played in each pass that has notes, the first first. */
  private readonly passes: { round: number; notes: PatternNote[] }[] = [];
  private readonly held = new Map<number, Held>();
  private lasts: Beats | null;
  private count = 0;
  /** The beat before which nothing is taken: it is counted in. */
  private from: Beats = 0;

  /** @param bars whole bars that it lasts, each of `bar` beats; null where the length is to be found when it is stopped */
  constructor(
    bars: number | null,
    private readonly bar: Beats,
  ) {
    this.lasts = bars === null ? null : this.wholeBars(bars);
  }

  /** Beats of a round; null while that is not known. */
  get length(): Beats | null {
    return this.lasts;
  }

  /** Passes that have notes. */
  get passCount(): number {
    return this.passes.length;
  }

  /** The round after the last one in which something was played. */
  private get nextRound(): number {
    return (this.passes.at(-1)?.round ?? -1) + 1;
  }

  /** True when no more notes are taken. */
  get isFull(): boolean {
    return this.count >= MOST_PATTERN_NOTES;
  }

  /** The beat from which it takes what is played: the first, or that of the round in which it is played over. */
  get beginsAt(): Beats {
    return this.from;
  }

  /** It is to be played over, from a round on in which nothing has been played yet. */
  beginOver(): void {
    this.from = this.nextRound * (this.lasts ?? 0);
  }

  press(key: number, velocity: number, beat: Beats): void {
    if (beat < this.from - EARLY) return;
    this.release(key, beat);
    this.held.set(key, { beat: Math.max(this.from, beat), velocity });
  }

  release(key: number, beat: Beats): void {
    const struck = this.held.get(key);
    if (!struck) return;
    this.held.delete(key);
    this.enter(key, struck, beat);
  }

  /** Ends what is held, at a beat, and finds the length where it was not set. */
  stop(beat: Beats): void {
    for (const key of [...this.held.keys()]) this.release(key, beat);
    if (this.lasts !== null) return;
    const bars = Math.floor(beat / this.bar);
    const lasts = this.wholeBars(beat - bars * this.bar <= LATE ? bars : bars + 1);
    this.lasts = lasts;
    for (const pass of this.passes)
      pass.notes = pass.notes.map((note) => within(note, lasts, note.beat));
  }

  /** Takes back what the last pass that has notes has brought, and what is held; false when there is none. */
  undoPass(): boolean {
    this.held.clear();
    const undone = this.passes.pop();
    this.count -= undone?.notes.length ?? 0;
    return undone !== undefined;
  }

  /** What has been played so far, in the order in which it begins in a round. */
  notes(): PatternNote[] {
    return this.passes.flatMap(({ notes }) => notes).sort((a, b) => a.beat - b.beat);
  }

  private enter(key: number, { beat, velocity }: Held, end: Beats): void {
    if (this.isFull) return;
    const { lasts } = this;
    const round = lasts === null ? 0 : Math.floor(beat / lasts);
    // A key that was held from one round into the next belongs where it was struck.
    let pass = this.passes.find((one) => one.round === round);
    if (!pass) {
      this.passes.push((pass = { round, notes: [] }));
      this.passes.sort((a, b) => a.round - b.round);
    }
    const length = Math.max(SHORTEST_NOTE, end - beat);
    const note = { beat, length, key, velocity };
    pass.notes.push(lasts === null ? note : within(note, lasts, beat - round * lasts));
    this.count++;
  }

  /** So many bars, or a few more where they do not make whole beats. */
  private wholeBars(bars: number): Beats {
    const most = Math.floor(LONGEST_PATTERN / this.bar);
    let whole = Math.min(most, Math.max(1, bars));
    while (!Number.isInteger(whole * this.bar) && whole < most) whole++;
    return Math.floor(whole * this.bar);
  }
}

/** A note within a round; what begins after its end is that much after its beginning. */
function within(note: PatternNote, lasts: Beats, beat: Beats): PatternNote {
  return { ...note, beat: beat % lasts, length: Math.min(note.length, lasts) };
}
