import { describe, expect, it } from 'vitest';
import { compiled, layer } from '../../testing/fixtures.js';
import type { CompiledLayer } from '../../routing/compile.js';
import { otherEars, PATCH_STRIPS, StripsInUse, type Asked } from './strips-in-use.js';

const [one, two] = compiled([layer('one'), layer('two')]).layers;
const NOBODY = new Set<string>();

describe('strips', () => {
  it('are taken one by one, and kept by who has them', () => {
    const strips = new StripsInUse();
    expect(strips.of('a')).toBe(-1);
    const a = strips.take('a', NOBODY);
    const b = strips.take('b', NOBODY);
    expect(a).not.toBe(b);
    expect([strips.of('a'), strips.of('b')]).toEqual([a, b]);
    expect([strips.belongsTo(a, 'a'), strips.belongsTo(a, 'b')]).toEqual([true, false]);
    strips.use(a, one);
    strips.use(b, two);
    expect([strips.layerOn[a], strips.layerOn[b]]).toEqual([one, two]);
  });

  it('are won from who left them alone the longest, never from who is there', () => {
    const strips = new StripsInUse();
    const taken = Array.from({ length: PATCH_STRIPS }, (_, i) => {
      const strip = strips.take(`owner ${i}`, NOBODY);
      strips.use(strip, one);
      return strip;
    });
    expect(new Set(taken).size).toBe(PATCH_STRIPS);
    strips.use(taken[0], one);
    const present = new Set(['owner 1', 'new', 'newer']);
    expect(strips.take('new', present)).toBe(taken[2]);
    strips.use(taken[2], two);
    expect(strips.of('owner 2')).toBe(-1);
    expect(strips.belongsTo(taken[2], 'new')).toBe(true);
    expect(strips.take('newer', present)).toBe(taken[3]);
  });

  it('are asked anew for a layer that hears another channel or another keyboard', () => {
    const asked = ({ source, hearsDevice }: CompiledLayer): Asked => ({
      ...{ level: 0, isSilent: false, source, hearsDevice, timbre: undefined },
    });
    expect(otherEars(null, one)).toBe(true);
    expect(otherEars(asked(one), one)).toBe(false);
    const elsewhere = compiled([layer('one', { channel: 3 })]).layers[0];
    expect(otherEars(asked(one), elsewhere)).toBe(true);
    const upper = compiled([layer('one', { keyboards: ['keys1'] })]).layers[0];
    expect(otherEars(asked(one), upper)).toBe(true);
    expect(otherEars(asked(upper), upper)).toBe(false);
  });
});
