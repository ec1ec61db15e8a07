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

  it('looks again when the hand rests, after a while when it does not, and at once when it lets go', () => {
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
      calm.moved();
      vi.advanceTimersByTime(20);
      expect(following()).toBe(10);
    }
    expect(computings).toBe(1);
    vi.advanceTimersByTime(200);
    expect(following()).toBe(490);
    for (let i = 60; i < 160; i++) {
      source.set(i);
      calm.moved();
      vi.advanceTimersByTime(20);
    }
    expect(following()).toBeGreaterThan(1000);
    expect(computings).toBe(3);
    vi.advanceTimersByTime(200);
    expect(following()).toBe(1590);
    source.set(50);
    expect(following()).toBe(1590);
    calm.hold(false);
    expect(following()).toBe(500);
    source.set(51);
    expect(following()).toBe(510);
  });
});
