import { describe, expect, it } from 'vitest';
import { newCue, type Cue } from '../model/show/cue.js';
import { newSong, type Song } from '../model/show/song.js';
import { demoRig, layer, patchOf } from '../testing/fixtures.js';
import { compileRig } from './compile.js';
import { hears, layersHearing } from './hearing.js';
import { patchInPlay, type PlayedWith } from './patch-in-play.js';

const key = { tonic: 4, spelling: 'usual', mode: 'major' } as const;
const song: Song = {
  ...newSong('song', 'Song'),
  fingered: key,
  sounding: { ...key, tonic: 3 },
};
const patch = patchOf([layer('a', { level: -3 }), layer('b', { keyboards: ['keys9'] })], 'patch');
const cue: Cue = {
  ...newCue('cue', 'song', 0, 'cue', 'patch'),
  balance: { a: { level: -12 } },
};
const played: PlayedWith = { rig: compileRig(demoRig), song, cue: null, soloed: new Set() };

describe('the patch in play', () => {
  it('is the same object while nothing that decides it changes', () => {
    const first = patchInPlay(patch, played);
    expect(patchInPlay(patch, { ...played, soloed: new Set() })).toBe(first);
    const other = { ...patch };
    const ab = patchInPlay(other, { ...played, soloed: new Set(['a', 'b']) });
    expect(patchInPlay(other, { ...played, soloed: new Set(['b', 'a']) })).toBe(ab);
    // Another tempo or name of the song changes nothing of its patch.
    expect(patchInPlay(patch, { ...played, song: { ...song, tempo: 80 } })).toBe(first);
    // A cue that plays another patch has no say in this one.
    expect(patchInPlay(patch, { ...played, cue: { ...cue, patchId: 'other' } })).toBe(first);
  });

  it.each<[string, Partial<PlayedWith>]>([
    ['rig', { rig: compileRig(demoRig) }],
    ['fingered key', { song: { ...song, fingered: { ...key, tonic: 5 } } }],
    ['key', { song: { ...song, sounding: { ...key, tonic: 5 } } }],
    ['cue', { cue }],
    ['solo', { soloed: new Set(['b']) }],
  ])('is made anew with another %s', (_what, change) => {
    const first = patchInPlay(patch, played);
    const second = patchInPlay(patch, { ...played, ...change });
    expect(second).not.toBe(first);
    expect(patchInPlay(patch, played)).toBe(first);
  });

  it('sounds as song, cue and solo say', () => {
    const { patch: balanced, compiled } = patchInPlay(patch, {
      ...played,
      cue,
      soloed: new Set(['b']),
    });
    expect(balanced.layers[0].level).toBe(-12);
    expect(compiled.layers[0].shift).toBe(-1);
    expect(compiled.layers.map(({ soloedOut }) => soloedOut)).toEqual([true, false]);
  });

  it('takes a patch that was edited for another one', () => {
    const edited = { ...patch, layers: [layer('a', { level: 0 })] };
    expect(patchInPlay(edited, played).compiled.layers).toHaveLength(1);
    expect(patchInPlay(patch, played).compiled.layers).toHaveLength(2);
  });
});

describe('who hears', () => {
  const { compiled } = patchInPlay(
    patchOf([
      layer('anyone'),
      layer('lower alone', { keyboards: [demoRig[1].place] }),
      layer('channel 5', { channel: 5 }),
    ]),
    played,
  );

  it('goes by keyboard and channel', () => {
    const by = (device: number, channel: number) =>
      compiled.layers.filter((l) => hears(l, device, channel)).map(({ id }) => id);
    expect(by(0, 1)).toEqual(['anyone']);
    expect(by(1, 2)).toEqual(['anyone', 'lower alone']);
    expect(by(0, 5)).toEqual(['anyone', 'channel 5']);
  });

  it('is told of a keyboard as it sends', () => {
    const [, lower] = demoRig;
    if (lower.kind !== 'keyboard') throw new Error('the second device is no keyboard');
    const ids = (keyboard: typeof lower) => layersHearing(compiled, keyboard).map(({ id }) => id);
    expect(ids(lower)).toEqual(['anyone', 'lower alone']);
    expect(ids({ ...lower, id: 'unknown' })).toEqual([]);
  });
});
