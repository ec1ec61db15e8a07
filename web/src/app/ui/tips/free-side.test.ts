import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { freeSide, sizeOf, type Box } from './free-side';

const WINDOW = { width: 1280, height: 800 };
const control: Box = { left: 600, top: 400, right: 640, bottom: 426 };
const beside = (left: number, top: number): Box => ({
  left,
  top,
  right: left + 40,
  bottom: top + 26,
});

describe('the side of a tooltip', () => {
  it.each<[string, Box[], string | null]>([
    ['below where nothing is', [], 'below'],
    ['above where something is below', [beside(600, 430)], 'above'],
    ['beside where both are taken', [beside(600, 430), beside(600, 370)], 'after'],
    ['before', [beside(600, 430), beside(600, 370), beside(660, 400)], 'before'],
    [
      'none where all are taken',
      [beside(600, 430), beside(600, 370), beside(660, 400), beside(540, 400)],
      null,
    ],
  ])('is %s', (_what, others, side) => {
    expect(freeSide(control, 'Undo', others, WINDOW)).toBe(side);
  });

  it('is within the window, and covers nothing', () => {
    const box = fc
      .tuple(fc.integer({ min: 0, max: 1240 }), fc.integer({ min: 0, max: 770 }))
      .map(([left, top]) => beside(left, top));
    fc.assert(
      fc.property(box, fc.array(box, { maxLength: 6 }), (one, others) => {
        const side = freeSide(one, 'some words', others, WINDOW);
        const { width, height } = sizeOf('some words');
        if (side === 'below') expect(one.bottom + 8 + height).toBeLessThanOrEqual(800);
        if (side === 'above') expect(one.top - 8 - height).toBeGreaterThanOrEqual(0);
        if (side === 'after') expect(one.right + 8 + width).toBeLessThanOrEqual(1280);
        if (side === 'before') expect(one.left - 8 - width).toBeGreaterThanOrEqual(0);
      }),
    );
  });
});
