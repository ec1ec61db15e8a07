import { BAND_SETTINGS, parameterOf, type ControlTarget } from '@pentachord/core/model';
import type { NumberKind } from './number-text';

/** How the values of what a control moves are written. */
export function kindOfTarget(target: ControlTarget): NumberKind {
  if (target.kind === 'accompanist')
    return BAND_SETTINGS[target.setting].step < 1 ? 'decimal' : 'signed';
  switch (parameterOf(target)) {
    case null:
      return 'signed';
    case 'pan':
      return 'pan';
    case 'brightness':
    case 'attack':
    case 'release':
    case 'vibrato':
      return 'percent';
    default:
      return 'level';
  }
}
