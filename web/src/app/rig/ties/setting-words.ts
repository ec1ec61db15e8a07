import type { ControlTarget } from '@pentachord/core/model';
import { kindOfTarget } from '../../ui/numbers/kind-of-target';
import { writeNumber } from '../../ui/numbers/number-text';

/** Where a setting stands, in words; nothing for what stands nowhere. */
export function settingInWords(target: ControlTarget, value: number | boolean | null): string {
  if (value === null) return '';
  if (typeof value === 'boolean') return value ? 'on' : 'off';
  const kind = kindOfTarget(target);
  const written = writeNumber(kind === 'level' ? Math.round(value * 10) / 10 : value, kind, 4);
  if (kind === 'level') return `${written} dB`;
  return target.kind === 'octave' ? `${written} oct` : written;
}
