import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { FollowedClock } from './followed-clock.js';
import { Leading } from './leading.js';
import { ShowClock } from './show-clock.js';

/** Ticks of a clock with a tempo, each late or early by what `jitter` says, in seconds. */
function* ticks(tempo: number, count: number, jitter: (tick: number) => number, from = 10) {
  for (let tick = 0; tick < count; tick++) yield from + (tick * 60) / tempo / 24 + jitter(tick);
}
const jitter = fc.double({ min: -0.003, max: 0.003, noNaN: true });

describe('a clock heard through jitter of ±3 ms', () => {
  it('is within 0.2 % of its tempo from the fourth beat on', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 30, max: 240, noNaN: true }),
        fc.infiniteStream(jitter),
        (tempo, late) => {
          const clock = new FollowedClock();
          let heard = 0;
          for (const time of ticks(tempo, 24 * 10, () => late.next().value as number)) {
            clock.tick(time);
            if (++heard > 96) expect(Math.abs(clock.tempo / tempo - 1)).toBeLessThan(0.002);
          }
        },
      ),
    );
  });

  it('follows another tempo within four beats, whether it leaps or drifts', () => {
    for (const other of [60, 118, 121.5, 180]) {
      const clock = new FollowedClock();
      const late = (tick: number) => 0.003 * Math.sin(tick * 2.3);
      const all = [...ticks(120, 240, late)];
      const then = all[239] + 60 / other / 24;
      for (const time of [...all, ...ticks(other, 100, late, then)]) clock.tick(time);
      expect(Math.abs(clock.tempo / other - 1)).toBeLessThan(0.003);
    }
  });

  it('passes over one tick that is far off, and knows its place when it leaps', () => {
    const clock = new FollowedClock();
    for (const time of ticks(120, 240, () => 0)) clock.tick(time);
    const period = 60 / 120 / 24;
    const next = 10 + 240 * period;
    clock.tick(next + 0.016);
    expect(clock.tempo).toBeCloseTo(120, 6);
    expect(clock.lastTickAt).toBeCloseTo(next, 6);
    clock.tick(next + period);
    expect(clock.lastTickAt).toBeCloseTo(next + period, 6);
    // A quarter of a second is lost, and it goes on as before.
    const leapt = next + period + 0.25;
    for (let tick = 1; tick < 20; tick++) clock.tick(leapt + tick * period);
    expect(clock.tempo).toBeCloseTo(120, 1);
    expect(clock.lastTickAt).toBeCloseTo(leapt + 19 * period, 3);
  });
});

describe('the show’s clock behind another', () => {
  let now: number;
  let clock: ShowClock;
  let leading: Leading;
  beforeEach(() => {
    now = 10;
    clock = new ShowClock(() => now);
    leading = new Leading(clock);
    leading.follow('box');
  });
  const say = (...bytes: number[]) => leading.take('box', bytes[0], bytes[1], bytes[2], now);
  const play = (tempo: number, beats: number, late: (tick: number) => number = () => 0) => {
    const from = now;
    for (const time of ticks(tempo, beats * 24, late, from)) {
      now = time;
      say(0xf8, 0, 0);
    }
    now = from + (beats * 60) / tempo;
  };

  it('takes its tempo and comes up with its beat, without ever going backwards', () => {
    clock.tempo = 90;
    clock.join();
    say(0xfa, 0, 0);
    const seen: number[] = [];
    const stop = clock.onTempo(() => seen.push(clock.beats));
    play(120, 16, (tick) => 0.003 * Math.sin(tick * 2.3));
    stop();
    expect(leading.now).toBe('following');
    expect(Math.abs(clock.tempo / 120 - 1)).toBeLessThan(0.002);
    expect(seen).toEqual([...seen].sort((a, b) => a - b));
    // Beat 16 of the leader is a whole beat here, and bars are counted as it counts them.
    expect(Math.abs(clock.beatsInBars - 16)).toBeLessThan(0.01);
    expect(Math.abs(clock.beats - Math.round(clock.beats))).toBeLessThan(0.01);
  });

  it('stands at once where the leader says when nothing runs, also in the midst of a song', () => {
    play(100, 4);
    say(0xfc, 0, 0);
    // Sixteen sixteenths are four beats.
    say(0xf2, 16, 0);
    say(0xfb, 0, 0);
    play(100, 1);
    expect(clock.beatsInBars).toBeCloseTo(5, 2);
  });

  it('goes on at the last tempo when the leader falls silent, and says so', () => {
    play(132, 8);
    expect(leading.now).toBe('following');
    const before = clock.beats;
    now += 0.4;
    leading.look();
    expect(leading.now).toBe('following');
    now += 0.2;
    leading.look();
    expect([leading.now, leading.isFree]).toEqual(['lost', true]);
    expect(clock.tempo).toBeCloseTo(132, 3);
    expect(clock.beats - before).toBeCloseTo((0.6 * 132) / 60, 3);
    play(140, 8);
    expect(leading.now).toBe('following');
    expect(clock.tempo).toBeCloseTo(140, 3);
  });

  it('takes no guess for a tempo: through a leap it has the old one or the new', () => {
    play(120, 8);
    const late = (tick: number) => 0.003 * Math.sin(tick * 2.3);
    const seen: number[] = [];
    const stop = clock.onTempo(() => seen.push(clock.tempo));
    play(80, 8, late);
    stop();
    expect(seen.filter((tempo) => Math.abs(tempo / 120 - 1) > 0.03)).toEqual(
      seen.filter((tempo) => Math.abs(tempo / 80 - 1) < 0.03),
    );
    expect(Math.abs(clock.tempo / 80 - 1)).toBeLessThan(0.003);
  });

  it('is not led at a tempo that no music has', () => {
    clock.tempo = 90;
    for (const tempo of [2000, 4]) {
      for (const time of ticks(tempo, 80, () => 0, now)) {
        now = time;
        say(0xf8);
      }
      expect([clock.tempo, leading.isFree]).toEqual([90, true]);
      leading.follow(null);
      leading.follow('box');
    }
  });

  it('goes on at the tempo it has while the leader’s is a guess, without hurrying on', () => {
    for (const time of ticks(120, 200, () => 0, now)) {
      now = time;
      say(0xf8);
    }
    // It leaps, and is another tempo: nothing is known for a beat.
    const [then, at] = [now, clock.beats];
    for (const time of ticks(60, 20, () => 0, now + 0.25)) {
      now = time;
      say(0xf8);
    }
    const pace = ((clock.beats - at) * 60) / (now - then);
    expect(pace).toBeGreaterThan(55);
    expect(pace).toBeLessThan(125);
  });

  it('hears nobody but the leader', () => {
    for (const time of ticks(150, 96, () => 0)) leading.take('other', 0xf8, 0, 0, time);
    expect(leading.now).toBe('waiting');
    leading.follow(null);
    play(150, 4);
    expect([leading.now, clock.tempo]).toEqual(['nobody leads', 120]);
  });
});
