import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { Metronome } from './metronome.js';
import { OutgoingClock } from './outgoing-clock.js';
import { ShowClock } from './show-clock.js';

let now: number;
let clock: ShowClock;
beforeEach(() => {
  now = 10;
  clock = new ShowClock(() => now);
  clock.tempo = 120;
});

/** Lets time go by as the ticker does. */
const wait = (seconds: number, tick: () => void, step = 0.004) => {
  const until = now + seconds;
  while (now < until - 1e-9) {
    now = Math.min(until, now + step);
    tick();
  }
};

describe('the click', () => {
  let heard: [number, boolean][];
  let due: [number, boolean][];
  let metronome: Metronome;
  beforeEach(() => {
    heard = [];
    due = [];
    metronome = new Metronome(clock, {
      click: (at, isFirst) => due.push([at, isFirst]),
      callOff: () => (due = due.filter(([at]) => at <= now)),
    });
  });
  const tick = () => {
    metronome.advance();
    for (const click of due) if (click[0] <= now + 1e-9) heard.push(click);
    due = due.filter((click) => !heard.includes(click));
  };

  it('comes on every count of the bar at its very time, the first told apart', () => {
    clock.metre = { beats: 3, unit: 4 };
    clock.restart();
    metronome.isOn = true;
    wait(2.9, tick);
    expect(heard.map(([at]) => at - 10)).toEqual([0, 0.5, 1, 1.5, 2, 2.5].map(near));
    expect(heard.map(([, first]) => first)).toEqual([true, false, false, true, false, false]);
    metronome.isOn = false;
    wait(2, tick);
    expect(heard).toHaveLength(6);
    // Six counts of an eighth.
    clock.metre = { beats: 6, unit: 8 };
    metronome.isOn = true;
    wait(1.5, tick);
    expect(heard).toHaveLength(12);
  });

  it('counts in without being on, and bars begin after it', () => {
    clock.countIn(4);
    metronome.clickUntil(clock.firstBeat);
    wait(1, tick);
    expect(clock.beatsInBars).toBeCloseTo(-2, 6);
    wait(2, tick);
    expect(heard.map(([, first]) => first)).toEqual([true, false, false, false]);
    expect(metronome.needsClock).toBe(false);
  });

  it('goes on when bars are counted from elsewhere, and tells the first of the new ones apart', () => {
    clock.restart();
    metronome.isOn = true;
    wait(9.9, tick);
    expect(heard).toHaveLength(20);
    // Another device has started: its bars begin with the beat that comes.
    clock.countFrom(clock.firstBeat + 20);
    wait(2, tick);
    expect(heard).toHaveLength(24);
    expect(heard.slice(20).map(([, first]) => first)).toEqual([true, false, false, false]);
  });

  it('follows any changes of tempo: no count is left out, doubled or late', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 40, max: 240 }), { maxLength: 12 }), (tempos) => {
        now = 10;
        heard = [];
        due = [];
        clock = new ShowClock(() => now);
        metronome = new Metronome(clock, {
          click: (at, isFirst) => due.push([at, isFirst]),
          callOff: () => (due = due.filter(([at]) => at <= now)),
        });
        clock.restart();
        const from = clock.beats;
        metronome.isOn = true;
        for (const tempo of tempos) {
          clock.tempo = tempo;
          wait(0.3, tick);
        }
        const passed = Math.floor(clock.beats - from + 1e-9);
        expect(Math.abs(heard.length - (passed + 1))).toBeLessThanOrEqual(
          tempos.length > 0 ? 0 : 1,
        );
      }),
    );
  });
});

describe('the clock for other devices', () => {
  it('is 24 ticks a beat, each with its time, and starts with the first beat after a count-in', () => {
    const sent: [number, number][] = [];
    const outgoing = new OutgoingClock(clock);
    expect(outgoing.needsClock).toBe(false);
    outgoing.followers = [{ send: ([status], at) => sent.push([status, at]) }];
    clock.countIn(2);
    outgoing.startAt(clock.firstBeat);
    wait(1.5, () => outgoing.advance());
    const start = sent.findIndex(([status]) => status === 0xfa);
    expect(sent[start][1]).toBeCloseTo(11, 6);
    expect(sent[start + 1]).toEqual([0xf8, sent[start][1]]);
    const ticks = sent.filter(([status]) => status === 0xf8).map(([, at]) => at);
    expect(ticks.filter((at) => at >= 11 - 1e-6 && at < 11.5 - 1e-6)).toHaveLength(24);
    ticks.slice(1).forEach((at, i) => expect(at - ticks[i]).toBeCloseTo(0.5 / 24, 6));
    outgoing.stop();
    expect(sent.at(-1)).toEqual([0xfc, 0]);
  });

  it('catches up with the ticks of a stall below a second, and not of a longer one', () => {
    const times: number[] = [];
    const outgoing = new OutgoingClock(clock);
    outgoing.followers = [
      { send: ([status], at) => void (status === 0xf8 && times.push(at || now)) },
    ];
    wait(1, () => outgoing.advance());
    const counted = times.length;
    for (const [stall, lost] of [
      [0.6, 0],
      [1.5, 72],
    ]) {
      times.length = 0;
      now += stall;
      outgoing.advance();
      wait(1, () => outgoing.advance());
      expect(Math.abs(times.length - ((1 + stall) * 48 - lost))).toBeLessThan(3);
      expect(times).toEqual([...times].sort((a, b) => a - b));
    }
    expect(counted).toBeGreaterThan(47);
  });

  it('sends no burst when the clock leaps', () => {
    let sent = 0;
    const outgoing = new OutgoingClock(clock);
    outgoing.followers = [{ send: () => sent++ }];
    wait(0.5, () => outgoing.advance());
    sent = 0;
    clock.restart();
    outgoing.advance();
    expect(sent).toBeLessThanOrEqual(2);
  });
});

