import { describe, expect, it } from 'vitest';
import { dayOf, isoOf } from './days';
import { readTimeOfDay } from './read-time-of-day';

describe('days and times', () => {
  it('are the same day here as they were written, at either end of the year', () => {
    for (const date of ['2027-01-01', '2027-12-31', '2028-02-29', '2027-03-28'])
      expect(isoOf(dayOf(date))).toBe(date);
    expect(isoOf(null)).toBeNull();
    expect(isoOf(new Date(NaN))).toBeNull();
  });

  it.each([
    ['20:15', '20:15'],
    ['2015', '20:15'],
    ['8.30', '08:30'],
    ['8', '08:00'],
    ['', null],
    ['24:00', undefined],
    ['20:61', undefined],
    ['soon', undefined],
  ])('“%s” is %s', (typed, time) => {
    expect(readTimeOfDay(typed)).toBe(time);
  });
});
