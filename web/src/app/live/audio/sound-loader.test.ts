import { beforeEach, describe, expect, it, vi } from 'vitest';
import { SoundLoader } from './sound-loader';
import type { SoundRequest } from './sound-messages';

class Making extends EventTarget {
  readonly asked: SoundRequest[] = [];
  postMessage(request: SoundRequest): void {
    this.asked.push(request);
  }
  terminate(): void {
    this.asked.push = () => {
      throw new Error('asked of a worker that is gone');
    };
  }
  answers(data: unknown): void {
    this.dispatchEvent(new MessageEvent('message', { data }));
  }
}
const workers: Making[] = [];
vi.mock('./sound-workers', () => ({
  SOUND_WORKERS: 1,
  takeSoundWorker: () => {
    const worker = new Making();
    workers.push(worker);
    return worker;
  },
}));

/** What is asked for in one go is handed out in the next moment. */
const handedOut = () => Promise.resolve();

beforeEach(() => workers.splice(0));

describe('a worker that does not do what it was asked for', () => {
  it.each([
    ['gives it up', (worker: Making) => worker.answers({ kind: 'undone' })],
    ['gives a broken answer', (worker: Making) => worker.answers({ kind: 'gauged', budget: -1 })],
    ['breaks down', (worker: Making) => worker.dispatchEvent(new Event('error'))],
  ])('keeps nobody waiting when it %s, and the next is asked', async (_, fails) => {
    const loader = new SoundLoader(() => undefined);
    const nothing = loader.mix([], () => null);
    const budget = loader.gauge();
    await handedOut();
    const asked = () => workers.flatMap((worker) => worker.asked.map(({ kind }) => kind));
    fails(workers[workers.length - 1]);
    expect(await nothing).toEqual([]);
    expect(asked()).toEqual(['mix', 'gauge']);
    fails(workers[workers.length - 1]);
    expect(await budget).toBeNull();
    // Asked for again it is tried again.
    const again = loader.mix([], () => null);
    await handedOut();
    expect(asked()).toHaveLength(3);
    workers.at(-1)?.answers({ kind: 'mixed', key: '[]', mixtures: [] });
    expect(await again).toEqual([]);
    void loader.mix([], () => null);
    await handedOut();
    expect(asked()).toHaveLength(3);
  });
});
