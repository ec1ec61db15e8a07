import { Injector, runInInjectionContext } from '@angular/core';
import { houseSourceId, type Keyboard } from '@pentachord/core/model';
import { EVEN_TOUCH } from '@pentachord/core/touch';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { SoundLoader } from './audio/sound-loader';
import { Live } from './live';
import { CABLE_NAME, StandInCable, StandInInPorts, StandInOutPort } from './ports/cable';
import { ScreenHands } from './hands/screen-hands';

const keyboard: Keyboard = {
  kind: 'keyboard',
  id: 'upper',
  rigId: 's',
  position: 0,
  name: 'Upper',
  place: 'keys1',
  port: 'upper port',
  at: null,
  alsoAt: [],
  heardAs: null,
  settings: { known: null, wanted: {} },
  lowestKey: 28,
  highestKey: 103,
  channel: 1,
  octaveShift: 1,
  touch: EVEN_TOUCH,
};

describe('hands on the screen', () => {
  let received: { port: string; bytes: number[]; cable: string }[];
  let hands: ScreenHands;
  beforeEach(() => {
    received = [];
    const live = {
      receive: (port: string, bytes: number[], cable: string) =>
        received.push({ port, bytes, cable }),
    };
    const injector = Injector.create({ providers: [{ provide: Live, useValue: live }] });
    hands = runInInjectionContext(injector, () => new ScreenHands());
  });
  const typed = (code: string, more: Partial<KeyboardEvent> = {}) =>
    hands.typeDown(
      {
        code,
        ctrlKey: false,
        metaKey: false,
        altKey: false,
        repeat: false,
        ...more,
      } as KeyboardEvent,
      keyboard,
    );

  it('take the keyboard’s own octave shift off, since the keyboard puts it on again', () => {
    hands.strike(keyboard, 72, 90);
    hands.release(keyboard, 72);
    expect(received.map((r) => r.bytes)).toEqual([
      [0x90, 60, 90],
      [0x80, 60, 64],
    ]);
    expect(received[0]).toMatchObject({ port: 'upper port', cable: 'upper port on screen' });
  });

  it('play by the place of the computer’s keys, once however long they are held', () => {
    expect(typed('KeyA')).toBe(false);
    hands.typing.set(true);
    expect(typed('KeyA')).toBe(true);
    expect(typed('KeyA', { repeat: true })).toBe(true);
    expect(typed('KeyZ')).toBe(false);
    expect(typed('KeyA', { ctrlKey: true })).toBe(false);
    hands.typeUp('KeyA');
    expect(received.map((r) => r.bytes)).toEqual([
      [0x90, 48, 80],
      [0x80, 48, 64],
    ]);
  });

  it('let go of the key that was struck, even when the octave has moved since', () => {
    hands.typing.set(true);
    typed('KeyD');
    typed('Equal');
    typed('Period');
    hands.typeUp('KeyD');
    typed('KeyD');
    hands.letGo();
    expect(received.map((r) => r.bytes)).toEqual([
      [0x90, 52, 80],
      [0x80, 52, 64],
      [0x90, 64, 90],
      [0x80, 64, 64],
    ]);
  });
});

describe('the cable', () => {
  const heard = async (count: number, list: unknown[]) =>
    vi.waitFor(() => expect(list).toHaveLength(count));

  it('carries bytes both ways and passes over what is no cable message', async () => {
    const arrived: [string, number[]][] = [];
    const toModule: [string, number[]][] = [];
    new StandInInPorts().open((port, bytes) => arrived.push([port, [...Array.from(bytes)]]));
    const standIns = new StandInCable();
    standIns.listen((port, bytes) => toModule.push([port, [...Array.from(bytes)]]));
    const stranger = new BroadcastChannel(CABLE_NAME);
    for (const nonsense of [
      null,
      'bytes',
      { port: 'x' },
      { direction: 'in', port: 'x', bytes: [300] },
    ])
      stranger.postMessage(nonsense);
    standIns.send('upper port', []);
    standIns.send('upper port', [0x90, 60, 1]);
    const played: number[][] = [];
    new StandInOutPort('module', (bytes) => played.push([...bytes])).send([0xc0, 5], 0);
    await heard(1, arrived);
    await heard(1, toModule);
    expect(arrived).toEqual([['upper port', [0x90, 60, 1]]]);
    expect(toModule).toEqual([['module', [0xc0, 5]]]);
    expect(played).toEqual([[0xc0, 5]]);
    standIns.close();
    stranger.close();
  });
});

