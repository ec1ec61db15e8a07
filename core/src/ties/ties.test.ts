import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newChooser, type ChooserControl } from '../model/patch/chooser.js';
import { targetIn, type ControlTarget } from '../model/patch/control-target.js';
import { newPatch } from '../model/patch/patch.js';
import { newTreatment } from '../model/patch/treatment.js';
import { usualManner, type Reads, type Tie, type TravelCurve } from '../model/patch/tie.js';
import type { ShowControl } from '../model/show/show-control.js';
import { layer } from '../testing/fixtures.js';
import { devices } from '../testing/small-show.js';
import { clashesOf, isInForce, jobsNow, type JobSources } from './in-force.js';
import { finePosition, guessedReading, stepsOf, type Relative } from './reading.js';
import { positionAt, positionOfValue, valueAt } from './travel.js';

const CURVES: TravelCurve[] = ['even', 'late', 'early', 'gentle'];
/** How much of its way a control has gone. */
const shareAt = (curve: TravelCurve, position: number) =>
  valueAt({ from: 0, to: 1, curve, target: { kind: 'show', action: 'nextCue' } }, position);

describe('the way of a control', () => {
  it('rises from nothing to all, and can be gone back, whatever its curve', () => {
    fc.assert(
      fc.property(fc.constantFrom(...CURVES), fc.nat(126), (curve, position) => {
        expect([shareAt(curve, 0), shareAt(curve, 127)]).toEqual([0, 1]);
        expect(shareAt(curve, position + 1)).toBeGreaterThan(shareAt(curve, position));
        expect(positionAt(curve, shareAt(curve, position))).toBeCloseTo(position, 4);
      }),
    );
    expect([shareAt('late', 63.5), shareAt('early', 63.5)]).toEqual([0.25, 0.75]);
  });

  it('goes backwards as well, and by whole octaves', () => {
    const target: ControlTarget = { kind: 'octave', place: 'keys1' };
    const octaves = { from: 2, to: -2, curve: 'even', target } as const;
    expect([0, 40, 127].map((at) => valueAt(octaves, at))).toEqual([2, 1, -2]);
    const level = { ...octaves, target: { kind: 'letter', layer: 0, parameter: 'level' } } as const;
    expect(positionOfValue(level, -2)).toBe(127);
    expect(positionOfValue({ ...level, to: 2 }, 1)).toBe(0);
  });
});

describe('what a number means', () => {
  it('is a turn to the left or right in each of the three ways', () => {
    const steps = (reads: Relative, ...values: number[]) => values.map((v) => stepsOf(reads, v));
    expect(steps('twos', 1, 3, 127, 125)).toEqual([1, 3, -1, -3]);
    expect(steps('offset', 65, 67, 63, 61)).toEqual([1, 3, -1, -3]);
    expect(steps('sign', 1, 3, 65, 67)).toEqual([1, 3, -1, -3]);
    expect([finePosition(0, 0), finePosition(127, 127)]).toEqual([0, 127]);
    expect(finePosition(64, 0)).toBeLessThan(finePosition(64, 1));
  });

  it('is guessed from how a knob is turned, and never takes a fader for an endless knob', () => {
    const guess = (...values: number[]): Reads | null => guessedReading(values);
    expect(guess(1, 1, 2, 1, 127, 127)).toBe('twos');
    expect(guess(65, 65, 65, 63, 63)).toBe('offset');
    expect(guess(1, 1, 1, 65, 65, 66)).toBe('sign');
    expect(guess(127, 127, 127, 126, 127)).toBe('twos');
    expect(guess(1, 1)).toBeNull();
    fc.assert(
      fc.property(fc.nat(120), fc.boolean(), (from, down) => {
        const sweep = Array.from({ length: 7 }, (_, i) => (down ? 127 - from - i : from + i));
        expect(guessedReading(sweep.map((v) => Math.max(0, v)))).toBe('position');
      }),
    );
  });
});

const tie = (id: string, number: number, target: ControlTarget): Tie => ({
  ...{ id, place: 'keys1', message: { kind: 'controller', controller: number }, target },
  ...{ from: 0, to: 1, ...usualManner({ kind: 'pedal' }) },
});
const levelOfA: ControlTarget = { kind: 'letter', layer: 0, parameter: 'level' };
const ownLevel: ControlTarget = { kind: 'layer', layerId: 'piano', parameter: 'level' };
const next: ShowControl = {
  action: 'nextCue',
  place: 'keys1',
  message: { kind: 'controller', controller: 20 },
};
const patch = {
  ...newPatch('patch', 'song', 0, 'Patch'),
  layers: [layer('piano', { soundId: 'felt' })],
  treatments: [newTreatment('chord', 'chord', ['piano'])],
};
const sources = (more: Partial<JobSources>): JobSources => ({
  ...{ devices, patch, song: null, show: null, rig: null },
  ...more,
});

