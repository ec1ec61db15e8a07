import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { finePosition } from '../../ties/reading.js';
import { ALONE, ControlPositions, IN_PAIR } from './control-positions.js';

describe('where controls stand', () => {
  it('is known of each device for itself, and of nothing before it was moved', () => {
    const positions = new ControlPositions();
    expect(positions.of('a', 0xb0, 20)).toBe(-1);
    positions.take('a', 0xb0, 20, 77);
    positions.take('a', 0xd0, 30, 0);
    positions.take('a', 0xa0, 60, 12);
    positions.take('a', 0xe0, 127, 127);
    expect(positions.of('a', 0xb0, 20)).toBe(77);
    expect(positions.of('a', 0xd0, -1)).toBe(30);
    expect(positions.of('a', 0xa0, -1)).toBe(12);
    expect(positions.of('a', 0xe0, -1)).toBe(127);
    expect(positions.of('b', 0xb0, 20)).toBe(-1);
    // Notes and programs stand nowhere.
    positions.take('a', 0xb0, 1, 5);
    positions.take('a', 0x90, 20, 100);
    expect(positions.of('a', 0x90, 20)).toBe(-1);
    expect(positions.of('a', 0xb0, 1)).toBe(5);
    // The lowest controller is one as well; a wheel has 14 bits.
    positions.take('a', 0xb0, 0, 9);
    expect(positions.of('a', 0xb0, 0)).toBe(9);
    positions.take('a', 0xe0, 1, 64);
    expect(positions.of('a', 0xe0, -1)).toBe(finePosition(64, 1));
  });

  it('is said by two controllers to 14 bits, the finer one beginning anew with each coarse one', () => {
    fc.assert(
      fc.property(fc.nat(31), fc.nat(127), fc.nat(127), (controller, coarse, fine) => {
        const positions = new ControlPositions();
        positions.take('a', 0xb0, controller + 32, fine);
        expect(positions.ofPair('a', controller)).toBe(-1);
        positions.take('a', 0xb0, controller, coarse);
        const [first, then] = [finePosition(coarse, 0), finePosition(coarse, fine)];
        expect(positions.ofPair('a', controller)).toBe(first);
        positions.take('a', 0xb0, controller + 32, fine);
        expect(positions.ofPair('a', controller)).toBe(then);
        // The message tells what it has moved, from where to where, by itself and in its pair.
        const { moved } = positions;
        expect([...moved.subarray(ALONE, ALONE + 2)]).toEqual([fine, fine]);
        expect([...moved.subarray(IN_PAIR, IN_PAIR + 2)]).toEqual([then, first]);
        positions.take('a', 0xd0, coarse, 0);
        expect([...moved]).toEqual([coarse, -1, -1, -1]);
      }),
    );
    const positions = new ControlPositions();
    expect([32, 64].map((controller) => positions.ofPair('a', controller))).toEqual([-1, -1]);
    // Aftertouch of a key says nothing of the controller of its number.
    positions.take('a', 0xa0, 20, 100);
    positions.take('a', 0xa0, 52, 100);
    expect(positions.ofPair('a', 20)).toBe(-1);
  });
});
