import { describe, expect, it } from 'vitest';
import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import { scaleOf } from '../pitch/musical-keys.js';
import { keys } from '../testing/fixtures.js';
import { A_MINOR, arpeggio, Rehearsal } from '../testing/rehearsal.js';
import { chordOn } from './chord.js';

describe('the arpeggio', () => {
  it.each([
    ['up', 1, [60, 64, 67, 60, 64, 67]],
    ['down', 1, [60, 64, 60, 67, 64, 60]],
    ['both', 1, [60, 64, 67, 64, 60, 64]],
    ['as played', 1, [60, 67, 64, 60, 67, 64]],
    ['up', 2, [60, 64, 67, 72, 76, 79]],
  ] as const)('plays %s over %d octaves', (order, octaves, expected) => {
    const r = new Rehearsal([arpeggio({ order, octaves })]);
    r.down(60, 67, 64);
    r.wait(1.26);
    // The first key sounds at once, alone; the others have joined by the next step.
    expect(r.notes().slice(0, 6)).toEqual(expected);
    expect(r.began.slice(0, 4).map(({ at }) => at)).toEqual([0, 250, 500, 750]);
  });

  it('goes on with the clock that runs already, and does not catch up after a pause', () => {
    const second: Treatment = { ...arpeggio(), id: 'second', layerIds: ['b'] };
    const r = new Rehearsal([arpeggio(), second]);
    r.down(60);
    r.wait(0.4);
    r.down(10);
    r.wait(0.2);
    expect(r.began.filter((n) => n.layer === 'b').map(({ at }) => at)).toEqual([500]);
    const before = r.began.length;
    r.wait(10, 10);
    expect(r.began.length - before).toBeLessThanOrEqual(4);
  });
});

describe('the other treatments', () => {
  it('adds a chord, bent into the fingered key', () => {
    const scale = scaleOf(A_MINOR);
    expect(chordOn(57, { intervals: [0, 4, 7], inKey: true }, scale)).toEqual([57, 60, 64]);
    expect(chordOn(60, { intervals: [0, 4, 7], inKey: true }, scale)).toEqual([60, 64, 67]);
    expect(chordOn(57, { intervals: [0, 4, 7], inKey: false }, scale)).toEqual([57, 61, 64]);
    expect(chordOn(60, { intervals: [0, 1], inKey: true }, scale)).toEqual([60]);
    const r = new Rehearsal([newTreatment('chord', 'c', ['a'])], { transpose: 12 });
    r.down(57);
    expect([...r.sounding.values()]).toEqual([69, 72, 76]);
    r.up(57);
    expect(r.sounding.size).toBe(0);
  });

  it('takes a key that comes a little early for the step’s, and does not strike it twice', () => {
    const r = new Rehearsal(
      [newTreatment('restrike', 'r', ['a']), { ...arpeggio(), id: 'clock', layerIds: ['b'] }],
      { keys: keys(40, 127) },
    );
    r.down(10);
    r.wait(0.24);
    r.down(60);
    r.wait(0.5);
    const struck = r.began.filter((n) => n.layer === 'a').map(({ at }) => at);
    expect(struck).toEqual([240, 500]);
  });

  it('lets through every nth note within its keys and strengths', () => {
    const sieve: Treatment = {
      ...(newTreatment('sieve', 'f', ['a']) as Extract<Treatment, { kind: 'sieve' }>),
      keys: { low: 60, high: 72 },
      everyNth: 2,
    };
    const r = new Rehearsal([sieve]);
    for (const key of [60, 50, 61, 62, 80, 63, 64]) {
      r.down(key);
      r.up(key);
    }
    expect(r.notes()).toEqual([60, 62, 64]);
  });
});

describe('the sieve in a chain', () => {
  const sieve = (changes: Partial<Extract<Treatment, { kind: 'sieve' }>>): Treatment => ({
    ...(newTreatment('sieve', 'f', ['a']) as Extract<Treatment, { kind: 'sieve' }>),
    ...changes,
  });

  it('before an arpeggio keeps keys from it', () => {
    const r = new Rehearsal([sieve({ keys: { low: 60, high: 64 } }), arpeggio()]);
    r.down(59, 60, 64, 65);
    r.wait(0.76);
    expect(r.notes()).toEqual([60, 64, 60, 64]);
    r.up(60);
    r.wait(0.5);
    expect(r.notes().slice(4)).toEqual([64, 64]);
    r.up(59, 64, 65);
    expect(r.player.needsClock).toBe(false);
  });

  it('behind an arpeggio lets every second of its notes through, at their times', () => {
    const r = new Rehearsal([arpeggio(), sieve({ everyNth: 2 })]);
    r.down(60, 64, 67);
    r.wait(1.26);
    expect(r.began.map(({ note, at }) => [note, at])).toEqual([
      [60, 0],
      [67, 500],
      [64, 1000],
    ]);
    r.up(60, 64, 67);
    expect(r.sounding.size).toBe(0);
  });

  it('goes by strength, both limits included', () => {
    const r = new Rehearsal([sieve({ velocities: { low: 90, high: 90 } })]);
    r.down(60);
    expect(r.notes()).toEqual([60]);
    for (const [low, high] of [
      [91, 127],
      [1, 89],
    ]) {
      const shut = new Rehearsal([sieve({ velocities: { low, high } })]);
      shut.down(60);
      expect(shut.notes()).toEqual([]);
    }
  });
});

