import { describe, expect, it } from 'vitest';
import type { Show } from '../model/show/show.js';
import { cueOf, cues, devices, patchOf, show, song } from '../testing/small-show.js';
import { newRig } from '../model/rig/rig.js';
import { sheetOf } from './sheet.js';

const rig = { ...newRig('s', 'Stage'), labels: ['hands', ...Array<string>(15).fill('')] };

function sheet(changes: Partial<Show> = {}, written = song) {
  return sheetOf({
    ...{ show: { ...show, ...changes }, rig, devices },
    songs: new Map([[written.id, written]]),
    patches: new Map([
      ['first', patchOf('first', 'tine')],
      ['second', patchOf('second', 'bells')],
    ]),
    cues: Object.values(cues),
    ...{ sounds: new Map(), patterns: new Map() },
  });
}

const [entry] = show.order;

describe('the sheet', () => {
  it('has the night in lines, with times of day where the beginning is known', () => {
    const order: Show['order'] = [
      entry,
      { kind: 'talk', id: 'talk', name: 'thanks', lengthSeconds: 120 },
      { ...entry, id: 'gone', songId: 'gone' } as typeof entry,
      { ...entry, id: 'again', encore: true } as typeof entry,
    ];
    const { order: lines, facts, songs } = sheet({ order, start: '20:15', place: 'The pier' });
    expect(lines.map(({ number, kind, at, keys }) => [number, kind, at, keys])).toEqual([
      [1, 'song', '20:15', 'C → D'],
      [null, 'gap', '20:16', ''],
      // What cannot be read keeps its place, and takes no number.
      [null, 'song', '20:18', ''],
      // It comes when it is asked for.
      [2, 'encore', '', 'C → D'],
    ]);
    expect(facts).toEqual([
      ...['Fri, 1 Jan 2027', 'The pier', 'start 20:15', 'slot 1:00'],
      'ends 20:18',
    ]);
    expect(songs.map(({ number }) => number)).toEqual([1, 2]);
    expect(sheet().order[0]).toMatchObject({ at: '0:00', tempo: '100' });
    const waltz = { ...song, metre: { beats: 3, unit: 4 } as const };
    expect(sheet({}, waltz).order[0].tempo).toBe('100 3/4');
  });

  it('tells of each cue what it brings, and what is otherwise than in the one before', () => {
    const controls: Show['controls'] = [
      ...show.controls,
      {
        action: 'goTo',
        place: 'pads1',
        message: { kind: 'pad', pad: 6 },
        songId: 'song',
        cueId: 'three',
      },
    ];
    const told = sheet({ controls }).songs[0].cues.map(
      ({ name, patch, changes, glide, presses }) => [name, patch, changes, glide, presses],
    );
    expect(told).toEqual([
      ['one', 'first', [], '1.5 s', []],
      ['two', '', ['Layer −20.0 dB'], '4 s', []],
      ['three', 'second', ['CC 11 64'], '1.5 s', ['pad 7']],
    ]);
    expect(sheet({ controls }).presses).toEqual([
      { does: 'next cue', control: 'Pads note 39 or Right pedal CC 80' },
      { does: 'back a cue', control: 'Pads note 36' },
    ]);
  });

  it('plays the night as it is that night: other keys, cues left out, a note, silent layers', () => {
    const tonight = { tempo: 90, leftOut: ['two'], note: 'watch the drums' };
    const night: Show['order'] = [{ ...entry, tonight } as typeof entry];
    const [page] = sheet(
      { order: night },
      { ...song, notes: 'first line\n\n \n\nsecond line\n\n' },
    ).songs;
    expect(page).toMatchObject({
      ...{ tempo: '90', metre: '4/4', fingered: 'C', sounding: 'D', length: '1:00' },
      otherwise: 'at 90, 1 cue left out, watch the drums',
      notes: ['first line', '', 'second line'],
    });
    expect(page.cues.map(({ name }) => name)).toEqual(['one', 'three']);
    const silent = { balance: { layer: { level: -20, muted: true } } };
    const { songs } = sheetOf({
      ...{ show, rig, devices, songs: new Map([['song', song]]) },
      patches: new Map([['first', patchOf('first', 'tine')]]),
      cues: [cues.one, cueOf('hush', 1, 'first', silent), cueOf('back', 2, 'first')],
      ...{ sounds: new Map(), patterns: new Map() },
    });
    expect(songs[0].cues.map(({ changes }) => changes)).toEqual([
      [],
      ['no Layer'],
      ['with Layer', 'Layer −6.0 dB'],
    ]);
  });

  it('draws every keyboard that a patch lies on, and tells of the rig', () => {
    const { songs, rig: told } = sheet();
    expect(songs[0].maps.map(({ patch, keyboard }) => [patch, keyboard])).toEqual([
      ['first', 'Upper'],
      ['second', 'Upper'],
    ]);
    const [{ bars, lowest, highest }] = songs[0].maps;
    expect([lowest, highest]).toEqual([28, 103]);
    expect(bars).toMatchObject([{ letter: 'A', low: 28, high: 103, row: 0, muted: false }]);
    expect(told.devices.map(({ name, has, channels }) => [name, has, channels])).toEqual([
      ['Upper', '76 keys, E1–G7', '1'],
      ['Pads', '2 pads', '10'],
      ['Right pedal', 'switch, CC 80', '1'],
      ['Module', 'sound module', '3'],
    ]);
    expect(told.channels).toEqual([{ channel: 1, label: 'hands' }]);
  });
});
