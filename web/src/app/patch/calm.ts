import { computed, signal, untracked, type Signal } from '@angular/core';

/** Milliseconds without a move after which a hand that holds something rests. */
const REST = 200;
/** Milliseconds between two looks while it does not: each look takes a frame or two longer than the hand would like. */
const LONGEST = 2000;

/**
 * Lets a view keep up with the hand: while it holds something, what is under it moves in every frame, and everything that
 * only follows looks again when it rests, or after a while. As soon as the hand lets go, everything is up to date.
 */
export class Calm {
  private readonly holding = signal(false);
  private readonly look = signal(0);
  private resting: ReturnType<typeof setTimeout> | undefined;
  private moving: ReturnType<typeof setInterval> | undefined;

  /** The hand takes hold of something, or lets it go. */
  hold(held: boolean): void {
    clearTimeout(this.resting);
    clearInterval(this.moving);
    this.holding.set(held);
    if (held) this.moving = setInterval(() => this.lookAgain(), LONGEST);
  }

  /** The hand moves what it holds. */
  moved(): void {
    clearTimeout(this.resting);
    if (this.holding()) this.resting = setTimeout(() => this.lookAgain(), REST);
  }

  private lookAgain(): void {
    this.look.update((count) => count + 1);
  }

  /** What a signal says: now, or while something is held, as of the last look. To be called within another signal. */
  read<T>(source: Signal<T>): T {
    if (!this.holding()) return source();
    this.look();
    return untracked(source);
  }

  /** A signal that follows another one: at once, or while something is held, with the next look. */
  following<T>(source: Signal<T>): Signal<T> {
    return computed(() => this.read(source));
  }
}
