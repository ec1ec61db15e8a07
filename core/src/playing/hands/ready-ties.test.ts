import { describe, expect, it } from 'vitest';
import { newChooser } from '../../model/patch/chooser.js';
import { newPatch } from '../../model/patch/patch.js';
import { usualManner, type Tie } from '../../model/patch/tie.js';
import { layer } from '../../testing/fixtures.js';
import { devices } from '../../testing/small-show.js';
import { jobsNow } from '../../ties/in-force.js';
import { ReadyTies } from './ready-ties.js';

const knob = (id: string, controller: number, more: Partial<Tie> = {}): Tie => ({
  ...{ id, place: 'keys1', message: { kind: 'controller', controller }, from: -24, to: 0 },
  target: { kind: 'letter', layer: 0, parameter: 'level' },
  ...usualManner({ kind: 'controller', controller }),
  ...more,
});
const patch = { ...newPatch('patch', 'song', 0, 'Patch'), layers: [layer('a')] };
const ready = (owned: { patch?: Tie[]; song?: Tie[]; rig?: Tie[] }, before?: ReadyTies) =>
  new ReadyTies(
    jobsNow({
      ...{ devices, patch: { ...patch, controls: owned.patch ?? [] }, show: null },
      ...{ song: { ties: owned.song ?? [] }, rig: { ties: owned.rig ?? [] } },
    }).filter(({ yieldsTo }) => yieldsTo === null),
    devices,
    before,
  );
const device = devices.findIndex(({ place }) => place === 'keys1');

describe('ties that are in force', () => {
  it('are found by device, kind and number, several of one control together', () => {
    const ties = ready({ rig: [knob('one', 20), knob('two', 20), knob('other', 0)] });
    const found = (at: number, kind: number, number: number) =>
      ties.of(at, kind, number)?.map(({ tie }) => tie.id);
    expect(found(device, 0xb0, 20)).toEqual(['one', 'two']);
    expect(found(device, 0xb0, 0)).toEqual(['other']);
    expect(found(device, 0xb0, 1)).toBeUndefined();
    expect(found(device, 0xa0, 20)).toBeUndefined();
    expect(found(device + 1, 0xb0, 20)).toBeUndefined();
    expect([ties.has('one'), ties.has('gone'), ties.find('two')?.number]).toEqual([
      true,
      false,
      20,
    ]);
    const leaning = ready({ rig: [knob('lean', 0, { message: { kind: 'keyPressure' } })] });
    expect(leaning.of(device, 0xa0, 0)?.length).toBe(1);
    expect(leaning.of(device, 0xa0, 61)?.length).toBe(1);
  });

  it('of the patch and the song are nearer than what the show does, with both of a pair', () => {
    const nearer = (owned: Parameters<typeof ready>[0], number: number, kind = 0xb0) =>
      ready(owned).isNearer(device, kind, number);
    expect(nearer({ patch: [knob('one', 20)] }, 20)).toBe(true);
    expect(nearer({ song: [knob('one', 20)] }, 20)).toBe(true);
    expect(nearer({ rig: [knob('one', 20)] }, 20)).toBe(false);
    expect(nearer({ patch: [knob('one', 20)] }, 21)).toBe(false);
    expect(nearer({ patch: [knob('one', 20)] }, 52)).toBe(false);
    expect(nearer({ patch: [knob('one', 20, { reads: 'fine' })] }, 52)).toBe(true);
    const lean = knob('lean', 0, { message: { kind: 'keyPressure' } });
    expect(nearer({ patch: [lean] }, 61, 0xa0)).toBe(true);
  });

  it('stay down when they are made ready anew, each by itself', () => {
    const tied = { rig: [knob('one', 20), knob('two', 21)] };
    const before = ready(tied);
    for (const one of before.all) one.held.down = one.tie.id === 'two';
    const downs = (after: ReadyTies) => after.all.map(({ tie, held }) => [tie.id, held.down]);
    expect(downs(ready(tied, before))).toEqual([
      ['one', false],
      ['two', true],
    ]);
    const moved = { rig: [knob('two', 22), knob('three', 21)] };
    expect(downs(ready(moved, before))).toEqual([
      ['two', false],
      ['three', false],
    ]);
    expect(downs(ready(tied))).toEqual([
      ['one', false],
      ['two', false],
    ]);
  });

  it('of any number are those of their own device and kind', () => {
    const leaning = ready({ rig: [knob('lean', 0, { message: { kind: 'keyPressure' } })] });
    expect(leaning.of(device + 1, 0xa0, 61)).toBeUndefined();
    expect(leaning.of(device, 0xd0, 61)).toBeUndefined();
  });

  it('are none at a place that the rig has not, and none of what is no tie', () => {
    const gone = ready({ rig: [knob('gone', 20, { place: 'keys9' }), knob('here', 21)] });
    expect(gone.all.map(({ tie }) => tie.id)).toEqual(['here']);
    const choosers = [
      {
        ...newChooser('chooser', 'Chooser', patch.layers),
        controls: [
          {
            ...({ place: 'keys1', picks: 'next' } as const),
            message: { kind: 'controller', controller: 30 } as const,
          },
        ],
      },
    ];
    const jobs = jobsNow({
      ...{ devices, patch: { ...patch, choosers }, song: null, rig: null },
      show: {
        controls: [
          { action: 'nextCue', place: 'keys1', message: { kind: 'controller', controller: 31 } },
        ],
      },
    });
    expect(jobs).toHaveLength(2);
    const none = new ReadyTies(jobs, devices);
    expect(none.all).toEqual([]);
    expect(none.isNearer(device, 0xb0, 30)).toBe(true);
    expect(none.isNearer(device, 0xb0, 31)).toBe(false);
  });

  it('do not stay down at another device that sends the same', () => {
    const pedal = knob('pedal', 20);
    const before = ready({ rig: [pedal] });
    before.all[0].held.down = true;
    expect(ready({ rig: [pedal] }, before).all[0].held.down).toBe(true);
    const moved = ready({ rig: [{ ...pedal, place: 'pads1' }] }, before);
    expect(moved.all[0].held.down).toBe(false);
  });

  it('of two controllers keep the finer one from the show as well', () => {
    const fine = ready({ rig: [knob('fine', 20, { reads: 'fine' })] });
    expect([52, 20].map((number) => fine.isNearer(device, 0xb0, number))).toEqual([true, false]);
  });
});
