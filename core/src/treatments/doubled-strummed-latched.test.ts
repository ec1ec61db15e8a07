import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newTreatment, TREATMENT_KINDS, type Treatment } from '../model/patch/treatment.js';
import { ShowClock } from '../clock/show-clock.js';
import { gainFromDb } from '../units/decibels.js';
import { arpeggio, Rehearsal } from '../testing/rehearsal.js';
import { DoublingStage } from './doubling.js';

type Of<K extends Treatment['kind']> = Extract<Treatment, { kind: K }>;
const doubling = (changes: Partial<Of<'doubling'>> = {}): Of<'doubling'> => ({
  ...(newTreatment('doubling', 'do', ['a']) as Of<'doubling'>),
  ...changes,
});
const strum = (changes: Partial<Of<'strum'>> = {}): Of<'strum'> => ({
  ...(newTreatment('strum', 'st', ['a']) as Of<'strum'>),
  over: 120,
  ...changes,
});
const latch = (): Treatment => newTreatment('latch', 'la', ['a']);

describe('doubling', () => {
  it('has its own level, on top of what the ranges give', () => {
    const gains: number[] = [];
    const sink = {
      press: (_id: number, _key: number, _velocity: number, gain: number) => gains.push(gain),
      release: () => undefined,
      lean: () => undefined,
    };
    let id = 0;
    const around = {
      clock: new ShowClock(() => 0),
      newId: () => ++id,
      scale: () => new Uint8Array(12),
    };
    new DoublingStage(sink, around, doubling({ level: -9 })).press(7, 60, 90, 0.5, -Infinity);
    expect(gains).toEqual([0.5, expect.closeTo(0.5 * gainFromDb(-9), 9)]);
  });

  it('leaves out what lies beyond the last key', () => {
    const r = new Rehearsal([doubling({ octaves: 3 })]);
    r.down(100);
    expect(r.notes()).toEqual([100]);
    r.up(100);
    expect(r.sounding.size).toBe(0);
  });
});

describe('a strum', () => {
  it.each([
    ['up', [60, 64, 67]],
    ['down', [67, 64, 60]],
  ] as const)('goes %s, whatever order the fingers come in', (order, notes) => {
    const r = new Rehearsal([strum({ order })]);
    r.down(64);
    r.wait(0.01);
    r.down(67, 60);
    r.wait(0.3);
    expect(r.notes()).toEqual(notes);
    const [first, second, third] = r.began.map(({ at }) => at);
    expect(first).toBeLessThanOrEqual(25);
    expect([second - first, third - first]).toEqual([60, 120]);
    r.up(60, 64, 67);
    r.wait(0.1);
    expect([r.sounding.size, r.player.needsClock]).toEqual([0, false]);
  });

  it('lasts a note value at the tempo of the show', () => {
    const r = new Rehearsal([strum({ over: '1/8' })]);
    r.down(60, 64, 67);
    r.wait(0.4);
    const [first, ...others] = r.began.map(({ at }) => at);
    expect(others.map((at) => at - first)).toEqual([125, 250]);
  });

  it('lasts its milliseconds though the tempo changes meanwhile', () => {
    const r = new Rehearsal([strum({ over: 1200 })]);
    r.down(60, 64, 67);
    r.wait(0.3);
    r.player.clock.tempo = 240;
    r.wait(1.2);
    const [first, ...others] = r.began.map(({ at }) => at);
    expect(others.map((at) => at - first)).toEqual([600, 1200]);
  });
});

describe('a latch', () => {
  it('holds a chord until the next one, which takes its place', () => {
    const r = new Rehearsal([latch()]);
    r.down(60, 64);
    r.up(60, 64);
    expect([...r.sounding.values()]).toEqual([60, 64]);
    r.down(65);
    r.down(69);
    expect([...r.sounding.values()]).toEqual([65, 69]);
    r.up(65);
    // As long as one key is down it is still the same chord.
    r.down(72);
    expect([...r.sounding.values()]).toEqual([65, 69, 72]);
  });

  it('joins the steps of what comes before it', () => {
    const r = new Rehearsal([arpeggio({ gate: 0.2 }), latch()]);
    r.down(60, 64);
    r.wait(1);
    expect(r.sounding.size).toBe(1);
    r.player.allNotesOff();
    expect(r.sounding.size).toBe(0);
  });
});

it('whatever is chained and played: with everything let go, nothing sounds', () => {
  const kinds = fc.subarray([...TREATMENT_KINDS], { minLength: 1, maxLength: 3 });
  const hands = fc.array(
    fc.record({
      key: fc.integer({ min: 58, max: 66 }),
      down: fc.boolean(),
      wait: fc.constantFrom(0, 0.004, 0.03, 0.2),
      flick: fc.constantFrom(null, null, null, 0, 1, 'leave'),
    }),
    { maxLength: 40, size: 'max' },
  );
  fc.assert(
    fc.property(kinds, hands, (chained, played) => {
      const treatments = chained.map((kind, i) => newTreatment(kind, `t${i}`, ['a']));
      const r = new Rehearsal(treatments);
      const on = new Map(treatments.map(({ id }) => [id, true]));
      let left = 0;
      for (const { key, down, wait, flick } of played) {
        if (down) r.down(key);
        else r.up(key);
        const id = typeof flick === 'number' ? treatments.at(flick)?.id : undefined;
        if (flick === 'leave') {
          // Into another patch, which is treated alike.
          r.player.take(r.patch(treatments, {}, `patch ${++left}`));
          for (const { id } of treatments) on.set(id, true);
        } else if (id !== undefined) {
          on.set(id, !on.get(id));
          r.player.switchTreatment(id, on.get(id) ?? false);
        }
        r.wait(wait);
      }
      for (let key = 58; key <= 66; key++) r.up(key);
      for (const { id } of treatments) r.player.switchTreatment(id, false);
      r.wait(2);
      expect([r.sounding.size, r.player.needsClock]).toEqual([0, false]);
    }),
    {
      numRuns: 300,
      // A note was called off at the very moment at which it began.
      examples: [
        [
          ['arpeggio', 'chord', 'strum'],
          [
            { key: 58, down: true, wait: 0.03, flick: 0 },
            { key: 58, down: false, wait: 0.03, flick: null },
            { key: 58, down: false, wait: 0.004, flick: 0 },
            { key: 58, down: true, wait: 0.2, flick: null },
          ],
        ],
        // A patch is left whose strum was called off before its turn.
        [
          ['arpeggio', 'strum', 'sieve'],
          [
            { key: 59, down: true, wait: 0.03, flick: null },
            { key: 58, down: false, wait: 0.2, flick: null },
            { key: 58, down: false, wait: 0, flick: 'leave' },
          ],
        ],
      ],
    },
  );
});