describe('switching and changing while playing', () => {
  it('holds what it holds through a change of patch, but lets go of what no key holds', () => {
    const r = new Rehearsal([arpeggio({ hold: true })]);
    r.down(60);
    r.player.take(r.patch([], {}, 'other'));
    r.wait(0.3);
    expect(r.notes()).toEqual([60, 60]);
    r.up(60);
    expect(r.sounding.size).toBe(0);
    expect(r.player.needsClock).toBe(false);
    const latched = new Rehearsal([arpeggio({ hold: true })]);
    latched.down(60);
    latched.up(60);
    latched.player.take(latched.patch([], {}, 'other'));
    expect(latched.sounding.size).toBe(0);
    expect(latched.player.needsClock).toBe(false);
  });

  it('lets go of what it plays beyond the keys with CC 120 and 123, and when nothing switches it any more', () => {
    const r = new Rehearsal([arpeggio({ hold: true })]);
    const latch = () => {
      r.down(60);
      r.up(60);
      r.wait(0.3);
      expect(r.player.needsClock).toBe(true);
    };
    for (const end of [
      () => r.player.message(0, 0xb0, 123, 0),
      () => r.player.message(0, 0xb0, 120, 0),
      () => r.player.letGoOf('arp'),
    ]) {
      latch();
      end();
      expect(r.sounding.size).toBe(0);
      expect(r.player.needsClock).toBe(false);
    }
    // What another keyboard says is none of its business.
    const lower = new Rehearsal([arpeggio({ hold: true })], { keyboards: ['keys1'] });
    lower.down(60);
    lower.up(60);
    lower.player.message(1, 0xb1, 123, 0);
    expect(lower.player.needsClock).toBe(true);
  });

  it('is reached by its switch when the patch was edited around it', () => {
    const r = new Rehearsal([arpeggio({ hold: true })]);
    r.down(60);
    r.player.take(r.patch([arpeggio({ hold: true }), newTreatment('chord', 'c', ['a'])]));
    r.player.switchTreatment('arp', false);
    expect(r.sounding.size).toBe(0);
    expect(r.player.needsClock).toBe(false);
  });

  it('goes by the pedal: a key let go under it is still held', () => {
    const r = new Rehearsal([arpeggio()]);
    r.pedal(true);
    r.down(60);
    r.up(60);
    r.wait(0.3);
    expect(r.notes()).toEqual([60, 60]);
    r.pedal(false);
    expect(r.sounding.size).toBe(0);
  });
});

describe('nothing hangs', () => {
  it('ends a note that was struck before another layer set the clock going anew', () => {
    const waiting: Treatment = { ...arpeggio(), on: false };
    const r = new Rehearsal([waiting, { ...arpeggio(), id: 'second', layerIds: ['b'] }]);
    r.wait(3);
    r.down(60);
    r.down(10);
    r.player.clock.tempo = 90;
    r.up(60);
    expect(r.sounding.has(1)).toBe(false);
    r.up(10);
    expect(r.sounding.size).toBe(0);
  });
});

describe('what was handed over ahead of its time', () => {
  const within = (seconds: number) => {
    const r = new Rehearsal([arpeggio()]);
    r.down(60);
    // The next step is due at a quarter of a second, and has been handed over by now.
    r.wait(seconds);
    return r;
  };

  it('comes at another time when the tempo changes before it', () => {
    const r = within(0.22);
    r.player.clock.tempo = 60;
    r.wait(0.6);
    // At 0.22 s there are 0.06 beats to go: as many seconds at the new tempo. From there on a step takes half a second.
    expect(r.began.map(({ at }) => at)).toEqual([0, 280, 780]);
  });

  it('does not sound on when the tempo changes while it sounds', () => {
    const r = new Rehearsal([arpeggio({ gate: 0.5 })]);
    r.down(60);
    r.wait(0.1);
    r.player.clock.tempo = 60;
    r.wait(0.04);
    expect(r.sounding.size).toBe(1);
    r.wait(0.02);
    expect(r.sounding.size).toBe(0);
  });
});
