import { seededRandom } from '@pentachord/core/synthesis';

/** Choices by chance, the same for the same seed, so that what fails can be run again. */
export class Chance {
  private readonly random: () => number;

  constructor(seed: number) {
    this.random = seededRandom(seed);
  }

  /** A whole number from `low` to `high`, both included. */
  whole(low: number, high: number): number {
    return low + Math.floor(this.random() * (high - low + 1));
  }

  /** One of some things. */
  of<T>(things: readonly T[]): T {
    return things[this.whole(0, things.length - 1)];
  }

  /** True so many times of a hundred. */
  percent(share: number): boolean {
    return this.random() * 100 < share;
  }
}
