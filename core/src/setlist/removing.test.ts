import { describe, expect, it } from 'vitest';
import { newPatch } from '../model/patch/patch.js';
import { newCue } from '../model/show/cue.js';
import { whyPatchStays } from './removing.js';

const patches = ['one', 'two'].map((id, i) => newPatch(id, 'song', i, id));
const cue = (name: string, patchId: string) => newCue(name, 'song', 0, name, patchId);

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
