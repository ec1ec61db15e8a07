import { describe, expect, it } from 'vitest';
import { CC, CONTROL_CHANGE, NOTE_ON, PITCH_BEND } from '../midi/messages.js';
import { layer } from '../testing/fixtures.js';
import { usualUse } from './usual-use.js';

describe('what a control does without having been tied', () => {
  const layers = [layer('a'), layer('b', { obeys: ['pitchBend'] })];
  it.each<[string, number, number, string | null]>([
    ['sustain, of those that obey it', CONTROL_CHANGE, CC.sustain, 'sustain of A'],
    ['expression', CONTROL_CHANGE, CC.expression, 'expression of A'],
    ['bend, of all', PITCH_BEND, 0, 'pitch bend'],
    ['nothing by a controller of no meaning', CONTROL_CHANGE, 20, null],
    ['nothing by a key', NOTE_ON, 60, null],
  ])('%s', (_what, kind, number, words) => {
    expect(usualUse({ kind, number }, layers)).toBe(words);
    expect(usualUse({ kind, number }, [])).toBeNull();
  });
});
