import { BLOCK, type Stereo } from './block.js';

/** Most that goes out, linear: −0.3 dB below full scale. */
export const LIMIT = 10 ** (-0.3 / 20);
/** Seconds that it looks ahead, and so that it delays. */
const LOOK_AHEAD_SECONDS = 0.0019;
/** Seconds in which it has let go of two thirds of what it holds back. */
const RELEASE_SECONDS = 0.12;

/**
 * Holds back what would be beyond full scale, the last thing before the loudspeakers; whatever is below goes through as it
 * is, a little later.
 *
 *     in ─┬─► delay ──────────────────────────────────────► × ─► out
 *         └─► gain needed ─► least of the window ─► release ─► mean of the window
 *
 * Every gain of the mean is at most what the delayed frame needs, since each one's window holds that frame.
 */
export class Limiter {
  private readonly window: number;
  private readonly left: Float32Array;
  private readonly right: Float32Array;
  /** Gains asked for that can still be the least of their window, ascending, with the frames they belong to; a ring. */
  private readonly least: Float64Array;
  private readonly leastAt: Float64Array;
  private head = 0;
  private size = 0;
  /** What was held back of full gain in each frame of the window, and its sum. */
  private readonly held: Float64Array;
  private sum = 0;
  private holding = 0;
  private readonly letGo: number;
  private frame = 0;

  /** @param sampleRate frames per second */
  constructor(sampleRate: number) {
    this.window = Math.max(1, Math.round(LOOK_AHEAD_SECONDS * sampleRate));
    const memory = () => new Float64Array(this.window);
    this.left = new Float32Array(this.window);
    this.right = new Float32Array(this.window);
    this.least = memory();
    this.leastAt = memory();
    this.held = memory();
    this.letGo = Math.exp(-1 / (RELEASE_SECONDS * sampleRate));
  }

  /** Frames by which what comes out is later than what went in. */
  get delay(): number {
    return this.window - 1;
  }

  /** Limits a block, from one pair of channels into another. Gives the most that it held back, as a share of the gain. */
  render(from: Stereo, into: Stereo): number {
    let most = 0;
    for (let i = 0; i < BLOCK; i++) {
      const left = numberOr0(from.left[i]);
      const right = numberOr0(from.right[i]);
      const peak = Math.max(Math.abs(left), Math.abs(right));
      const least = this.leastWith(peak > LIMIT ? LIMIT / peak : 1);
      this.holding = Math.max(1 - least, this.holding * this.letGo);
      if (this.holding < 1e-6) this.holding = 0;
      const place = this.frame % this.window;
      this.sum += this.holding - this.held[place];
      this.held[place] = this.holding;
      // What rounding has left of nothing.
      if (this.holding === 0 && this.sum < 1e-9) this.sum = 0;
      this.left[place] = left;
      this.right[place] = right;
      this.frame++;
      const oldest = this.frame % this.window;
      const back = this.sum / this.window;
      into.left[i] = this.left[oldest] * (1 - back);
      into.right[i] = this.right[oldest] * (1 - back);
      if (back > most) most = back;
    }
    return most;
  }

  /** The least gain of the window that ends with this one. */
  private leastWith(gain: number): number {
    const { least, leastAt, window, frame } = this;
    if (this.size > 0 && leastAt[this.head] <= frame - window) {
      this.head = (this.head + 1) % window;
      this.size--;
    }
    while (this.size > 0 && least[(this.head + this.size - 1) % window] >= gain) this.size--;
    const at = (this.head + this.size) % window;
    least[at] = gain;
    leastAt[at] = frame;
    this.size++;
    return least[this.head];
  }
}

function numberOr0(sample: number): number {
  return Number.isFinite(sample) ? sample : 0;
}
