import { afterEach, beforeEach, expect, it, vi } from 'vitest';
import { PlayingWindow } from './playing-window';

type Work = (lock: object | null) => Promise<void> | undefined;

/** The locks of a browser, as much of them as is used: one holder, who can be robbed or end. */
class Locks {
  private holder: { rob: () => void } | null = null;

  request(_name: string, { steal }: LockOptions, work: Work): Promise<void> {
    if (this.holder && !steal) return Promise.resolve(work(null));
    return new Promise((_resolve, reject) => {
      this.holder?.rob();
      this.holder = { rob: () => reject(new DOMException('stolen', 'AbortError')) };
      void work({});
    });
  }

  query(): Promise<{ held: { name: string }[] }> {
    return Promise.resolve({ held: this.holder ? [{ name: 'pentachord plays' }] : [] });
  }

  /** The window that plays is closed, or has crashed. */
  end(): void {
    this.holder = null;
  }
}

let locks: Locks;
let said: string[];
beforeEach(() => {
  vi.useFakeTimers();
  locks = new Locks();
  said = [];
  const kept = new Map<string, string>();
  vi.stubGlobal('navigator', { locks });
  vi.stubGlobal('localStorage', {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, text: string) => void kept.set(key, text),
  });
});
afterEach(() => {
  vi.useRealTimers();
  vi.unstubAllGlobals();
});
async function opened(name: string): Promise<PlayingWindow> {
  const window = new PlayingWindow();
  const say = (what: string) => () => void said.push(`${name} ${what}`);
  void window.open({ begin: say('plays'), stop: say('stops') });
  await vi.advanceTimersByTimeAsync(2000);
  return window;
}

it('one window plays; the others say which, and take over when asked', async () => {
  const show = await opened('show');
  show.sayView('Showtime');
  const desk = await opened('desk');
  expect(said).toEqual(['show plays']);
  expect([show.plays(), desk.plays(), desk.elsewhere()]).toEqual([true, false, 'Showtime']);
  desk.sayView('The desk');
  await desk.takeOver();
  await vi.advanceTimersByTimeAsync(0);
  expect(said.toSorted()).toEqual(['desk plays', 'show plays', 'show stops']);
  expect([show.plays(), show.elsewhere(), desk.elsewhere()]).toEqual([false, 'The desk', '']);
});

it('a silent window plays by itself once the other has been gone for some seconds', async () => {
  await opened('show');
  const desk = await opened('desk');
  locks.end();
  await vi.advanceTimersByTimeAsync(3000);
  expect(desk.plays()).toBe(false);
  await vi.advanceTimersByTimeAsync(4000);
  expect(desk.plays()).toBe(true);
});

it('a browser without locks plays in every window', async () => {
  vi.stubGlobal('navigator', {});
  expect([(await opened('one')).plays(), (await opened('two')).plays()]).toEqual([true, true]);
});

it('plays in a browser that refuses such locks', async () => {
  locks.request = () => Promise.reject(new DOMException('denied', 'SecurityError'));
  const desk = await opened('desk');
  expect([said, desk.plays(), desk.elsewhere()]).toEqual([['desk plays'], true, '']);
});
