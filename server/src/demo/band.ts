import {
  newAccompanist,
  placedPattern,
  type Accompanist,
  type Band,
  type PatternShape,
} from '@pentachord/core/model';

/** Patterns on consecutive keys from one on, each by the name it ships under. */
function run(
  id: string,
  first: number,
  patterns: readonly (string | [name: string, shape: Partial<PatternShape>])[],
): Accompanist['patterns'] {
  return patterns.map((one, i) => {
    const [name, shape] = typeof one === 'string' ? [one, {}] : one;
    const placed = placedPattern(
      `${id}-${i + 1}`,
      `house-pattern-${name.replaceAll(' ', '-')}`,
      first + i,
    );
    return { ...placed, shape: { ...placed.shape, ...shape } };
  });
}

/**
 * The band of Low Water Mark at the left hand, on the lower keys: drums C2–E2, bass F2–A2, two pads from B♭2 and C♯3, a plucked
 * part E♭3–F♯3, then the keys for all of them.
 */
export function lowWaterBand(patchId: string, layer: Record<string, string>): Band {
  const id = (name: string) => `${patchId}-${name}`;
  const part = (name: string, words: string, settings: Partial<Accompanist>): Accompanist => ({
    ...newAccompanist(id(name), words, 'keys2'),
    ...settings,
  });
  const accompanists = [
    part('drums', 'Quay drums', {
      layerIds: [layer['drums']],
      patterns: run(id('drums'), 36, ['low tide', 'half tide', 'springs', 'short knock']),
      stopKey: 40,
    }),
    part('bass', 'Ebb bass', {
      layerIds: [layer['bass']],
      patterns: run(id('bass'), 41, ['hold', ['push', { weight: 0.2 }], 'walk', 'rests']),
      stopKey: 45,
      starting: 'untilNext',
      begins: 'beat',
      leaving: 'finishBar',
    }),
    part('mud', 'Mud pad', {
      layerIds: [layer['mud']],
      patterns: run(id('mud'), 46, ['swell', 'long', 'two bars']),
      starting: 'whileHeld',
      begins: 'now',
      follows: 'chord',
    }),
    part('mist', 'Mist', {
      layerIds: [layer['mist']],
      patterns: run(id('mist'), 49, ['rising mist', ['swell', { rate: 0.5 }]]),
      takesOver: 'through',
    }),
    part('reeds', 'Reed line', {
      layerIds: [layer['reeds']],
      patterns: run(id('reeds'), 51, ['climb', 'drops', ['turn', { weight: -0.3 }], 'shore']),
      stopKey: 55,
      leaving: 'finishBar',
    }),
  ];
  const starts = {
    [id('drums')]: id('drums-2'),
    [id('bass')]: id('bass-2'),
    [id('mist')]: id('mist-1'),
    [id('reeds')]: id('reeds-2'),
  };
  return {
    accompanists,
    bandKeys: [
      { id: id('all-begin'), does: 'start', place: 'keys2', starters: 'notes', key: 56, starts },
      { id: id('all-off'), does: 'stop', place: 'keys2', starters: 'notes', key: 57, starts: {} },
      { id: id('all-next'), does: 'next', place: 'keys2', starters: 'notes', key: 58, starts: {} },
    ],
  };
}
