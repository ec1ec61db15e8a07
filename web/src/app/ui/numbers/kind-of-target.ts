import { parameterOf, type ControlTarget } from '@pentachord/core/model';
import type { NumberKind } from './number-text';

/** How the values of what a control moves are written. */
export function kindOfTarget(target: ControlTarget): NumberKind {
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
