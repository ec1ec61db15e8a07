import { expect, it } from 'vitest';
import { newAccompanist, placedPattern } from '../model/patch/accompanist.js';
import { categoriesOfBand, withOtherPatterns } from './exchanging.js';
import { HOUSE_PATTERNS } from './house/index.js';

const patterns = new Map(HOUSE_PATTERNS.map((one) => [one.id, one]));
const some = (category: string) => HOUSE_PATTERNS.filter((one) => one.category === category);
const player = (id: string, category: string, count: number) => ({
  ...newAccompanist(id, id, 'keys2'),
  patterns: some(category)
    .slice(0, count)
    .map((one, i) => ({ ...placedPattern(`${id}-${i}`, one.id, 36 + i), muted: [36], steps: 2 })),
});
const band = [player('drums', 'drums', 3), player('bass', 'basses', 2)];

it('has other patterns of the same shelf and metre on the same keys, each once, and settings stay', () => {
  expect(categoriesOfBand(band, patterns)).toEqual(['drums', 'basses']);
  const others = withOtherPatterns(band, patterns, null);
  others.forEach((one, at) => {
    const before = band[at].patterns;
    const had = new Set(before.map(({ patternId }) => patternId));
    one.patterns.forEach((placed, i) => {
      expect(placed).toMatchObject({ id: before[i].id, key: before[i].key, steps: 2, muted: [] });
      expect(had.has(placed.patternId)).toBe(false);
      const [now, then] = [placed, before[i]].map(({ patternId }) => patterns.get(patternId));
      expect([now?.category, now?.metre]).toEqual([then?.category, then?.metre]);
    });
    expect(new Set(one.patterns.map(({ patternId }) => patternId)).size).toBe(before.length);
  });
  const [drums, bass] = withOtherPatterns(band, patterns, 'basses');
  expect(drums.patterns).toEqual(band[0].patterns);
  expect(bass.patterns).not.toEqual(band[1].patterns);
  // A pattern that is gone, and one that is alone on its shelf, stay.
  const lost = [{ ...band[1], patterns: [placedPattern('lost', 'gone', 40)] }];
  expect(withOtherPatterns(lost, patterns, null)).toEqual(lost);
  const alone = new Map([...patterns].filter(([id]) => id === band[1].patterns[0].patternId));
  expect(withOtherPatterns([band[1]], alone, null)[0].patterns[0].patternId).toBe(
    band[1].patterns[0].patternId,
  );
});
