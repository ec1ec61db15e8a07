/** Notes that can be held at one time on a sound of one voice. */
const MOST_HELD = 32;

/** A note held on a sound of one voice: all that it takes to strike it again. */
export interface HeldNote {
  id: number;
  strip: number;
  slot: number;
  note: number;
  velocity: number;
  gain: number;
}

/** The notes held on a sound of one voice, in the order in which they were struck. The last one has priority. */
export class HeldLine {
  private readonly held: HeldNote[] = Array.from({ length: MOST_HELD }, () => ({
    id: 0,
    strip: 0,
    slot: 0,
    note: 0,
    velocity: 0,
    gain: 0,
  }));
  private count = 0;

  /** The note that has priority; null when none is held. The object is reused. */
  get last(): Readonly<HeldNote> | null {
    return this.count > 0 ? this.held[this.count - 1] : null;
  }

  /** Adds a note; beyond {@link MOST_HELD} the first one is forgotten. */
  push(
    id: number,
    strip: number,
    slot: number,
    note: number,
    velocity: number,
    gain: number,
  ): void {
    if (this.count === MOST_HELD) this.removeAt(0);
    const next = this.held[this.count++];
    next.id = id;
    next.strip = strip;
    next.slot = slot;
    next.note = note;
    next.velocity = velocity;
    next.gain = gain;
  }

  /** Whether a note is held here. */
  holds(id: number): boolean {
    for (let i = 0; i < this.count; i++) if (this.held[i].id === id) return true;
    return false;
  }

  /** Takes a note out; false when it is not held here. */
  remove(id: number): boolean {
    for (let i = 0; i < this.count; i++) {
      if (this.held[i].id !== id) continue;
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
