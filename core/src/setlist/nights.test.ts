import { describe, expect, it } from 'vitest';
import { newShow, songEntry, type OrderEntry, type Show } from '../model/show/show.js';
import { newCue } from '../model/show/cue.js';
import { newSong } from '../model/show/song.js';
import { timeOfDay } from '../units/times.js';
import { copyOfShow, showDifferences } from './copied-show.js';
import { showsWith } from './removing.js';
import { overrun, stepIndex, steps, timeline, totalSeconds } from './running-order.js';

const songs = new Map(
  ['one', 'two', 'three', 'four'].map((id, i) => [
    id,
    { ...newSong(id, id), lengthSeconds: 100 * (i + 1) },
  ]),
);
const talk: OrderEntry = { kind: 'talk', id: 'talk', name: 'talk', lengthSeconds: 60 };
const show: Show = {
  ...newShow('night', 'A night', '2027-08-14', 'rig'),
  order: [songEntry('e1', 'one'), talk, songEntry('e2', 'two'), songEntry('e3', 'three')],
};

describe('a night in time', () => {
  it('does not count encores, and lays them behind what counts', () => {
    const order = [
      ...show.order,
      { ...songEntry('e4', 'four'), encore: true },
      { ...songEntry('e5', 'one'), encore: true },
    ];
    const entries = timeline(order, songs);
    expect(totalSeconds(entries)).toBe(660);
    expect(entries.map(({ start }) => start)).toEqual([0, 100, 160, 360, 660, 1060]);
  });

  it('is as long as tonight says', () => {
    const order = [
      { ...songEntry('e1', 'one'), tonight: { leftOut: [], lengthSeconds: 40 } },
      talk,
    ];
    expect(timeline(order, songs).map(({ start }) => start)).toEqual([0, 40]);
  });

  it('says what happens when it is longer than its slot, and what could be left out', () => {
    const entries = timeline(show.order, songs);
    expect(overrun(entries, 660)).toBeNull();
    const over = overrun(entries, 340);
    expect(over?.seconds).toBe(320);
    expect(over?.crossing.name).toBe('two');
    expect(over?.behind.map(({ name }) => name)).toEqual(['three']);
    expect(over?.without).toEqual([]);
    // The least that has to go comes first.
    expect(overrun(entries, 600)?.without.map((one) => one.entry.name)).toEqual([
      'talk',
      'one',
      'two',
      'three',
    ]);
    expect([timeOfDay('20:15', 46 * 60 + 40), timeOfDay('23:50', 1200)]).toEqual([
      '21:01',
      '00:10',
    ]);
  });

  it('knows the same song twice in one night apart, and leaves cues out of one alone', () => {
    const cues = ['a', 'b'].map((id, at) => newCue(id, 'one', at, id, 'patch'));
    const order = [
      songEntry('first', 'one'),
      { ...songEntry('again', 'one'), tonight: { leftOut: ['a'] } },
    ];
    const all = steps(order, songs, cues);
    expect(all.map(({ entryId, cueId, songNumber }) => [entryId, cueId, songNumber])).toEqual([
      ['first', 'a', 0],
      ['first', 'b', 0],
      ['again', 'b', 1],
    ]);
    expect(stepIndex(all, { entryId: 'again', songId: 'one', cueId: 'b' })).toBe(2);
    expect(stepIndex(all, { entryId: 'again', songId: 'one', cueId: 'a' })).toBe(2);
    expect(stepIndex(all, { entryId: null, songId: 'one', cueId: 'b' })).toBe(1);
    expect(stepIndex(all, { entryId: null, songId: null, cueId: null })).toBe(-1);
  });
});

describe('a show for another night', () => {
  let made = 0;
  const tonight = { leftOut: [], tempo: 96 };
  const order = show.order.map((e) => (e.kind === 'song' ? { ...e, tonight } : e));
  const copy = copyOfShow(
    { ...show, order },
    { id: 'copy', name: 'Another night', date: '2027-08-15' },
    () => `new-${++made}`,
  );

  it('has the same songs at places of its own, and nothing of that one night', () => {
    expect(copy.order.map((e) => (e.kind === 'song' ? e.songId : e.name))).toEqual([
      'one',
      'talk',
      'two',
      'three',
    ]);
    expect(new Set(copy.order.map(({ id }) => id)).size).toBe(4);
    expect(copy.order.some((e) => e.kind === 'song' && e.tonight)).toBe(false);
    expect(showDifferences(copy, show, songs)).toEqual([]);
  });

  it('tells what is otherwise: moved, new, gone, tonight; and a move as one move', () => {
    const [one, gap, two, three] = copy.order;
    const changed: Show = {
      ...copy,
      place: 'Pier Nine',
      order: [three, one, gap, { ...songEntry('n', 'four'), tonight }],
    };
    expect(showDifferences(changed, show, songs)).toEqual([
      { what: 'place', here: 'Pier Nine', there: '—' },
      { what: 'three', here: '1.', there: '4.' },
      { what: 'four', here: '4.', there: 'not there' },
      { what: 'two', here: 'not here', there: '3.' },
    ]);
    expect(two.kind).toBe('song');
    const slower = { ...copy, order: order.map((e, i) => ({ ...e, id: copy.order[i].id })) };
    expect(showDifferences(slower, show, songs)).toContainEqual({
      what: 'one, tonight',
      here: 'at 96',
      there: 'as written',
    });
  });

  it('keeps a song that it needs: the shows that hold one are named', () => {
    expect(showsWith('two', [show, copy]).map(({ name }) => name)).toEqual([
      'A night',
      'Another night',
    ]);
    expect(showsWith('four', [show, copy])).toEqual([]);
  });
});
