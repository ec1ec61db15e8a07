/** Milliseconds for which a break of the sound is told. */
const TOLD = 30_000;

/** What can be done about sound that breaks off. */
export const BREAKS_HINT =
  'This machine does not keep up. Close other programs, share sounds, or choose “balanced” in Preferences.';

/** Tells for a while how often sound has broken off, from one break to the next. */
export class BreaksTold {
  private seen = 0;
  private at = -Infinity;

  /** What is to be told now, of so many breaks since sound began; an empty text when the last is a while ago. */
  words(breaks: number, now = performance.now()): string {
    if (breaks > this.seen) this.at = now;
    this.seen = breaks;
    if (breaks === 0 || now - this.at > TOLD) return '';
    return `Sound broke off ${breaks === 1 ? 'once' : `${breaks} times`}`;
  }
}
