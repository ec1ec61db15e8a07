import type { Pattern, PatternCategory } from '../model/library/pattern.js';
import type { Accompanist, PlacedPattern } from '../model/patch/accompanist.js';

/** The shelves from which a band’s patterns are, in the order in which it has them. */
export function categoriesOfBand(
  accompanists: readonly Accompanist[],
  patterns: ReadonlyMap<string, Pattern>,
): PatternCategory[] {
  return [
    ...new Set(
      accompanists.flatMap((one) =>
        one.patterns.flatMap(({ patternId }) => patterns.get(patternId)?.category ?? []),
      ),
    ),
  ];
}

/**
 * The same keys with other patterns: each of a category (null for all) becomes another one of its shelf and metre, none of those
 * that the accompanist had as long as there are enough. Settings stay; what was said of single notes does not.
 */
export function withOtherPatterns(
  accompanists: readonly Accompanist[],
  patterns: ReadonlyMap<string, Pattern>,
  category: PatternCategory | null,
): Accompanist[] {
  return accompanists.map((accompanist) => {
    const had = new Set(accompanist.patterns.map(({ patternId }) => patternId));
    const taken = new Set<string>();
    const other = (placed: PlacedPattern): PlacedPattern => {
      const before = patterns.get(placed.patternId);
      if (!before || (category !== null && before.category !== category)) return placed;
      const next = nextOf(before, patterns, had, taken);
      if (!next) return placed;
      taken.add(next.id);
      return { ...placed, patternId: next.id, muted: [], length: null };
    };
    return { ...accompanist, patterns: accompanist.patterns.map(other) };
  });
}

/** The next one behind a pattern on its shelf, round and round: one that is new, else one that is not taken yet. */
function nextOf(
  before: Pattern,
  patterns: ReadonlyMap<string, Pattern>,
  had: ReadonlySet<string>,
  taken: ReadonlySet<string>,
): Pattern | undefined {
  const { category, metre } = before;
  const shelf = [...patterns.values()]
    .filter(
      (one) =>
        one.category === category &&
        one.metre.beats === metre.beats &&
        one.metre.unit === metre.unit,
    )
    .sort((a, b) => a.name.localeCompare(b.name) || a.id.localeCompare(b.id));
  const at = shelf.findIndex(({ id }) => id === before.id);
  const behind = [...shelf.slice(at + 1), ...shelf.slice(0, at)].filter(({ id }) => !taken.has(id));
  return behind.find(({ id }) => !had.has(id)) ?? behind.at(0);
}
