import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import type { Box } from '../../ui/field/field-geometry';
import { placed, type Wish } from './placing';

const FIELD = { width: 900, height: 290 };

const overlap = (a: Box, b: Box) =>
  a.x < b.x + b.width && b.x < a.x + a.width && a.y < b.y + b.height && b.y < a.y + a.height;

const anyGround = fc
  .tuple(
    fc.integer({ min: 0, max: FIELD.width - 12 }),
    fc.integer({ min: 0, max: FIELD.height - 8 }),
    fc.integer({ min: 12, max: FIELD.width }),
    fc.integer({ min: 8, max: FIELD.height }),
  )
  .map(([x, y, width, height]): Box => ({
    x,
    y,
    width: Math.min(width, FIELD.width - x),
    height: Math.min(height, FIELD.height - y),
  }));

function wishesFor(grounds: readonly Box[]): Wish[] {
  return grounds.flatMap((within, i): Wish[] => [
    { within, width: 60 + ((i * 37) % 120), height: 24, least: 26, best: 'corner' },
    { within, width: 90, height: 20, best: 'middle' },
    { within, width: 40, height: 18, best: 'middle' },
  ]);
}

describe('words on the field', () => {
  it.each([1, 4, 8, 16])(
    'never cover one another, with %d layers, and stay on their ground',
    (n) => {
      fc.assert(
        fc.property(fc.array(anyGround, { minLength: n, maxLength: n }), (grounds) => {
          const wishes = wishesFor(grounds);
          const spots = placed(wishes, grounds);
          spots.forEach((spot, i) => {
            if (!spot) return;
            const { within } = wishes[i];
            expect(spot.x).toBeGreaterThanOrEqual(within.x - 1e-9);
            expect(spot.y).toBeGreaterThanOrEqual(within.y - 1e-9);
            expect(spot.x + spot.width).toBeLessThanOrEqual(within.x + within.width + 1e-9);
            expect(spot.y + spot.height).toBeLessThanOrEqual(within.y + within.height + 1e-9);
            for (const other of spots.slice(i + 1))
              expect(other && overlap(spot, other)).toBeFalsy();
          });
        }),
        { numRuns: 40 },
      );
    },
  );

  it('find room for sixteen labels on one ground, cut where they must be', () => {
    const whole: Box = { x: 0, y: 0, ...FIELD };
    const wish: Wish = { within: whole, width: 180, height: 24, least: 26, best: 'corner' };
    const spots = placed(Array<Wish>(16).fill(wish), [whole]);
    expect(spots.every((spot) => spot !== null)).toBe(true);
  });

  it('are left out where there is no room, and shortened before that', () => {
    const narrow: Box = { x: 10, y: 10, width: 40, height: 70 };
    const wish: Wish = { within: narrow, width: 180, height: 24, least: 26, best: 'corner' };
    const [first, second, third] = placed([wish, wish, wish], [narrow]);
    expect(first?.width).toBeLessThanOrEqual(40);
    expect(second).not.toBeNull();
    expect(third).toBeNull();
  });
});