describe('the bar to come', () => {
  it('is now where nothing runs, and stays where it is whatever joins while something waits for it', () => {
    // As every clock it goes on between two looks.
    const running = new ShowClock(() => (now += 1e-5));
    expect(running.timeAt(running.joinAtBar())).toBeCloseTo(now, 3);
    const begins = clock.joinAtBar(4);
    expect(clock.timeAt(begins)).toBeCloseTo(now, 9);
    now += 0.7;
    clock.join();
    clock.restart();
    expect([clock.firstBeat, clock.barFrom(clock.beats)]).toEqual([begins, begins + 4]);
    clock.leave();
    clock.leave();
    now += 0.1;
    expect(clock.joinAtBar()).toBeGreaterThan(begins + 4);
  });

  it('is counted from the first beat in the clock’s metre, or is that first beat while it counts in', () => {
    const metre = fc.constantFrom(
      { beats: 4, unit: 4 },
      { beats: 5, unit: 4 },
      { beats: 7, unit: 8 },
    );
    const [from, gone] = [fc.nat(50), fc.double({ min: -8, max: 60, noNaN: true })];
    fc.assert(
      fc.property(metre, from, gone, fc.integer({ min: 1, max: 4 }), (counted, at, by, bars) => {
        clock.metre = counted;
        clock.countFrom(at / 3);
        const length = (bars * counted.beats * 4) / counted.unit;
        const bar = clock.barFrom(at / 3 + by, bars);
        const which = (bar - at / 3) / length;
        expect(which).toBeCloseTo(Math.round(which), 6);
        expect(bar - at / 3).toBeGreaterThanOrEqual(Math.max(0, by) - 1e-6);
        expect(bar - at / 3 - Math.max(0, by)).toBeLessThan(length);
      }),
    );
  });

  it('is told to whoever waits for it when it lies elsewhere', () => {
    let told = 0;
    const end = clock.onBars(() => told++);
    const after = (change: () => void) => {
      told = 0;
      change();
      return told > 0;
    };
    expect(after(() => (clock.metre = { beats: 3, unit: 4 }))).toBe(true);
    expect(after(() => (clock.metre = { beats: 3, unit: 4 }))).toBe(false);
    expect(after(() => clock.countFrom(3))).toBe(true);
    expect(after(() => clock.leapTo(2, now))).toBe(true);
    expect(after(() => clock.join())).toBe(true);
    expect(after(() => clock.countIn(4))).toBe(true);
    expect(after(() => clock.countFrom(clock.firstBeat))).toBe(false);
    expect(after(() => clock.join())).toBe(false);
    clock.leave();
    clock.leave();
    // A count-in is told once, with the bar that it leads to.
    expect(after(() => clock.countIn(4))).toBe(true);
    expect([told, clock.beatsInBars]).toEqual([1, -4]);
    end();
    expect(after(() => clock.countFrom(7))).toBe(false);
  });
});

describe('four hours of a show', () => {
  it('end to the frame where the tempo puts them, through every change', () => {
    let frame = 0;
    const long = new ShowClock(() => frame / 48_000);
    let beats = 0;
    for (let song = 0; song < 60; song++) {
      const tempo = 60 + ((song * 37) % 121);
      long.tempo = tempo;
      frame += 240 * 48_000;
      beats += (240 * tempo) / 60;
    }
    expect(Math.round(long.timeAt(long.beats) * 48_000) - frame).toBe(0);
    expect(Math.round(((long.beats - beats) * 48_000 * 60) / 120)).toBe(0);
  });
});

/** A number that differs in the last digits at most. */
function near(value: number) {
  return expect.closeTo(value, 6) as number;
}
