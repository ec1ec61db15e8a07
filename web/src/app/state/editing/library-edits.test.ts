import { isSampled, PLAIN_ZONE, type SampledSound, type SampleZone } from '@pentachord/core/model';
import { produce } from 'immer';
import { expect, it } from 'vitest';
import { EMPTY_DOCUMENT, type Things } from '../show/document';
import { carryOut } from './carrying-out';
import { editInWords, isEdit, type Edit } from './edits';
import { libraryEdits } from './library-edits';

const full = { fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
const zone = (id: string, low: number, high: number): SampleZone => ({
  ...PLAIN_ZONE,
  ...{ id, recordingId: 'a'.repeat(64), root: low },
  ...{ keys: { ...full, low, high }, velocities: { ...full, low: 1, high: 127 } },
});
const sound: SampledSound = {
  ...{ id: 'own', name: 'Own', category: 'pianos', tags: [], favourite: false },
  ...{ lowestNote: 0, highestNote: 127 },
  origin: { kind: 'recordings', dynamics: 20, zones: [zone('a', 40, 50), zone('b', 51, 60)] },
};
const after = (things: Things, ...edits: Edit[]) =>
  edits.reduce((now, edit) => produce(now, (draft) => carryOut(draft, edit)), things);
const made = after(EMPTY_DOCUMENT.things, libraryEdits.soundMade({ sound }));
/** The keys of zones, the reach of the sound and its dynamics. */
const inWords = (things: Things) => {
  const own = things.sounds['own'];
  if (!own || !isSampled(own)) return 'none';
  const keys = own.origin.zones.map((one) => `${one.id} ${one.keys.low}–${one.keys.high}`);
  return `${keys.join(', ')}; ${own.lowestNote}–${own.highestNote}; ${own.origin.dynamics}`;
};

it.each<[string, Edit, string, string]>([
  [
    'one zone alone is changed, and the sound reaches as far as its zones',
    libraryEdits.zonesChanged({
      ...{ soundId: 'own', words: 'zones moved' },
      changes: { b: { keys: { ...full, low: 51, high: 70 } }, gone: { gain: 3 } },
    }),
    'a 40–50, b 51–70; 40–70; 20',
    'zones moved',
  ],
  [
    'all are laid anew',
    libraryEdits.zonesLaid({
      soundId: 'own',
      zones: [zone('c', 30, 32)],
      words: 'laid out',
      dynamics: 4,
    }),
    'c 30–32; 30–32; 4',
    'laid out',
  ],
  [
    'the depth is set',
    libraryEdits.dynamicsChanged({ soundId: 'own', dynamics: 9 }),
    'a 40–50, b 51–60; 0–127; 9',
    'depth of velocity changed',
  ],
  ['it is removed', libraryEdits.librarySoundRemoved({ soundId: 'own' }), 'none', 'sound removed'],
])('%s', (_what, edit, words, told) => {
  expect(isEdit(edit)).toBe(true);
  expect(inWords(after(made, edit))).toBe(words);
  expect(editInWords(edit)).toBe(told);
  // What nobody has is changed by nobody.
  expect(after(EMPTY_DOCUMENT.things, edit)).toEqual(EMPTY_DOCUMENT.things);
});
