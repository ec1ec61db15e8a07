import { describe, expect, it } from 'vitest';
import { compiled, demoRig, keyboard, keys, layer } from '../testing/fixtures.js';
import { devices as wholeStage } from '../testing/small-show.js';
import { causeOfSilence, groundHeardBy, neverHeard } from './never-heard.js';

const others = wholeStage.filter(({ kind }) => kind !== 'keyboard');

describe('what a layer hears', () => {
  it('is from the lowest to the highest key of its keyboards, as far as MIDI goes', () => {
    const any = layer('any');
    expect(groundHeardBy(any, demoRig)).toEqual({ low: 28, high: 103 });
    expect(groundHeardBy(layer('a', { keyboards: ['keys2'] }), demoRig)).toEqual({
      ...{ low: 36, high: 96 },
    });
    expect(groundHeardBy(layer('a', { channel: 2 }), demoRig)).toEqual({ low: 36, high: 96 });
    expect(groundHeardBy(any, [keyboard('upper', { octaveShift: 3 })])).toEqual({
      ...{ low: 64, high: 127 },
    });
    expect(groundHeardBy(any, [keyboard('upper', { octaveShift: -3 })])?.low).toBe(0);
  });

  it('are keyboards alone, not pads, pedals and modules', () => {
    const any = layer('any');
    expect(groundHeardBy(any, [...others, ...demoRig])).toEqual({ low: 28, high: 103 });
    expect(groundHeardBy(any, others)).toBeNull();
    expect(causeOfSilence(any, others)).toBe('keyboard');
    expect(causeOfSilence(any, demoRig)).toBeNull();
  });
});

describe('a layer that is never heard', () => {
  const reason = (changes: Parameters<typeof layer>[1], devices = demoRig) => {
    const patch = compiled([layer('a', changes)], { devices });
    return neverHeard(patch.layers[0], patch, devices)?.cause ?? null;
  };

  it('is silent for the keyboards that it hears, whatever others could play', () => {
    const devices = [
      keyboard('upper', { lowestKey: 80 }),
      keyboard('lower', { lowestKey: 28, highestKey: 60 }),
    ];
    expect(reason({ keyboards: ['keys1'], transpose: 60 }, devices)).toBe('midi');
    expect(reason({ transpose: 60 }, devices)).toBeNull();
    expect(reason({ keyboards: ['keys2'], transpose: 60 }, devices)).toBeNull();
  });

  it('is so by the first reason there is', () => {
    expect(reason({ channel: 2, keyboards: ['keys1'] })).toBe('channel');
    expect(reason({ channel: 2, keys: keys(100, 110) })).toBe('keys');
    expect(reason({ keys: keys(100, 110), muted: true })).toBe('muted');
    expect(reason({ muted: true, level: -60 })).toBe('muted');
    expect(reason({ level: -60 })).toBe('level');
    expect(reason({ level: -59.9 })).toBeNull();
  });
});
