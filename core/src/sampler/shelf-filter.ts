/** Corner frequencies of the two shelves, Hz. */
export const LOW_SHELF_HZ = 220;
export const HIGH_SHELF_HZ = 3500;

/**
 * A shelving filter for two channels. Coefficients after R. Bristow-Johnson, “Audio EQ Cookbook”, shelf slope 1. Its gain
 * glides, so that turning it while it sounds does not click.
 */
export class ShelfFilter {
  private b0 = 1;
  private b1 = 0;
  private b2 = 0;
  private a1 = 0;
  private a2 = 0;
  private readonly memory = new Float64Array(8);
  private gain = 0;
  private goal = 0;

  constructor(
    private readonly kind: 'low' | 'high',
    private readonly sampleRate: number,
  ) {}

  /** Gain of the shelf in dB that it moves to; at once while nothing sounds. */
  to(decibels: number, atOnce: boolean): void {
    this.goal = decibels;
    if (atOnce) this.gain = decibels;
    this.design();
  }

  /** Forgets what it has heard. */
  rest(): void {
    this.memory.fill(0);
  }

  /** Filters frames `from`…`to` in place. Does nothing while its gain is 0. */
  render(left: Float32Array, right: Float32Array, from: number, to: number): void {
    if (this.gain !== this.goal) {
      // A quarter of the way with each block: there within some 30 ms.
      this.gain += (this.goal - this.gain) / 4;
      if (Math.abs(this.goal - this.gain) < 0.01) this.gain = this.goal;
      this.design();
    }
    if (this.gain === 0) return;
    this.filter(left, from, to, 0);
    this.filter(right, from, to, 4);
  }

  private filter(samples: Float32Array, from: number, to: number, at: number): void {
    const { b0, b1, b2, a1, a2, memory } = this;
    let x1 = memory[at];
    let x2 = memory[at + 1];
    let y1 = memory[at + 2];
    let y2 = memory[at + 3];
    for (let i = from; i < to; i++) {
      const x = samples[i];
      const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      samples[i] = y;
    }
    memory[at] = x1;
    memory[at + 1] = x2;
    memory[at + 2] = Math.abs(y1) < 1e-15 ? 0 : y1;
    memory[at + 3] = Math.abs(y2) < 1e-15 ? 0 : y2;
  }

  private design(): void {
    const amplitude = 10 ** (this.gain / 40);
    const turn =
      (2 * Math.PI * (this.kind === 'low' ? LOW_SHELF_HZ : HIGH_SHELF_HZ)) / this.sampleRate;
    const cos = Math.cos(turn) * (this.kind === 'low' ? 1 : -1);
    const root = Math.sqrt(2 * amplitude) * Math.sin(turn);
    const sign = this.kind === 'low' ? 1 : -1;
    const a0 = amplitude + 1 + (amplitude - 1) * cos + root;
    this.b0 = (amplitude * (amplitude + 1 - (amplitude - 1) * cos + root)) / a0;
    this.b1 = (sign * 2 * amplitude * (amplitude - 1 - (amplitude + 1) * cos)) / a0;
    this.b2 = (amplitude * (amplitude + 1 - (amplitude - 1) * cos - root)) / a0;
    this.a1 = (sign * -2 * (amplitude - 1 + (amplitude + 1) * cos)) / a0;
    this.a2 = (amplitude + 1 + (amplitude - 1) * cos - root) / a0;
  }
}