describe('the loader of house sounds', () => {
  /** A worker that answers only when the test says so. */
  class SilentWorker extends EventTarget {
    static all: SilentWorker[] = [];
    readonly asked: unknown[] = [];
    constructor() {
      super();
      SilentWorker.all.push(this);
    }
    postMessage(request: unknown): void {
      this.asked.push(request);
    }
    answer(data: unknown): void {
      this.dispatchEvent(new MessageEvent('message', { data }));
    }
  }
  beforeEach(() => {
    SilentWorker.all = [];
    vi.stubGlobal('Worker', SilentWorker);
  });
  afterEach(() => vi.unstubAllGlobals());

  const samples = new Float32Array(8);
  const zone = {
    rootKey: 60,
    keys: { low: 0, high: 127 },
    velocities: { low: 1, high: 127 },
    sampleRate: 44100,
    left: samples,
    right: samples,
    loopStart: 0,
    loopEnd: 8,
    loopDecay: 0,
  };
  const response = [{ velocity: 64, loudness: -30 }];

  it('asks for each sound once, tells progress, and hands sounds over as they are ready', async () => {
    const loaded: number[] = [];
    const measured: [string, number][] = [];
    const loader = new SoundLoader((slot) => loaded.push(slot));
    loader.onMeasured = (id, _response, voiceCost) => measured.push([id, voiceCost]);
    expect(loader.playedBy('house/nothing')).toBeNull();
    expect([
      loader.playedBy('house/felt-piano')?.slot,
      loader.playedBy('house/warm-pad')?.slot,
      loader.playedBy('house/felt-piano')?.slot,
    ]).toEqual([0, 1, 0]);
    await Promise.resolve();
    const [first, second] = SilentWorker.all;
    expect([first.asked, second.asked]).toEqual([
      [{ kind: 'render', sourceId: 'house/felt-piano' }],
      [{ kind: 'render', sourceId: 'house/warm-pad' }],
    ]);
    first.answer({ kind: 'progress', sourceId: 'house/felt-piano', done: 7, of: 28 });
    expect(loader.progress).toMatchObject({
      ready: 0,
      of: 2,
      making: { name: 'Felt piano', done: 0.25 },
    });
    first.answer({ kind: 'ready', sourceId: 'house/felt-piano', zones: [zone] });
    expect(loaded).toEqual([0]);
    expect(loader.progress).toMatchObject({ ready: 1, of: 2, making: null });
    await Promise.resolve();
    expect(first.asked.at(-1)).toEqual({ kind: 'know', sourceId: 'house/felt-piano' });
    first.answer({ kind: 'known', sourceId: 'house/felt-piano', response, voiceCost: 0.002 });
    expect(measured).toEqual([['house/felt-piano', 0.002]]);
  });

  it('makes the sounds of the patch before all others', async () => {
    const loader = new SoundLoader(() => undefined);
    for (const recipe of ['felt-piano', 'warm-pad', 'glass-bells', 'tine-piano'])
      loader.playedBy(houseSourceId(recipe));
    loader.prefer(new Set(['house/tine-piano', 'house/glass-bells']));
    await Promise.resolve();
    const asked = () => SilentWorker.all.map((worker) => worker.asked.at(-1));
    expect(asked()).toEqual([
      { kind: 'render', sourceId: 'house/glass-bells' },
      { kind: 'render', sourceId: 'house/tine-piano' },
    ]);
    expect(loader.preferredReady).toBe(false);
    SilentWorker.all[0].answer({ kind: 'ready', sourceId: 'house/glass-bells', zones: [zone] });
    SilentWorker.all[1].answer({
      kind: 'failed',
      sourceId: 'house/tine-piano',
      problem: 'no memory',
    });
    expect(loader.preferredReady).toBe(true);
  });

  it('says what went wrong, and does not wait for it for ever', async () => {
    const loader = new SoundLoader(() => {
      throw new Error('a broken sound must not be loaded');
    });
    loader.playedBy('house/felt-piano');
    loader.playedBy('house/warm-pad');
    await Promise.resolve();
    const [first, second] = SilentWorker.all;
    first.answer({
      kind: 'ready',
      sourceId: 'house/felt-piano',
      zones: [{ ...zone, left: 'noise' }],
    });
    expect(loader.progress.problems[0]).toContain('came out broken');
    second.answer({ kind: 'failed', sourceId: 'house/warm-pad', problem: 'no memory' });
    expect(loader.progress.problems[1]).toBe('Warm pad could not be made: no memory');
    expect(loader.progress.ready).toBe(2);
  });
});
