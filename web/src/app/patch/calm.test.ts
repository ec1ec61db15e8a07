import { computed, signal } from '@angular/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Calm } from './calm';

describe('what only follows the hand', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  it('is up to date at once while nothing is held', () => {
    const source = signal(1);
    const following = new Calm().following(source);
    expect(following()).toBe(1);
    source.set(2);
    expect(following()).toBe(2);
  });

  it('looks again after a pause while something is held, and at once when it is let go', () => {
    const calm = new Calm();
    const source = signal(1);
    let computings = 0;
    const costly = computed(() => {
      computings++;
      return source() * 10;
    });
    const following = calm.following(costly);
    following();
    calm.hold(true);
    following();
    for (let i = 2; i < 50; i++) {
      source.set(i);
      expect(following()).toBe(10);
    }
    expect(computings).toBe(1);
    vi.advanceTimersByTime(1100);
    expect(following()).toBe(490);
    source.set(50);
    expect(following()).toBe(490);
    calm.hold(false);
    expect(following()).toBe(500);
    source.set(51);
    expect(following()).toBe(510);
  });
});