describe('what controls do now', () => {
  it('is said by the patch before the song, the song before the show, the show before the rig', () => {
    const song = { ties: [tie('song', 20, levelOfA)] };
    const rig = { ties: [tie('rig', 20, levelOfA), tie('other', 21, levelOfA)] };
    const show = { controls: [next] };
    const own = { ...patch, controls: [tie('patch', 20, ownLevel)] };
    const inForce = (more: Partial<JobSources>) =>
      jobsNow(sources(more))
        .filter(isInForce)
        .map(({ owner }) => owner);
    expect(inForce({ patch: own, song, show, rig })).toEqual(['patch', 'rig']);
    expect(inForce({ song, show, rig })).toEqual(['song', 'rig']);
    expect(inForce({ show, rig })).toEqual(['show', 'rig']);
    expect(inForce({ rig })).toEqual(['rig', 'rig']);
    // A tie to a layer that this patch does not have leaves the control to the others.
    const elsewhere = { ties: [tie('song', 20, { ...levelOfA, layer: 9 })] };
    expect(inForce({ song: elsewhere, show, rig })).toEqual(['show', 'rig']);
    const jobs = jobsNow(sources({ patch: own, show, rig }));
    expect(jobs.map(({ yieldsTo }) => yieldsTo)).toEqual([null, 'patch', 'patch', null]);
  });

  it('is one thing though it is tied by its own number in one place and by the knob in another', () => {
    const box = { ...devices[1], knobControllers: [20] } as (typeof devices)[number];
    const knob: Tie = {
      ...tie('a', 0, levelOfA),
      place: 'pads1',
      message: { kind: 'knob', knob: 0 },
    };
    const song = { ties: [{ ...tie('b', 20, levelOfA), place: 'pads1' } as Tie] };
    const jobs = jobsNow(sources({ devices: [box], song, rig: { ties: [knob] } }));
    expect(jobs.map(({ yieldsTo }) => yieldsTo)).toEqual([null, 'song']);
  });

  it('tells of two controls that pull at one setting, and of two jobs of one control', () => {
    const picks: ChooserControl = {
      ...{ place: 'keys1', message: { kind: 'controller', controller: 21 }, picks: 0 },
    };
    const own = {
      ...patch,
      controls: [tie('one', 20, ownLevel), tie('two', 21, ownLevel)],
      choosers: [{ ...newChooser('c', 'C', patch.layers), controls: [picks] }],
    };
    const jobs = jobsNow(sources({ patch: own }));
    expect(clashesOf(jobs[0], jobs)).toEqual({ sameControl: [], sameTarget: [jobs[1]] });
    expect(clashesOf(jobs[1], jobs)).toEqual({ sameControl: [jobs[2]], sameTarget: [jobs[0]] });
    const twice = { ties: [tie('a', 1, { kind: 'show', action: 'nextCue' })] };
    const also = { ties: [tie('b', 2, { kind: 'show', action: 'nextCue' })] };
    const presses = jobsNow(sources({ song: twice, rig: also }));
    expect(clashesOf(presses[0], presses).sameTarget).toEqual([]);
  });

  it('speaks of the things of whichever patch is played, and of none where it has none', () => {
    expect(targetIn(levelOfA, patch)).toEqual(ownLevel);
    expect(targetIn({ kind: 'letter', layer: 0, parameter: 'brightness' }, patch)).toEqual({
      ...{ kind: 'sound', patchSoundId: 'felt', parameter: 'brightness' },
    });
    expect(targetIn({ kind: 'letter', layer: 1, parameter: 'level' }, patch)).toBeNull();
    expect(targetIn({ kind: 'nthTreatment', treatment: 0 }, patch)).toEqual({
      ...{ kind: 'treatment', treatmentId: 'chord' },
    });
    expect(targetIn({ kind: 'choose', chooser: 0, picks: 'next' }, patch)).toBeNull();
    expect(targetIn({ kind: 'octave', place: 'keys1' }, null)).not.toBeNull();
    const gone = { ...tie('gone', 20, levelOfA), place: 'keys7' } as Tie;
    expect(isInForce(jobsNow(sources({ rig: { ties: [gone] } }))[0])).toBe(false);
  });
});
