/** Steps above the tonic that belong to its chord, minor or major: these are bent to the chord that is followed. */
const OF_CHORD = [1, 0, 0, 1, 1, 0, 0, 1, 0, 0, 0, 0];

/** The keys that hands play beside those that start patterns: their lowest, and their chord. Nothing is made anew for a key. */
export class FollowedChord {
  /** How many fingers hold each key, whatever keyboard they are on. */
  private readonly held = new Uint8Array(128);
  private count = 0;
  /** Pitch class of the lowest key that was held as the last one was struck; −1 before the first. */
  root = -1;
  /** Bits of the pitch classes that were held then. */
  chord = 0;
  /** True while any of them is held. */
  get isHeld(): boolean {
    return this.count > 0;
  }

  press(key: number): void {
    this.held[key]++;
    this.count++;
    let lowest = -1;
    this.chord = 0;
    for (let at = 0; at < 128; at++) {
      if (this.held[at] === 0) continue;
      if (lowest < 0) lowest = at;
      this.chord |= 1 << (at % 12);
    }
    this.root = lowest % 12;
  }

  /** A key is let go; what it was part of is remembered. */
  release(key: number): void {
    if (this.held[key] === 0) return;
    this.held[key]--;
    this.count--;
  }

  /** Nobody holds anything. */
  letGo(): void {
    this.held.fill(0);
    this.count = 0;
  }

  /** A note of a pattern on a tonic (pitch class), moved to the root by the nearer way. */
  onRoot(key: number, tonic: number): number {
    if (this.root < 0) return key;
    const up = (this.root - tonic + 12) % 12;
    return key + (up > 6 ? up - 12 : up);
  }

  /** A note moved to the root; what belongs to the chord of the tonic goes to the nearest note of the chord that is played. */
  onChord(key: number, tonic: number): number {
    const moved = this.onRoot(key, tonic);
    if (this.root < 0 || OF_CHORD[(key - tonic + 120) % 12] === 0) return moved;
    // One or two notes are no chord: the third would fall onto one of them.
    if (bitsOf(this.chord) < 3) return moved;
    for (let away = 0; away < 6; away++) {
      if (this.chord & (1 << ((moved - away + 120) % 12))) return moved - away;
      if (this.chord & (1 << ((moved + away + 120) % 12))) return moved + away;
    }
    return moved;
  }
}

function bitsOf(mask: number): number {
  let count = 0;
  for (let left = mask; left > 0; left &= left - 1) count++;
  return count;
}
