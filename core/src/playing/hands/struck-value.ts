import { isWhole } from '../../model/patch/control-target.js';
import type { Tie } from '../../model/patch/tie.js';
import { towards, valueAt } from '../../ties/travel.js';

/** Steps in which a setting is gone through by presses. */
const STRIDES = 8;

/** Where a press, 0–127 hard, puts the setting of a tie, in its own unit, from where it stands now (null for nowhere). */
export function struckValue(tie: Tie, how: number, now: number | null): number {
  const { from, to, target } = tie;
  const present = now ?? from;
  switch (tie.acts) {
    case 'usual':
      return valueAt(tie, how);
    case 'holds':
      return to;
    case 'turnsOver':
      return Math.abs(present - to) < Math.abs(present - from) ? from : to;
    case 'steps': {
      const stride = isWhole(target) ? Math.sign(to - from) : (to - from) / STRIDES;
      const next = towards(tie, present, stride);
      return isWhole(target) ? Math.round(next) : next;
    }
  }
}
