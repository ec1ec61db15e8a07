import { DestroyRef, inject, signal } from '@angular/core';

/**
 * Waits for something to be touched, for one purpose at a time; asked for the same again it waits no more. It ends with whatever
 * it is made in. To be made where things can be injected.
 */
export class TouchWait<T> {
  private readonly purpose = signal<T | null>(null);
  private endListening: (() => void) | null = null;
  /** What it waits for; null while it does not. */
  readonly waiting = this.purpose.asReadonly();

  constructor() {
    inject(DestroyRef).onDestroy(() => this.stop());
  }

  /** Waits for this; `listen` begins to listen and gives what ends it. Gives false when it waited for it, and waits no more. */
  begin(purpose: T, listen: () => () => void): boolean {
    const again = this.purpose() === purpose;
    this.stop();
    if (again) return false;
    this.purpose.set(purpose);
    this.endListening = listen();
    return true;
  }

  /** What was waited for is there; it goes on listening. */
  found(): void {
    this.purpose.set(null);
  }

  stop(): void {
    this.endListening?.();
    this.endListening = null;
    this.purpose.set(null);
  }
}
