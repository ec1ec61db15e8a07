import { RECORD, START } from './command-ring.js';

/** Notes that can be held at one time on a sound of one voice. */
const MOST_HELD = 32;

/**
 * The notes held on a sound of one voice, in the order in which they were struck, each as the record of its start: all that
 * it takes to strike it again. The last one has priority.
 */
export class HeldLine {
  private readonly held = Array.from({ length: MOST_HELD }, () => new Float64Array(RECORD));
  private count = 0;

  /** The note that has priority; null when none is held. The record is reused. */
  get last(): Float64Array | null {
    return this.count > 0 ? this.held[this.count - 1] : null;
  }

  /** Adds a note; beyond {@link MOST_HELD} the first one is forgotten. */
  push(start: Float64Array): void {
    if (this.count === MOST_HELD) this.removeAt(0);
    this.held[this.count++].set(start);
  }

  /** Whether a note is held here. */
  holds(id: number): boolean {
    for (let i = 0; i < this.count; i++) if (this.held[i][START.voice] === id) return true;
    return false;
  }

  /** Takes a note out; false when it is not held here. */
  remove(id: number): boolean {
    for (let i = 0; i < this.count; i++) {
      if (this.held[i][START.voice] !== id) continue;
      this.removeAt(i);
      return true;
    }
    return false;
  }

  clear(): void {
    this.count = 0;
  }

  private removeAt(at: number): void {
    const removed = this.held[at];
    for (let i = at; i < this.count - 1; i++) this.held[i] = this.held[i + 1];
    this.held[--this.count] = removed;
  }
}
