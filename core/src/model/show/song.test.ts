import { describe, expect, it } from 'vitest';
import { readMusicalKey } from '../../pitch/musical-keys.js';
import { newSong, withHandsIn } from './song.js';

const key = (name: string) => {
  const read = readMusicalKey(name);
  if (!read) throw new Error(`${name} is no key`);
  return read;
};

describe('the sounding key', () => {
  it.each([
    ['follows the hands while both are the same', 'C', 'C', 'Am', 'Am'],
    ['follows them however the same key is spelt', 'D#', 'Eb', 'F', 'F'],
    ['stays where it was set by itself', 'E', 'Eb', 'F', 'Eb'],
    ['stays where the mode alone is another', 'A', 'Am', 'D', 'Am'],
  ])('%s', (_what, hands, sounds, next, then) => {
    const song = { ...newSong('s', 'Tide'), fingered: key(hands), sounding: key(sounds) };
    const changed = { ...song, ...withHandsIn(song, key(next)) };
    expect([changed.fingered, changed.sounding]).toEqual([key(next), key(then)]);
  });
});
