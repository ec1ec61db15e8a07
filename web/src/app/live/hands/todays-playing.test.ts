import { createEnvironmentInjector, Injector, type EnvironmentInjector } from '@angular/core';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { Live } from '../live';
import { Ticker } from '../ticker';
import { TodaysPlaying } from './todays-playing';

describe('what was played today', () => {
  let kept: Map<string, string>;
  let strike: (velocity: number) => void;
  let leave: () => void;
  let injectors: EnvironmentInjector[];
  beforeEach(() => {
    vi.useFakeTimers({ now: new Date(2027, 4, 1, 20) });
    kept = new Map();
    injectors = [];
    vi.stubGlobal('localStorage', {
      getItem: (key: string) => kept.get(key) ?? null,
      setItem: (key: string, value: string) => kept.set(key, value),
    });
    vi.stubGlobal('addEventListener', (_type: string, listener: () => void) => (leave = listener));
    vi.stubGlobal('removeEventListener', () => undefined);
  });
  afterEach(() => {
    for (const injector of injectors) injector.destroy();
    vi.unstubAllGlobals();
    vi.useRealTimers();
  });

  /** As after opening the page. */
  function opened(): TodaysPlaying {
    const host = {
      listenToKeys: (listener: (key: number, velocity: number) => void) => {
        strike = (velocity) => listener(60, velocity);
        return () => undefined;
      },
    };
    const injector = createEnvironmentInjector(
      [TodaysPlaying, { provide: Live, useValue: { host } }],
      Injector.create({ providers: [] }) as EnvironmentInjector,
    );
    injectors.push(injector);
    return injector.get(TodaysPlaying);
  }

  it('is counted by strength, and kept over a reload', () => {
    const playing = opened();
    for (const velocity of [40, 90, 40]) strike(velocity);
    expect(playing.total).toBe(3);
    const counted = [
      { velocity: 40, count: 2 },
      { velocity: 90, count: 1 },
    ];
    expect(playing.velocities()).toEqual(counted);
    leave();
    expect(opened().velocities()).toEqual(counted);
  });

  it('begins anew with another day, and when what was kept cannot be read', () => {
    const playing = opened();
    strike(40);
    leave();
    vi.setSystemTime(new Date(2027, 4, 2, 0, 5));
    strike(70);
    expect(playing.velocities()).toEqual([{ velocity: 70, count: 1 }]);
    expect(opened().total).toBe(0);
    for (const nonsense of ['{', 'null', '{"day":3}', '{"day":"x","counts":[1]}']) {
      for (const key of kept.keys()) kept.set(key, nonsense);
      expect(opened().total).toBe(0);
    }
  });
});

describe('the ticker', () => {
  class TickingWorker extends EventTarget {
    static made: TickingWorker[] = [];
    readonly told: unknown[] = [];
    constructor() {
      super();
      TickingWorker.made.push(this);
    }
    postMessage(message: unknown): void {
      this.told.push(message);
    }
    tick(): void {
      this.dispatchEvent(new MessageEvent('message'));
    }
  }
  beforeEach(() => {
    TickingWorker.made = [];
    vi.stubGlobal('Worker', TickingWorker);
  });
  afterEach(() => void vi.unstubAllGlobals());

  it('ticks while something waits, rests afterwards, and starts again', () => {
    let waiting = 3;
    let ticks = 0;
    const ticker = new Ticker(() => {
      ticks++;
      return --waiting > 0;
    });
    expect(TickingWorker.made).toEqual([]);
    ticker.start();
    ticker.start();
    const [worker, ...others] = TickingWorker.made;
    expect(others).toEqual([]);
    for (let i = 0; i < 10; i++) worker.tick();
    // What is still on its way when it rests is passed over.
    expect(ticks).toBe(3);
    expect(worker.told).toEqual([true, false]);
    waiting = 1;
    ticker.start();
    worker.tick();
    expect([ticks, TickingWorker.made.length]).toEqual([4, 1]);
  });
});
