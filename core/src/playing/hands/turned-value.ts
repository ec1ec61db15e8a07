import type { Tie } from '../../model/patch/tie.js';
import { FULL, isWithin, positionOfValue, towards, valueAt } from '../../ties/travel.js';

/** Where so many steps of an endless knob put the setting of a tie, in its own unit, from where it stands now. */
export function turnedValue(tie: Tie, now: number, steps: number): number {
  if (!isWithin(tie, now)) return towards(tie, now, (steps * (tie.to - tie.from)) / FULL);
  const position = positionOfValue(tie, now) + steps;
  return valueAt(tie, Math.max(0, Math.min(FULL, position)));
}
