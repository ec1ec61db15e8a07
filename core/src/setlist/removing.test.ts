import { describe, expect, it } from 'vitest';
import { newPatch } from '../model/patch/patch.js';
import type { Cue } from '../model/show/cue.js';
import { whyPatchStays } from './removing.js';

const patches = ['one', 'two'].map((id, i) => newPatch(id, 'song', i, id));
const cue = (name: string, patchId: string): Cue => ({
  id: name,
  songId: 'song',
  position: 0,
  name,
  patchId,
  balance: {},
  controllers: [],
  fadeSeconds: null,
  note: '',
});

describe('a patch', () => {
  it('stays while cues play it, and they are named', () => {
    const cues = [cue('verse', 'one'), cue('lift', 'two'), cue('out', 'one')];
    expect(whyPatchStays('one', cues, patches)).toBe('cues play it: verse, out');
  });

  it('stays as the last one of its song', () => {
    expect(whyPatchStays('one', [], patches.slice(0, 1))).toBe('the song has no other');
  });

  it('may go otherwise', () => {
    expect(whyPatchStays('two', [cue('verse', 'one')], patches)).toBe('');
  });
});
