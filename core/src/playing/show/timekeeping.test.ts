import { beforeEach, describe, expect, it } from 'vitest';
import { ShowClock } from '../../clock/show-clock.js';
import { USUAL_GOING } from '../../model/show/going.js';
import { FASTEST_TEMPO, FOUR_FOUR, SLOWEST_TEMPO } from '../../model/show/song.js';
import { Timekeeping } from './timekeeping.js';

const usual = USUAL_GOING.clock;
let now: number;
let clock: ShowClock;
let sent: [port: string, status: number][];
let clicks: [at: number, isFirst: boolean][];
let calledOff: number;
let keeping: Timekeeping;
beforeEach(() => {
  now = 10;
  sent = [];
  clicks = [];
  calledOff = 0;
  clock = new ShowClock(() => now);
  keeping = new Timekeeping(
    clock,
    { click: (at, isFirst) => clicks.push([at, isFirst]), callOff: () => calledOff++ },
    (name) => ({ send: ([status]) => void sent.push([name, status]) }),
  );
});
const pass = (seconds: number) => {
  for (const end = now + seconds; now < end - 1e-9;) {
    now += 0.005;
    keeping.advance();
  }
};
const ticks = (count: number, tempo: number) => {
  for (let i = 0; i < count; i++) {
    now += 60 / tempo / 24;
    keeping.message('leader', 0xf8, 0, 0, now);
  }
};

describe('keeping time', () => {
  it('leaves a click that was switched by hand alone until the show says otherwise', () => {
    keeping.set(usual);
    keeping.switchClick();
    expect(keeping.metronome.isOn).toBe(true);
    keeping.set({ ...usual, countInBars: 2 });
    expect(keeping.metronome.isOn).toBe(true);
    keeping.set({ ...usual, click: { ...usual.click, on: true } });
    keeping.switchClick();
    expect(keeping.metronome.isOn).toBe(false);
  });

  it('tells those who follow, and others when others stand behind their names', () => {
    keeping.set({ ...usual, followers: ['a', 'b'] });
    pass(1);
    expect(new Set(sent.map(([port]) => port))).toEqual(new Set(['a', 'b']));
    // 120 a minute: 48 ticks a second, for each.
    expect(sent.length).toBeGreaterThan(90);
    sent.length = 0;
    const before = keeping.outgoing;
    keeping.set({ ...usual, followers: ['a', 'b'], countInBars: 2 });
    pass(0.005);
    expect(keeping.outgoing).toBe(before);
    keeping.set({ ...usual, followers: [] });
    sent.length = 0;
    pass(1);
    expect(sent).toEqual([]);
    keeping.tellFollowers();
    expect(keeping.outgoing.needsClock).toBe(false);
  });

  it('takes the tempo of what is played, unless another device leads', () => {
    keeping.take(90, FOUR_FOUR);
    expect(clock.tempo).toBe(90);
    keeping.set({ ...usual, leader: 'leader' });
    keeping.take(95, FOUR_FOUR);
    expect(clock.tempo).toBe(95);
    ticks(96, 140);
    keeping.take(60, FOUR_FOUR);
    expect(clock.tempo).toBeCloseTo(140, 1);
    // A leader that falls silent is lost, and the show's own tempo counts again.
    pass(3);
    expect(keeping.leading.now).toBe('lost');
    keeping.take(60, FOUR_FOUR);
    expect(clock.tempo).toBe(60);
  });

  it('hears taps in tenths, between the slowest and the quickest tempo', () => {
    expect(keeping.tap(0)).toBeNull();
    expect(keeping.tap(0.5)).toBe(120);
    expect(keeping.tap(1.013)).toBe(118.5);
    const fast = [20, 20.13, 20.26].map((time) => keeping.tap(time)).at(-1);
    expect(fast).toBe(FASTEST_TEMPO);
    const slow = [30, 31.99].map((time) => keeping.tap(time)).at(-1);
    expect(slow).toBe(Math.max(SLOWEST_TEMPO, 30.2));
  });
});

describe('counting in', () => {
  it('clicks the bars asked for, in the metre of the song, and starts the others with the first beat', () => {
    keeping.set({ ...usual, countInBars: 2, followers: ['a'] });
    keeping.take(120, { beats: 6, unit: 8 });
    keeping.countIn();
    expect(keeping.countsIn).toBe(true);
    const begun = now;
    pass(2.9);
    expect(keeping.countsIn).toBe(true);
    expect(sent.some(([, status]) => status === 0xfa)).toBe(false);
    pass(1);
    expect(keeping.countsIn).toBe(false);
    expect(clicks.filter(([, isFirst]) => isFirst)).toHaveLength(2);
    expect(clicks).toHaveLength(12);
    // Two bars of six eighths at 120 quarters: three seconds; others keep to the clock, so it begins on a beat.
    expect(clicks[0][0] - begun).toBeLessThan(0.51);
    expect(clicks[11][0] - clicks[0][0]).toBeCloseTo(11 * 0.25, 6);
    expect(sent.filter(([, status]) => status === 0xfa)).toHaveLength(1);
  });

  it('is one bar while the show has said nothing, at once', () => {
    keeping.countIn();
    expect(clock.beatsInBars).toBeCloseTo(-4, 9);
    expect(clicks[0][0]).toBeCloseTo(now, 6);
  });

  it('is left to the device that leads', () => {
    keeping.set({ ...usual, leader: 'leader' });
    ticks(96, 120);
    const from = clock.firstBeat;
    keeping.countIn();
    expect([keeping.countsIn, clock.firstBeat]).toEqual([false, from]);
    expect(clicks).toEqual([]);
  });

  it('is called off by a stop: others stop, bars begin with a whole beat, and nothing clicks', () => {
    keeping.set({ ...usual, followers: ['a'] });
    keeping.countIn();
    pass(0.8);
    sent.length = 0;
    const before = calledOff;
    keeping.stop();
    expect(sent).toEqual([['a', 0xfc]]);
    expect([keeping.countsIn, calledOff > before]).toEqual([false, true]);
    expect(Number.isInteger(clock.firstBeat)).toBe(true);
    expect(clock.beatsInBars).toBeGreaterThanOrEqual(0);
    expect(clock.beatsInBars).toBeLessThan(1);
    clicks.length = 0;
    pass(2);
    expect(clicks).toEqual([]);
    expect(sent.some(([, status]) => status === 0xfa)).toBe(false);
    // Afterwards a stop leaves the bars as they are counted.
    const from = clock.firstBeat;
    keeping.stop();
    expect(clock.firstBeat).toBe(from);
  });
});

describe('whoever keeps to the clock', () => {
  /** Where the clock stands before and after something begins to run on it, in beats. */
  const leap = () => {
    const before = clock.beats;
    clock.join();
    const after = clock.beats;
    clock.leave();
    return after - before;
  };

  it('does not have it leap: a click, others that follow, a leader', () => {
    keeping.set(usual);
    now += 0.123;
    expect(leap()).toBeGreaterThan(1);
    keeping.switchClick();
    now += 0.123;
    expect(leap()).toBe(0);
    keeping.switchClick();
    now += 0.123;
    expect(leap()).toBeGreaterThan(1);
    keeping.set({ ...usual, followers: ['a'] });
    now += 0.123;
    expect(leap()).toBe(0);
    keeping.set({ ...usual, leader: 'leader' });
    expect(leap()).toBeGreaterThan(1);
    ticks(96, 120);
    expect(leap()).toBe(0);
    pass(3);
    expect(leap()).toBeGreaterThan(1);
  });
});
