import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newCue } from '../model/show/cue.js';
import { newSong } from '../model/show/song.js';
import { tonightSchema, type Tonight } from '../model/show/tonight.js';
import type { MusicalKey } from '../pitch/musical-keys.js';
import {
  changedTonight,
  cuesTonight,
  madePermanent,
  songTonight,
  tonightInWords,
} from './tonight.js';

const key = (tonic: number, mode: 'major' | 'minor' = 'major'): MusicalKey => ({
  tonic,
  mode,
  spelling: 'usual',
});
const song = {
  ...newSong('bells', 'Nine Bells'),
  tempo: 132,
  lengthSeconds: 350,
  fingered: key(4, 'minor'),
  sounding: key(4, 'minor'),
  notes: 'count of four',
};
const anyTonight: fc.Arbitrary<Tonight> = fc.record(
  {
    tempo: fc.constantFrom(96, 132, 140),
    fingered: fc.constantFrom(key(4, 'minor'), key(0)),
    sounding: fc.constantFrom(key(4, 'minor'), key(6, 'minor')),
    lengthSeconds: fc.constantFrom(350, 300),
    leftOut: fc.subarray(['a', 'b']),
    note: fc.constantFrom('', 'capo singer'),
  },
  { requiredKeys: ['leftOut'] },
);

describe('tonight', () => {
  it('wins over the song, and only where it says so', () => {
    const tonight = { leftOut: ['b'], sounding: key(6, 'minor') };
    expect(songTonight(song, tonight)).toEqual({ ...song, sounding: key(6, 'minor') });
    expect(songTonight(song, null)).toBe(song);
    const cues = ['a', 'b', 'c'].map((id, at) => newCue(id, 'bells', at, id, 'patch'));
    expect(cuesTonight(cues, tonight).map(({ id }) => id)).toEqual(['a', 'c']);
    expect(tonightInWords(song, { ...tonight, tempo: 126, note: 'capo singer' })).toBe(
      'in F♯m, at 126, 1 cue left out, capo singer',
    );
  });

  it('gives the same song object for the same night, so that nothing is compiled twice', () => {
    const tonight = { leftOut: [], tempo: 96 };
    expect(songTonight(song, tonight)).toBe(songTonight(song, tonight));
  });

  it('is what was asked for, never what the song is anyway, and nothing at all when nothing is left', () => {
    fc.assert(
      fc.property(anyTonight, anyTonight, (first, second) => {
        const before = changedTonight(song, null, first);
        const after = changedTonight(song, before, second);
        const meant = { ...first, ...second };
        const played = songTonight(song, after);
        expect(played.tempo).toBe(meant.tempo ?? song.tempo);
        expect(played.sounding).toEqual(meant.sounding ?? song.sounding);
        expect(played.lengthSeconds).toBe(meant.lengthSeconds ?? song.lengthSeconds);
        if (after === null) {
          expect(played).toBe(song);
          expect(meant.leftOut).toEqual([]);
        } else {
          expect(tonightSchema.safeParse(after).success).toBe(true);
          expect(after.tempo).not.toBe(song.tempo);
        }
      }),
    );
  });

  it('made permanent sounds as it did that night, and then nothing is otherwise any more', () => {
    fc.assert(
      fc.property(anyTonight, (asked) => {
        const tonight = changedTonight(song, null, asked);
        if (!tonight) return;
        const kept = madePermanent(song, tonight);
        expect({ ...kept, notes: '' }).toEqual({ ...songTonight(song, tonight), notes: '' });
        const rest = changedTonight(kept, { ...tonight, leftOut: [] }, { note: undefined });
        expect(rest).toBeNull();
      }),
    );
    expect(madePermanent(song, { leftOut: [], note: 'capo' }).notes).toBe('count of four\ncapo');
  });
});
