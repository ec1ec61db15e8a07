import { DestroyRef, inject, signal, type Signal } from '@angular/core';

/** How many parts of a view are there: the first at once, one more with every frame. To be called where it can inject. */
export function partByPart(parts: number): Signal<number> {
  const there = signal(1);
  let frame = 0;
  const next = () => {
    there.update((count) => count + 1);
    if (there() < parts) frame = requestAnimationFrame(next);
  };
  frame = requestAnimationFrame(next);
  inject(DestroyRef).onDestroy(() => cancelAnimationFrame(frame));
  return there;
}
