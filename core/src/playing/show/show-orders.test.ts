import { beforeEach, describe, expect, it } from 'vitest';
import { ShowOrders, type OrderParts, type ShowPress } from './show-orders.js';

let now: number;
let done: unknown[][];
let tapped: number | null;
let isFree: boolean;
let patchId: string;
let trims: Record<string, number>;
let orders: ShowOrders;
/** Does nothing but remember what it was asked for, and gives `answer` back. */
const noting = (who: string, answer: unknown = true) =>
  new Proxy(
    {},
    {
      get:
        (_, name) =>
        (...asked: unknown[]) => {
          done.push([who, name, ...asked]);
          return answer;
        },
    },
  );
beforeEach(() => {
  now = 100;
  done = [];
  tapped = 120;
  isFree = true;
  patchId = 'patch';
  trims = { a: 0, b: 0 };
  const runner = {
    guardSeconds: 0.5,
    get current() {
      return patchId === '' ? null : { id: patchId, layers: [{ id: 'a' }, { id: 'b' }] };
    },
    trimOf: (id: string) => trims[id],
    trim: (id: string, by: number) => void (trims[id] = by),
  };
  const parts = {
    player: noting('player'),
    runner: new Proxy(noting('runner', 'answer'), {
      get: (target, name) =>
        name in runner ? Reflect.get(runner, name) : (Reflect.get(target, name) as unknown),
    }),
    timekeeping: {
      get leading() {
        return { isFree };
      },
      tap: (time: number) => (done.push(['tap', time]), tapped),
      countIn: () => done.push(['countIn']),
      stop: () => done.push(['stop']),
      switchClick: () => done.push(['switchClick']),
    },
    now: () => now,
  };
  orders = new ShowOrders(parts as unknown as OrderParts);
});

describe('a press', () => {
  it.each<[ShowPress, unknown[]]>([
    ['nextCue', ['runner', 'move', 1]],
    ['previousCue', ['runner', 'move', -1]],
    ['nextSong', ['runner', 'moveSong', 1]],
    ['previousSong', ['runner', 'moveSong', -1]],
    ['transposeUp', ['runner', 'transpose', 1]],
    ['transposeDown', ['runner', 'transpose', -1]],
    ['countIn', ['countIn']],
    ['stopClock', ['stop']],
    ['click', ['switchClick']],
    ['allNotesOff', ['player', 'allNotesOff']],
  ])('of %s asks for that, and says how it went', (action, asked) => {
    expect(orders.press(action)).toBe(asked[0] === 'runner' ? 'answer' : true);
    expect(done).toEqual([asked]);
  });

  it('within the guard’s time is passed over, and the guard begins anew', () => {
    expect(orders.press('click', 1)).toBe(true);
    expect(orders.press('click', 1.4)).toBe(false);
    expect(orders.press('click', 1.8)).toBe(false);
    expect(orders.press('stopClock', 1.8)).toBe(true);
    expect(orders.press('click', 2.5)).toBe(true);
    expect([orders.guarded, done.length]).toEqual([2, 3]);
  });

  it('of taps and of all notes off is heard however often it comes', () => {
    for (const time of [1, 1.1, 1.2]) {
      expect(orders.press('tapTempo', time)).toBe(true);
      expect(orders.press('allNotesOff', time)).toBe(true);
    }
    expect(done.filter(([who]) => who === 'tap')).toEqual([
      ['tap', 1],
      ['tap', 1.1],
      ['tap', 1.2],
    ]);
    expect(done).toContainEqual(['runner', 'setTempo', 120]);
    expect(orders.guarded).toBe(0);
  });

  it('of a tap changes nothing before there is a tempo, or while another device leads', () => {
    tapped = null;
    expect(orders.press('tapTempo')).toBe(false);
    tapped = 90;
    isFree = false;
    expect(orders.press('tapTempo')).toBe(false);
    expect(done.map(([who]) => who)).toEqual(['tap', 'tap']);
  });
});

describe('a control of the show', () => {
  const control = { place: 'pads1', message: { kind: 'note', note: 1 } } as const;

  it('goes to a cue or a song, each guarded by itself', () => {
    const goTo = (cueId: string | null, time: number) =>
      orders.carryOut({ ...control, action: 'goTo', songId: 'song', cueId }, 100, time);
    goTo('one', 1);
    goTo('two', 1.1);
    goTo('one', 1.2);
    expect(done).toEqual([
      ['runner', 'goTo', 'song', 'one'],
      ['runner', 'goTo', 'song', 'two'],
    ]);
    done.length = 0;
    // What comes with a program or a song select counts from 0, songs from 1.
    orders.carryOut({ ...control, action: 'chooseSong' }, 8, 3);
    orders.carryOut({ ...control, action: 'chooseSong' }, 9, 3);
    orders.carryOut({ ...control, action: 'chooseSong' }, 8, 3.1);
    expect(done).toEqual([
      ['runner', 'chooseSong', 9],
      ['runner', 'chooseSong', 10],
    ]);
    expect(orders.guarded).toBe(2);
    expect(orders.goTo('song', null)).toBe('answer');
    expect(orders.goTo('song', null)).toBe(false);
    now += 0.5;
    expect(orders.goTo('song', null)).toBe('answer');
    expect(orders.chooseSong(3)).toBe('answer');
    expect(orders.chooseSong(3)).toBe(false);
  });

  it('carries a press out at its time', () => {
    orders.carryOut({ ...control, action: 'nextCue' }, 100, 1);
    orders.carryOut({ ...control, action: 'nextCue' }, 100, 1.2);
    expect(done).toEqual([['runner', 'move', 1]]);
  });

  it('trims the layer of its letter, from where the trim stands', () => {
    const turn = (layer: number, value: number) =>
      orders.carryOut({ ...control, action: 'trim', layer }, value, 1);
    turn(1, 100);
    expect(trims).toEqual({ a: 0, b: 0 });
    turn(1, 64);
    turn(1, 127);
    expect(trims).toEqual({ a: 0, b: 12 });
    turn(5, 64);
    expect(trims).toEqual({ a: 0, b: 12 });
    // A knob that has taken its trim over keeps it, wherever that was put meanwhile.
    trims['b'] = -20;
    turn(1, 126);
    expect(trims['b']).toBe(11.8);
    // In another patch the knob waits again.
    patchId = 'another';
    trims['b'] = -10;
    turn(1, 100);
    expect(trims['b']).toBe(-10);
    turn(1, 0);
    expect(trims['b']).toBe(-24);
    turn(1, 100);
    expect(trims['b']).toBe(6.9);
    patchId = '';
    turn(0, 64);
    expect(trims['a']).toBe(0);
  });
});
