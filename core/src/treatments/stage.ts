import type { ShowClock } from './show-clock.js';

/** Takes notes: keys as the hand plays them, velocity 1–127, linear gain. Every press is followed by one release. */
export interface NoteSink {
  press(id: number, key: number, velocity: number, gain: number): void;
  release(id: number): void;
}

/** What the stages of a chain share. */
export interface StageSurroundings {
  clock: ShowClock;
  /** Makes the id of a note that a stage adds. */
  newId: () => number;
  /** 1 for each pitch class (0 = C) of the song's fingered key. */
  scale: () => Uint8Array;
}

/**
 * One treatment at work on one layer. Notes come in by `press` and `release` and go on to the sink. Whatever was begun
 * while it was on ends as it began; while it is off, notes pass.
 */
export abstract class Stage implements NoteSink {
  private readonly passed: number[] = [];
  private active = true;

  constructor(
    protected readonly sink: NoteSink,
    protected readonly around: StageSurroundings,
  ) {}

  get on(): boolean {
    return this.active;
  }

  /** Switching it off ends what it had begun. */
  set on(on: boolean) {
    if (on === this.active) return;
    this.active = on;
    if (!on) this.stop();
  }

  press(id: number, key: number, velocity: number, gain: number): void {
    if (this.active) {
      this.take(id, key, velocity, gain);
      return;
    }
    this.passed.push(id);
    this.sink.press(id, key, velocity, gain);
  }

  release(id: number): void {
    const at = this.passed.indexOf(id);
    if (at < 0) {
      this.give(id);
      return;
    }
    this.passed.splice(at, 1);
    this.sink.release(id);
  }

  /** True when it holds nothing and nothing it began still sounds. */
  get idle(): boolean {
    return this.passed.length === 0 && this.rests;
  }

  /** Does what has become due on the clock. */
  advance(): void {
    // Most treatments answer at once and have nothing to wait for.
  }

  /** Gives up what no key holds any more. */
  letGo(): void {
    // Only what can be held beyond the keys has something to give up.
  }

  /** Ends everything it has begun, keys down or not. */
  abstract stop(): void;
  protected abstract readonly rests: boolean;
  protected abstract take(id: number, key: number, velocity: number, gain: number): void;
  protected abstract give(id: number): void;
}
