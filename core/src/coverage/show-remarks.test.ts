import { expect, it } from 'vitest';
import type { Patch } from '../model/patch/patch.js';
import { newCue } from '../model/show/cue.js';
import { newSong, type Song } from '../model/show/song.js';
import { compileRig } from '../routing/compile.js';
import { demoRig, keys, layer, patchOf } from '../testing/fixtures.js';
import { mendInShow, remarksInShow, type JudgedNight, type PlayedPlace } from './show-remarks.js';
import { withMend } from './mends.js';

const settings = { devices: demoRig, sounds: new Map(), middleC: 4 as const };
const key = { tonic: 0, spelling: 'usual', mode: 'major' } as const;
const song = (id: string, sounding = 0): Song => ({
  ...newSong(id, id),
  ...{ fingered: key, sounding: { ...key, tonic: sounding } },
});
const onUpper = { keyboards: ['keys1' as const] };
const cue = (id: string, balance: Record<string, { muted: boolean }> = {}) => ({
  ...newCue(id, 'one', 0, id, 'patch'),
  balance,
});
const night = (
  patch: Patch,
  places: readonly [entryId: string, songId: string, cueId: string | null][],
): JudgedNight => ({
  places: places.map(([entryId, songId, cueId]): PlayedPlace => ({
    ...{ entryId, songId, cueId, patchId: patch.id },
  })),
  songs: new Map([song('one'), song('two'), song('low', 7)].map((one) => [one.id, one])),
  patches: { [patch.id]: patch },
  cues: { all: cue('all'), without: cue('without', { upper: { muted: true } }) },
  rig: compileRig(demoRig),
});
const gap = patchOf([
  layer('lower', { ...onUpper, keys: keys(0, 59) }),
  layer('upper', { ...onUpper, keys: keys(62, 127) }),
]);
const told = (of: JudgedNight) =>
  remarksInShow(of, settings).map(({ at, kind }) => [at.entryId, at.cueId, kind]);

it('a night is judged as its songs and cues have its patches, what is so all over a song once', () => {
  const of = night(gap, [
    ['e1', 'one', 'all'],
    ['e1', 'one', 'without'],
    ['e1', 'one', 'all'],
    ['e2', 'two', null],
  ]);
  expect(told(of)).toEqual([
    ['e1', 'all', 'silentKeys'],
    // Without its upper layer more keys are silent, which is another matter.
    ['e1', 'without', 'silentKeys'],
    ['e1', 'without', 'neverHeard'],
    ['e2', null, 'silentKeys'],
  ]);
  expect(remarksInShow(of, settings).every(({ patchId }) => patchId === gap.id)).toBe(true);
  expect(remarksInShow({ ...of, patches: {} }, settings)).toEqual([]);
});

it('a mend says which patch it edits, and is offered where it helps and nothing gets worse anywhere in the night', () => {
  const of = night(gap, [
    ['e1', 'one', 'all'],
    ['e2', 'two', null],
  ]);
  const [first] = remarksInShow(of, settings);
  const mend = mendInShow(first, of, settings);
  expect(mend).toMatchObject({ patchId: gap.id, words: 'close the gap' });
  if (!mend) return;
  const mended = { ...of, patches: { [gap.id]: withMend(gap, mend) } };
  expect(told(mended)).toEqual([]);
  // With its filler muted the keys below are silent; down there it would leave MIDI in a song that sounds lower.
  const deep = patchOf([
    layer('deep', { ...onUpper, keys: keys(40, 127), transpose: -26 }),
    layer('upper', { ...onUpper, keys: keys(0, 39) }),
  ]);
  const offered = (song: string) => {
    const judged = night(deep, [
      ['e1', 'one', 'without'],
      ['e2', song, null],
    ]);
    const silent = remarksInShow(judged, settings).find(({ kind }) => kind === 'silentKeys');
    return silent ? mendInShow(silent, judged, settings)?.words : 'nothing is silent';
  };
  expect([offered('two'), offered('low')]).toEqual(['stretch over it', undefined]);
});
