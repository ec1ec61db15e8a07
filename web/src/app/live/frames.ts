import { DestroyRef, Injectable, afterNextRender, inject } from '@angular/core';

/** Calls back once a frame, for views that show what sounds. One loop for all, and none when nobody looks. */
@Injectable({ providedIn: 'root' })
export class Frames {
  private readonly callbacks = new Set<() => void>();
  private running = false;

  /** Calls back every frame until the returned function is called. */
  each(callback: () => void): () => void {
    this.callbacks.add(callback);
    if (!this.running) {
      this.running = true;
      requestAnimationFrame(() => this.frame());
    }
    return () => this.callbacks.delete(callback);
  }

  private frame(): void {
    if (this.callbacks.size === 0) {
      this.running = false;
      return;
    }
    // Whoever fails is told of; the others are called with the next frame all the same.
    requestAnimationFrame(() => this.frame());
    for (const callback of this.callbacks) callback();
  }
}

/** Calls back every frame as long as the component lives, from when its inputs are there and it has been drawn. */
export function eachFrame(callback: () => void): void {
  const frames = inject(Frames);
  const destroyed = inject(DestroyRef);
  afterNextRender(() => {
    if (!destroyed.destroyed) destroyed.onDestroy(frames.each(callback));
  });
}
