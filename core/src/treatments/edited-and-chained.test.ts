import { describe, expect, it } from 'vitest';
import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import { arpeggio, Rehearsal } from '../testing/rehearsal.js';
import { chordOn } from './chord.js';

const restrike = (changes: Partial<Extract<Treatment, { kind: 'restrike' }>> = {}): Treatment => ({
  ...(newTreatment('restrike', 're', ['a']) as Extract<Treatment, { kind: 'restrike' }>),
  ...changes,
});
const chord = (intervals: number[]): Treatment => ({
  ...(newTreatment('chord', 'ch', ['a']) as Extract<Treatment, { kind: 'chord' }>),
  ...{ intervals, inKey: false },
});
const onsets = (r: Rehearsal) => r.began.map(({ note, at }) => [note, at]);

describe('a treatment that is edited while it plays', () => {
  it('adds the new chord to the next key, and ends the old one whole', () => {
    const r = new Rehearsal([chord([0, 4])]);
    r.down(60);
    r.player.take(r.patch([chord([0, 3, 7])]));
    r.down(70);
    expect(r.notes()).toEqual([60, 64, 70, 73, 77]);
    r.up(60);
    expect([...r.sounding.values()].sort()).toEqual([70, 73, 77]);
    r.up(70);
    expect(r.sounding.size).toBe(0);
    expect(r.player.needsClock).toBe(false);
  });

  it('keeps its steps when something else of it changes, and lets notes last as long as it says now', () => {
    const r = new Rehearsal([restrike({ gate: 0.2 })]);
    r.down(60);
    r.wait(0.22);
    r.player.take(r.patch([restrike({ gate: 1 })]));
    r.wait(0.31);
    expect(onsets(r).map(([, at]) => at)).toEqual([0, 250, 500]);
    expect(r.sounding.size).toBe(1);
    r.wait(0.2);
    expect(r.sounding.size).toBe(1);
  });
});

describe('a treatment of another kind or place', () => {
  it('is not taken for the one before it', () => {
    const r = new Rehearsal([
      { ...arpeggio(), id: 'x' },
      { ...chord([0, 7]), id: 'y' },
    ]);
    r.down(60);
    r.player.take(
      r.patch([
        { ...chord([0, 12]), id: 'x' },
        { ...arpeggio(), id: 'y' },
      ]),
    );
    r.up(60);
    const before = r.began.length;
    r.down(62);
    expect(r.notes().slice(before)).toEqual([62]);
    r.wait(0.3);
    expect(r.notes().slice(before)).toEqual([62, 74]);
    r.up(62);
    r.player.take(
      r.patch([
        { ...chord([0, 12]), id: 'other' },
        { ...arpeggio(), id: 'y' },
      ]),
    );
    r.player.take(r.patch([{ ...chord([0, 12]), id: 'other' }]));
    expect(r.player.needsClock).toBe(false);
  });
});

describe('one treatment behind another', () => {
  it('restrikes every note of an arpeggio at its time, and no longer than it is held', () => {
    const r = new Rehearsal([
      arpeggio({ rate: '1/4', gate: 1 }),
      restrike({ rate: '1/8', gate: 0.5 }),
    ]);
    r.down(60, 64);
    r.wait(1.4);
    expect(onsets(r)).toEqual([
      [60, 0],
      [60, 250],
      [64, 500],
      [64, 750],
      [60, 1000],
      [60, 1250],
    ]);
    r.up(60, 64);
    r.wait(1);
    expect(r.sounding.size).toBe(0);
    expect(r.began).toHaveLength(6);
    expect(r.player.needsClock).toBe(false);
  });

  it('ends at once what waits behind it when the hand lets go', () => {
    const r = new Rehearsal([
      arpeggio({ rate: '1/8', gate: 1 }),
      restrike({ rate: '1/32', gate: 1 }),
    ]);
    r.down(60);
    r.wait(0.1);
    expect(r.sounding.size).toBe(1);
    r.up(60);
    const count = r.began.length;
    r.wait(0.5);
    expect([r.sounding.size, r.began.length]).toEqual([0, count]);
  });
});

describe('after a pause of the machine', () => {
  it.each([
    ['restrike', restrike()],
    ['arpeggio', arpeggio()],
  ])('%s leaves out the steps that were missed', (_kind, treatment) => {
    const r = new Rehearsal([treatment]);
    r.down(60);
    r.wait(0.3);
    const before = r.began.length;
    r.wait(3, 3);
    r.wait(0.01);
    expect(r.began.length - before).toBeLessThanOrEqual(3);
    r.wait(0.5);
    const times = r.began.slice(-2).map(({ at }) => at);
    expect(times[1] - times[0]).toBe(250);
    expect(times[0] % 250).toBe(0);
  });
});

describe('what is switched off', () => {
  it('leaves the clock for each key that it held, and holds nothing back afterwards', () => {
    const r = new Rehearsal([restrike()]);
    r.down(60, 64, 67);
    r.wait(0.3);
    r.player.switchTreatment('re', false);
    expect([r.sounding.size, r.player.needsClock]).toEqual([0, false]);
    r.up(60, 64, 67);
    r.down(72);
    r.up(72);
    expect(r.sounding.size).toBe(0);
    r.player.switchTreatment('re', true);
    r.down(60);
    r.wait(0.26);
    expect(r.began.slice(-2).map(({ note }) => note)).toEqual([60, 60]);
  });
});

it('a chord leaves the key itself alone, and bends only what is out of the scale', () => {
  const none = new Uint8Array(12);
  const major = Uint8Array.from([1, 0, 1, 0, 1, 1, 0, 1, 0, 1, 0, 1]);
  expect(chordOn(61, { intervals: [0, 4], inKey: true }, major)).toEqual([61, 65]);
  expect(chordOn(60, { intervals: [0, 1, -2], inKey: true }, major)).toEqual([60, 57]);
  expect(chordOn(60, { intervals: [4], inKey: true }, none)).toHaveLength(1);
  expect(chordOn(126, { intervals: [0, 4], inKey: false }, major)).toEqual([126, 130]);
});
