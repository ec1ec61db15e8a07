/** Notes that can be held at one time on a sound of one voice. */
const MOST_HELD = 32;

/** The notes held on a sound of one voice, in the order in which they were struck. The last one has priority. */
export class HeldLine {
  private readonly ids = new Float64Array(MOST_HELD);
  private readonly notes = new Uint8Array(MOST_HELD);
  private count = 0;

  /** The note that has priority; −1 when none is held. */
  get note(): number {
    return this.count > 0 ? this.notes[this.count - 1] : -1;
  }

  /** The voice number that it was struck with. */
  get id(): number {
    return this.count > 0 ? this.ids[this.count - 1] : -1;
  }

  /** Adds a note; beyond {@link MOST_HELD} the first one is forgotten. */
  push(id: number, note: number): void {
    if (this.count === MOST_HELD) this.removeAt(0);
    this.ids[this.count] = id;
    this.notes[this.count++] = note;
  }

  /** Takes a note out; false when it is not held here. */
  remove(id: number): boolean {
    for (let i = 0; i < this.count; i++) {
      if (this.ids[i] !== id) continue;
      this.removeAt(i);
      return true;
    }
    return false;
  }

  clear(): void {
    this.count = 0;
  }

  private removeAt(at: number): void {
    this.ids.copyWithin(at, at + 1, this.count);
    this.notes.copyWithin(at, at + 1, this.count);
    this.count--;
  }
}
