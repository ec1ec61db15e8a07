import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { isBlackKey, noteName, parseNote, withoutNumbers, type NoteNaming } from './note-names.js';

describe('note names in three conventions', () => {
  it.each([
    [0, 'C-2', 'C-1', 'C0'],
    [33, 'A0', 'A1', 'A2'],
    [60, 'C3', 'C4', 'C5'],
    [127, 'G8', 'G9', 'G10'],
  ])('names %i as %s, %s and %s', (note, three, four, five) => {
    expect([3, 4, 5].map((c) => noteName(note, c as NoteNaming))).toEqual([three, four, five]);
  });

  it('reads back every name it writes, in every convention and spelling', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 127 }),
        fc.constantFrom<NoteNaming>(3, 4, 5),
        fc.constantFrom('usual' as const, 'sharps' as const, 'flats' as const),
        (note, middleC, spelling) => {
          expect(parseNote(noteName(note, middleC, spelling), middleC)).toEqual({ ok: true, note });
        },
      ),
    );
  });

  it.each([
    ['Eb3', 51],
    ['E♭3', 51],
    ['d#4', 63],
    ['C-1', 0],
    ['F##2', 43],
    ['51', 51],
    [' cb4 ', 59],
    ['C−1', 0],
  ])('reads %s as %i', (text, note) => {
    expect(parseNote(text)).toEqual({ ok: true, note });
  });

  it.each([
    ['', 'Type a note'],
    ['H3', 'not a note'],
    ['E', 'no octave'],
    ['E#b3', 'mixes'],
    ['E###3', 'more than two'],
    ['128', 'outside'],
    ['-3', 'outside'],
    ['C11', 'outside'],
  ])('says what is wrong with “%s”', (text, words) => {
    const reading = parseNote(text);
    expect(reading.ok).toBe(false);
    if (!reading.ok) expect(reading.problem).toContain(words);
  });

  it('writes numbers beside names where they are wanted, and reads them back as the name', () => {
    const naming = { middleC: 3, spelling: 'flats', numbers: true } as const;
    expect(noteName(51, naming)).toBe('E♭2 51');
    expect(noteName(51, withoutNumbers(naming))).toBe('E♭2');
    expect(noteName(51, naming, 'sharps')).toBe('D♯2 51');
    fc.assert(
      fc.property(fc.nat(127), (note) => {
        expect(parseNote(noteName(note, naming), naming)).toEqual({ ok: true, note });
      }),
    );
    // A number alone is one, and two of them are nothing.
    expect(parseNote('51', naming)).toEqual({ ok: true, note: 51 });
    expect(parseNote('51 52', naming).ok).toBe(false);
  });

  it('counts 36 black keys on 88', () => {
    let black = 0;
    for (let key = 21; key <= 108; key++) if (isBlackKey(key)) black++;
    expect(black).toBe(36);
  });
});
