import { computed, signal, untracked, type Signal } from '@angular/core';

/** Milliseconds between two looks while something is held: each look takes a frame or two longer than the hand would like. */
const PAUSE = 1000;

/**
 * Lets a view keep up with the hand: while it holds something, what is under it moves in every frame, and everything that
 * only follows looks again after pauses. As soon as the hand lets go, everything is up to date.
 */
export class Calm {
  private readonly holding = signal(false);
  private readonly look = signal(0);
  private timer: ReturnType<typeof setInterval> | undefined;

  /** The hand takes hold of something, or lets it go. */
  hold(held: boolean): void {
    clearInterval(this.timer);
    this.holding.set(held);
    if (held) this.timer = setInterval(() => this.look.update((count) => count + 1), PAUSE);
  }

  /** What a signal says: now, or while something is held, as of the last look. To be called within another signal. */
  read<T>(source: Signal<T>): T {
    if (!this.holding()) return source();
    this.look();
    return untracked(source);
  }

  /** A signal that follows another one: at once, or while something is held, after a pause. */
  following<T>(source: Signal<T>): Signal<T> {
    return computed(() => this.read(source));
  }
}
