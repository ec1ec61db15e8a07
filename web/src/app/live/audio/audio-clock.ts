import type { Frame, Seconds } from '@pentachord/core/units';

/** Seconds over which the clocks are compared before what was seen earlier is forgotten. */
const WINDOW: Seconds = 1;
/** The most by which the comparison is put right in one go, unless it is far off: less than anyone hears. */
const SLEW: Seconds = 0.0001;
/** Beyond this the audio clock has stood still or jumped, and is taken as it is now. */
const FAR_OFF: Seconds = 0.05;

/**
 * Brings the page’s clock and the audio clock together. The audio clock moves in bursts, a buffer at a time; just after a
 * burst the two are nearest, and that is what counts. So frames of evenly spaced times are evenly spaced.
 */
export class AudioClock {
  private offset: Seconds = NaN;
  private least: Seconds = Infinity;
  private leastBefore: Seconds = Infinity;
  private windowEnd: Seconds = 0;

  constructor(private readonly sampleRate: number) {}

  /** Compares the clocks: the present time of the page, and of the audio. */
  observe(page: Seconds, audio: Seconds): void {
    const apart = page - audio;
    if (page >= this.windowEnd) {
      this.leastBefore = this.windowEnd === 0 ? Infinity : this.least;
      this.least = Infinity;
      this.windowEnd = page + WINDOW;
    }
    this.least = Math.min(this.least, apart);
    const goal = Math.min(this.least, this.leastBefore);
    const off = goal - this.offset;
    if (!(Math.abs(off) <= FAR_OFF)) this.offset = goal;
    else this.offset += Math.max(-SLEW, Math.min(SLEW, off));
  }

  /** The frame of the audio clock at a time of the page; 0, which is now, for 0 and while nothing is known. */
  frameAt(time: Seconds): Frame {
    return time > 0 && !Number.isNaN(this.offset)
      ? Math.max(0, Math.round((time - this.offset) * this.sampleRate))
      : 0;
  }
}
