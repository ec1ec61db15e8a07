import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { readNumber, writeNumber, type NumberKind } from './number-text';

/** What fields of these kinds take. */
const LIMITS: Record<NumberKind, [min: number, max: number]> = {
  key: [0, 127],
  plain: [0, 127],
  signed: [-60, 60],
  level: [-60, 12],
  pan: [-1, 1],
  time: [0, 7200],
  percent: [-1, 1],
  decimal: [0, 5],
};
const read = (text: string, kind: NumberKind) => {
  const [min, max] = LIMITS[kind];
  return readNumber(text, kind, { min, max, middleC: 4 });
};

describe('typed numbers', () => {
  it.each<[string, NumberKind, number]>([
    ['Ab3', 'key', 56],
    ['56', 'key', 56],
    ['−4,5 dB', 'level', -4.5],
    ['-7.25', 'level', -7.25],
    ['−∞', 'level', -60],
    ['+12', 'signed', 12],
    ['−12', 'signed', -12],
    ['3.6', 'plain', 4],
    ['30L', 'pan', -0.3],
    ['100 r', 'pan', 1],
    ['c', 'pan', 0],
    ['L', 'pan', -1],
    ['L30', 'pan', -0.3],
    ['30 left', 'pan', -0.3],
    ['right 20', 'pan', 0.2],
    ['centre', 'pan', 0],
    ['-20 %', 'pan', -0.2],
  ])('reads %s as a %s: %d', (text, kind, value) => {
    expect(read(text, kind)).toEqual({ ok: true, value });
  });

  it.each<[string, NumberKind, string]>([
    ['loud', 'level', '“loud” is not a number. Type one from −∞ to 12.0.'],
    ['', 'plain', 'is not a number'],
    ['Infinity', 'plain', 'is not a number'],
    ['leftish', 'pan', 'Type 30L, C or 30R.'],
    ['30L30', 'pan', 'Type 30L, C or 30R.'],
    ['', 'pan', 'Type 30L'],
    ['H3', 'key', 'not a note'],
    ['60', 'level', '“60” is more than there can be. Type −∞ to 12.0.'],
    ['-61', 'level', 'is less than there can be'],
    ['128', 'plain', 'is more than there can be. Type 0 to 127.'],
    ['150L', 'pan', 'is less than there can be. Type 100L to 100R.'],
    ['-101 %', 'percent', 'is less'],
    ['0x10', 'plain', 'is not a number'],
    ['1e1', 'plain', 'is not a number'],
    ['0b1', 'pan', 'Type 30L'],
    ['4:70', 'time', 'Type minutes and seconds'],
    ['soon', 'time', 'Type minutes and seconds'],
  ])('says what is wrong with “%s” as a %s', (text, kind, words) => {
    const reading = read(text, kind);
    expect(reading.ok).toBe(false);
    if (!reading.ok) expect(reading.problem).toContain(words);
  });

  it('reads back whatever it writes', () => {
    const any = fc.oneof(
      fc.integer({ min: 0, max: 127 }).map((v): [NumberKind, number] => ['key', v]),
      fc.integer({ min: 0, max: 127 }).map((v): [NumberKind, number] => ['plain', v]),
      fc.integer({ min: -60, max: 60 }).map((v): [NumberKind, number] => ['signed', v]),
      fc.integer({ min: -600, max: 120 }).map((v): [NumberKind, number] => ['level', v / 10]),
      fc.integer({ min: -100, max: 100 }).map((v): [NumberKind, number] => ['pan', v / 100]),
      fc.integer({ min: 0, max: 7200 }).map((v): [NumberKind, number] => ['time', v]),
    );
    fc.assert(
      fc.property(any, ([kind, value]) => {
        const reading = read(writeNumber(value, kind, 4), kind);
        expect(reading.ok).toBe(true);
        if (reading.ok) expect(reading.value).toBeCloseTo(value, 9);
      }),
    );
  });
});
