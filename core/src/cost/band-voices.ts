import type { Pattern } from '../model/library/pattern.js';
import type { Patch } from '../model/patch/patch.js';

const known = new WeakMap<Pattern, number>();

/** Notes of a pattern that sound at once at most. */
function mostAtOnce(pattern: Pattern): number {
  const before = known.get(pattern);
  if (before !== undefined) return before;
  const turns = pattern.notes
    .flatMap(({ beat, length }) => [
      { beat, by: 1 },
      { beat: beat + length, by: -1 },
    ])
    .sort((a, b) => a.beat - b.beat || a.by - b.by);
  let [now, most] = [0, 0];
  for (const { by } of turns) most = Math.max(most, (now += by));
  known.set(pattern, most);
  return most;
}

/** Voices that accompanists play on a layer at most, besides the hands, by its id: those of the fullest pattern, or of all where several may play. */
export function bandVoices(
  { accompanists }: Pick<Patch, 'accompanists'>,
  patterns: ReadonlyMap<string, Pattern>,
): ReadonlyMap<string, number> {
  const voices = new Map<string, number>();
  for (const { layerIds, patterns: placed, several, muted } of accompanists) {
    if (muted) continue;
    const counts = placed.map(({ patternId }) => {
      const pattern = patterns.get(patternId);
      return pattern ? mostAtOnce(pattern) : 0;
    });
    const most = several ? counts.reduce((sum, one) => sum + one, 0) : Math.max(0, ...counts);
    for (const id of layerIds) voices.set(id, (voices.get(id) ?? 0) + most);
  }
  return voices;
}
