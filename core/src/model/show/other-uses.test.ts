import { expect, it } from 'vitest';
import { layer, patchOf } from '../../testing/fixtures.js';
import type { ControlMessage } from '../patch/control-message.js';
import { usualManner } from '../patch/tie.js';
import { usualTravel, type ControlTarget } from '../patch/control-target.js';
import type { Place } from '../rig/place.js';
import { otherUseOf } from './other-uses.js';

const note = (number: number): ControlMessage => ({ kind: 'note', note: number });
const level: ControlTarget = { kind: 'layer', layerId: 'a', parameter: 'level' };
const lift: ControlTarget = { kind: 'layer', layerId: 'a', parameter: 'lift' };

it('is told of a control before it is tied: what it does to the show, and what it moves in the patch', () => {
  const patch = {
    ...patchOf([layer('a')]),
    controls: [
      {
        ...{ id: 'one', place: 'pads1' as const, message: note(40), target: lift },
        ...{ ...usualTravel(lift), ...usualManner(note(40)) },
      },
    ],
  };
  const controls = [
    { action: 'nextCue' as const, place: 'pads1' as const, message: note(39) },
    { action: 'allNotesOff' as const, place: 'pads1' as const, message: note(38) },
  ];
  const use = (number: number, target = level, place: Place = 'pads1') =>
    otherUseOf({ place, message: note(number) }, target, { controls, patch });
  expect(use(39)).toEqual({ words: 'goes to the next cue', ofShow: true });
  expect(use(38)?.words).toBe('ends all notes');
  expect(use(40)).toEqual({ words: 'moves lift of a on and off', ofShow: false });
  expect(use(40, lift)).toBeNull();
  expect(use(39, level, 'pads2')).toBeNull();
  const controller: ControlMessage = { kind: 'controller', controller: 39 };
  expect(
    otherUseOf({ place: 'pads1', message: controller }, level, { controls, patch }),
  ).toBeNull();
});
