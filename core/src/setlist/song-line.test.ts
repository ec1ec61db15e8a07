import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { songSchema } from '../model/show/song.js';
import { musicalKeyName } from '../pitch/musical-keys.js';
import { readSongLine, songLineInWords, songOfLine } from './song-line.js';

describe('a song in one line', () => {
  it.each([
    ['Anchor Am 104', 'Anchor', 'in Am, at 104'],
    ['Anchor 104 Am', 'Anchor', 'in Am, at 104'],
    ['Low Water Mark F 87.5 4:30', 'Low Water Mark', 'in F, at 87.5, 4:30 long'],
    ['Copper Weather Eb', 'Copper Weather', 'in E♭'],
    ['Nine Bells F#m 132', 'Nine Bells', 'in F♯m, at 132'],
    ['Anchor', 'Anchor', ''],
    ['  Plan B ', 'Plan B', ''],
    ['Plan B A 90', 'Plan B', 'in A, at 90'],
    ['Am', 'Am', ''],
    ['104', '104', ''],
    ['Pier 9', 'Pier 9', ''],
    ['Route 999', 'Route 999', ''],
    ['Give me a 100', 'Give me a', 'at 100'],
    ['Twice 100 120', 'Twice 100', 'at 120'],
  ])('%s', (text, name, words) => {
    const line = readSongLine(text);
    expect([line.name, songLineInWords(line)]).toEqual([name, words]);
    const song = songSchema.parse(songOfLine('s', line));
    if (line.key) expect([song.fingered, song.sounding]).toEqual([line.key, line.key]);
  });

  it('reads what it says itself, whatever the name', () => {
    const keys = fc.constantFrom('C', 'F♯m', 'B♭', 'Gm', 'Ab', 'C#');
    const name = fc.constantFrom('Gull', 'Gull wing', 'The A', 'go 7');
    fc.assert(
      fc.property(name, keys, fc.integer({ min: 20, max: 400 }), (wish, key, tempo) => {
        const line = readSongLine(`${wish} ${key} ${tempo}`);
        expect(line).toMatchObject({ name: wish, tempo });
        const shown = line.key ? musicalKeyName(line.key) : '';
        expect(readSongLine(`${wish} ${shown} ${tempo}`).key).toEqual(line.key);
      }),
    );
  });
});
