import { describe, expect, it } from 'vitest';
import { layerMark } from './layer-colours';

const EIGHT = Array.from({ length: 8 }, (_, i) => layerMark(i));
type Rgb = [number, number, number];

function linear(hex: string): Rgb {
  return [1, 3, 5].map((at) => {
    const value = parseInt(hex.slice(at, at + 2), 16) / 255;
    return value <= 0.04045 ? value / 12.92 : ((value + 0.055) / 1.055) ** 2.4;
  }) as Rgb;
}
const luminance = ([r, g, b]: Rgb) => 0.2126 * r + 0.7152 * g + 0.0722 * b;

/** Contrast ratio as WCAG 2.2 defines it. */
function contrast(a: string, b: string): number {
  const [light, dark] = [luminance(linear(a)), luminance(linear(b))].sort((x, y) => y - x);
  return (light + 0.05) / (dark + 0.05);
}

/** What eyes without one sort of cone make of a colour (Viénot, Brettel and Mollon 1999). */
const EYES: Record<string, (rgb: Rgb) => Rgb> = {
  'all cones': (rgb) => rgb,
  'no long-wave cones': ([r, g, b]) => [
    0.11238 * r + 0.88762 * g,
    0.11238 * r + 0.88762 * g,
    0.00401 * r - 0.00401 * g + b,
  ],
  'no middle-wave cones': ([r, g, b]) => [
    0.29275 * r + 0.70725 * g,
    0.29275 * r + 0.70725 * g,
    -0.02234 * r + 0.02234 * g + b,
  ],
};

describe('the eight layer colours', () => {
  it('carry white letters by day and stand out from the night', () => {
    for (const { day, night } of EIGHT) {
      expect(contrast(day, '#ffffff'), day).toBeGreaterThanOrEqual(4.5);
      expect(contrast(night, '#0a101c'), night).toBeGreaterThanOrEqual(4.5);
    }
  });

  it.each(Object.keys(EYES))('stay apart for eyes with %s, where hatching cannot help', (eyes) => {
    for (const version of ['day', 'night'] as const) {
      const seen = EIGHT.map((mark) =>
        EYES[eyes](linear(mark[version])).map((c) => Math.cbrt(Math.max(0, c))),
      );
      for (let a = 0; a < 8; a++)
        for (let b = a + 1; b < 8; b++) {
          const distance = Math.hypot(...seen[a].map((value, i) => value - seen[b][i]));
          const sameHatch = JSON.stringify(EIGHT[a].hatch) === JSON.stringify(EIGHT[b].hatch);
          expect(sameHatch, `hatching of ${a} and ${b}`).toBe(false);
          expect(distance, `${version} ${a} and ${b}`).toBeGreaterThan(0.025);
        }
    }
  });

  it('begin again after the eighth', () => {
    expect(layerMark(8)).toBe(layerMark(0));
    expect(layerMark(31)).toBe(layerMark(7));
  });
});
