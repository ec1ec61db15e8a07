import { describe, expect, it } from 'vitest';
import { layer } from '../../testing/fixtures.js';
import { valueAt } from '../../ties/travel.js';
import { isSwitch, limitsOf, usualTravel, type ControlTarget } from './control-target.js';
import { targetInWords } from './target-words.js';
import { tieSchema, usualManner, type Tie } from './tie.js';
import { newTreatment } from './treatment.js';

const target = (parameter: string): ControlTarget =>
  ({ kind: 'layer', layerId: 'left', parameter }) as ControlTarget;
const brightness: ControlTarget = {
  kind: 'sound',
  patchSoundId: 'tine',
  parameter: 'brightness',
};
const ripples: ControlTarget = { kind: 'treatment', treatmentId: 'ripples' };

describe('what a control moves', () => {
  it('is a switch for lifts and treatments, and moves everything else', () => {
    expect([target('lift'), ripples].map(isSwitch)).toEqual([true, true]);
    expect([target('level'), target('pan'), brightness].map(isSwitch)).toEqual([
      false,
      false,
      false,
    ]);
  });

  it('stays within the limits of its target, as a newly tied control does', () => {
    for (const one of [
      target('level'),
      target('pan'),
      target('reverb'),
      target('lift'),
      brightness,
      { ...brightness, parameter: 'vibrato' } as ControlTarget,
      ripples,
    ]) {
      const { min, max } = limitsOf(one);
      const { from, to } = usualTravel(one);
      expect(from).toBeGreaterThanOrEqual(min);
      expect(to).toBeLessThanOrEqual(max);
      expect(from).toBeLessThan(to);
    }
    expect(usualTravel(target('level'))).toEqual({ from: -24, to: 0 });
    expect(usualTravel(target('pan'))).toEqual({ from: -1, to: 1 });
  });

  it('goes from one end to the other as the controller does, backwards too', () => {
    const control: Tie = {
      id: 'wheel',
      place: 'keys1',
      message: { kind: 'controller', controller: 1 },
      target: target('level'),
      from: -30,
      to: -4,
      ...usualManner({ kind: 'pedal' }),
    };
    expect(tieSchema.parse(control)).toEqual(control);
    expect([0, 127].map((position) => valueAt(control, position))).toEqual([-30, -4]);
    expect(valueAt(control, 63.5)).toBeCloseTo(-17);
    expect(valueAt({ ...control, from: 1, to: -1 }, 127)).toBe(-1);
    expect(tieSchema.safeParse({ ...control, from: 500 }).success).toBe(false);
    const reserved = { kind: 'controller', controller: 121 };
    expect(tieSchema.safeParse({ ...control, message: reserved }).success).toBe(false);
  });

  it('is told in words, for a shared sound with everybody who hears it', () => {
    const patch = {
      layers: [
        layer('right', { name: 'Right tine', soundId: 'tine' }),
        layer('left', { name: 'Left tine', soundId: 'tine' }),
      ],
      treatments: [newTreatment('arpeggio', 'ripples', ['left'])],
      accompanists: [],
    };
    expect(
      [target('level'), target('delay'), target('lift'), brightness, ripples].map((one) =>
        targetInWords(one, patch),
      ),
    ).toEqual([
      'level of Left tine',
      'delay send of Left tine',
      'lift of Left tine on and off',
      'brightness of Right tine and Left tine',
      'arpeggio (up, 1/16) on and off',
    ]);
    expect(targetInWords({ kind: 'treatment', treatmentId: 'gone' }, patch)).toBe('nothing');
  });
});
