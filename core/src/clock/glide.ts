/**
 * A value on its way. For levels in dB it moves linearly in dB, so that a fade to −60 dB is a fade to silence.
 * Times are seconds on any one clock. A new target starts from where the value is.
 */
export class Glide {
  private from: number;
  private target: number;
  private start = 0;
  private seconds = 0;

  constructor(value: number) {
    this.from = value;
    this.target = value;
  }

  /** Where it is going. */
  get goal(): number {
    return this.target;
  }

  /** Seconds until it is there. */
  remaining(time: number): number {
    return Math.max(0, this.start + this.seconds - time);
  }

  /** The value at a time. */
  at(time: number): number {
    const gone = time - this.start;
    if (gone >= this.seconds) return this.target;
    if (gone <= 0) return this.from;
    return this.from + ((this.target - this.from) * gone) / this.seconds;
  }

  /** Sets off for a target from wherever it is now; 0 seconds is at once. */
  to(target: number, seconds: number, now: number): void {
    this.from = this.at(now);
    this.target = target;
    this.start = now;
    this.seconds = seconds;
  }
}
