import { Injector, runInInjectionContext } from '@angular/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { afterSounds } from './after-sounds';
import { Live } from './live';

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

/** The sounds as they stand, and how often it was told. */
function listening() {
  const progress = { ready: 0, of: 0 };
  const injector = Injector.create({
    providers: [{ provide: Live, useValue: { sounds: { progress } } }],
  });
  const told = { times: 0 };
  runInInjectionContext(injector, afterSounds).subscribe(() => told.times++);
  return { progress, told };
}

describe('what waits for the sounds of a first visit', () => {
  it('begins when all that were asked for are made, once, and leaves the measuring its time', () => {
    const { progress, told } = listening();
    vi.advanceTimersByTime(3000);
    progress.of = 8;
    progress.ready = 7;
    vi.advanceTimersByTime(3000);
    progress.ready = 8;
    vi.advanceTimersByTime(1500);
    expect(told.times).toBe(0);
    vi.advanceTimersByTime(1000);
    expect(told.times).toBe(1);
    vi.advanceTimersByTime(60_000);
    expect(told.times).toBe(1);
  });

  it('begins after a quarter of a minute where no sound is asked for, or one never comes', () => {
    const { told } = listening();
    vi.advanceTimersByTime(14_900);
    expect(told.times).toBe(0);
    vi.advanceTimersByTime(200);
    expect(told.times).toBe(1);
  });
});
