import { describe, expect, it } from 'vitest';
import { newNight } from '../../model/show/night.js';
import { cueOf, patchOf, plan, song } from '../../testing/small-show.js';
import { NO_TRIMS } from '../stage/layer-levels.js';
import { MovedTonight } from './moved-tonight.js';
import { patchAt, patchOfStep } from './show-plan.js';

const here = { entryId: 'entry', cueId: 'one', showtime: true };

describe('what is moved for the night', () => {
  it('is nothing outside of Showtime, or outside of the running order', () => {
    const tonight = new MovedTonight();
    let told = 0;
    tonight.onMove = () => told++;
    for (const place of [
      { ...here, showtime: false },
      { ...here, entryId: null },
    ]) {
      expect(tonight.trim(place, 'first', 'layer', -3)).toBe(false);
      expect(tonight.transpose(place, 1)).toBe(false);
      expect(tonight.setTempo(place, 90)).toBe(false);
    }
    expect([told, tonight.night.trims, tonight.night.songs]).toEqual([0, [], []]);
    expect(tonight.songAt({ showtime: true }, song, 'entry')).toBe(song);
  });

  it('are trims of a patch in a place, the same map until one of them changes', () => {
    const tonight = new MovedTonight();
    expect(tonight.trimsAt(here, 'first')).toBe(NO_TRIMS);
    expect(tonight.trim(here, 'first', 'layer', -3)).toBe(true);
    expect(tonight.trim({ ...here, entryId: 'other' }, 'first', 'layer', 5)).toBe(true);
    expect(tonight.trim(here, 'second', 'layer', 6)).toBe(true);
    const trims = tonight.trimsAt(here, 'first');
    expect([...trims]).toEqual([['layer', -3]]);
    expect(tonight.trimsAt(here, 'first')).toBe(trims);
    expect([...tonight.trimsAt({ ...here, entryId: 'other' }, 'first')]).toEqual([['layer', 5]]);
    expect([...tonight.trimsAt(here, 'second')]).toEqual([['layer', 6]]);
    expect(tonight.trimsAt(here, 'third')).toBe(NO_TRIMS);
    expect(tonight.trimsAt({ ...here, showtime: false }, 'first')).toBe(NO_TRIMS);
    tonight.trim(here, 'first', 'layer', -4);
    expect([...tonight.trimsAt(here, 'first')]).toEqual([['layer', -4]]);
    tonight.take(newNight('s'));
    expect(tonight.trimsAt(here, 'first')).toBe(NO_TRIMS);
  });

  it('are a song’s tempo and key, as far as keys can be moved', () => {
    const tonight = new MovedTonight();
    const told: number[] = [];
    tonight.onMove = ({ songs }) => told.push(songs[0]?.transposed ?? 0);
    expect(tonight.setTempo(here, 90)).toBe(true);
    let moved = 0;
    while (tonight.transpose(here, 1)) moved++;
    expect(moved).toBeGreaterThan(0);
    expect(told).toEqual([0, ...Array.from({ length: moved }, (_, at) => at + 1), moved]);
    expect(tonight.songAt({ showtime: true }, song, 'entry').tempo).toBe(90);
    expect(tonight.songAt({ showtime: true }, song, 'elsewhere')).toBe(song);
    expect(tonight.songAt({ showtime: false }, song, 'entry')).toBe(song);
  });
});

describe('which patch is played', () => {
  const early = { ...patchOf('early', 'house'), position: -1 };
  const stranger = { ...patchOf('stranger', 'house'), songId: 'other', position: -5 };
  const gone = cueOf('gone', 3, 'a patch that is gone');
  const whole = {
    ...{ ...plan, patches: { ...plan.patches, early, stranger } },
    cues: { ...plan.cues, gone },
  };
  const place = {
    ...{ entryId: 'entry', songId: 'song', cueId: null, patchId: 'second' },
    ...{ soloed: new Set<string>(), asCue: true, showtime: true },
  };
  const step = (cueId: string | null, songId = 'song') => ({
    ...plan.steps[0],
    ...{ cueId, songId },
  });

  it('is that of the cue, or the first of its song where that is gone', () => {
    expect(patchOfStep(whole, step('three'))).toBe('second');
    expect(patchOfStep(whole, step('gone'))).toBe('early');
    expect(patchOfStep(whole, step('never there'))).toBe('early');
    expect(patchOfStep(whole, step(null))).toBe('early');
    expect(patchOfStep(whole, step(null, 'a song without patches'))).toBeNull();
    expect(patchAt(whole, place, plan.cues['one'])?.id).toBe('first');
    expect(patchAt(whole, place, gone)?.id).toBe('early');
    expect(patchAt(whole, place, { ...gone, songId: 'a song without patches' })).toBeNull();
  });

  it('is that of the desk where no cue is played, and none where the desk has none', () => {
    expect(patchAt(whole, place, null)?.id).toBe('second');
    expect(patchAt(whole, { ...place, patchId: 'gone' }, null)).toBeNull();
    expect(patchAt(whole, { ...place, patchId: null }, null)).toBeNull();
  });
});
