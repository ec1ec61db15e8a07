import {
  LONGEST_PART,
  LONGEST_RECORDING,
  SUSTAIN_SILENT,
  type SampleZone,
} from '@pentachord/core/model';
import type { NumberKind } from '../ui/numbers/number-text';

/** A number of a zone that stands alone. */
export type ZoneNumber = {
  [K in keyof SampleZone]-?: SampleZone[K] extends number ? K : never;
}[keyof SampleZone];

/** How a number of a zone is shown and set. */
export interface ZoneParameter {
  of: ZoneNumber;
  label: string;
  unit: string;
  kind: NumberKind;
  min: number;
  max: number;
  step: number;
  chars: number;
  /** Of several zones each is moved by as much, and not all set to the same. */
  isRelative?: boolean;
}

const time = (of: ZoneNumber, label: string): ZoneParameter => ({
  ...{ of, label, unit: 's', kind: 'decimal', min: 0, max: LONGEST_PART, step: 0.01, chars: 6 },
});

/** Numbers of a zone besides its ranges, in the order in which they stand. */
export const ZONE_PARAMETERS: readonly ZoneParameter[] = [
  {
    of: 'root',
    label: 'Root',
    unit: '',
    kind: 'key',
    min: 0,
    max: 127,
    step: 1,
    chars: 4,
    isRelative: true,
  },
  {
    of: 'cents',
    label: 'Tuning',
    unit: 'ct',
    kind: 'decimal',
    min: -100,
    max: 100,
    step: 1,
    chars: 5,
    isRelative: true,
  },
  {
    of: 'tracking',
    label: 'Tracking',
    unit: 'ct a key',
    kind: 'plain',
    min: -200,
    max: 200,
    step: 100,
    chars: 4,
  },
  {
    of: 'gain',
    label: 'Gain',
    unit: 'dB',
    kind: 'decimal',
    min: -60,
    max: 24,
    step: 0.5,
    chars: 5,
    isRelative: true,
  },
  {
    of: 'pan',
    label: 'Pan',
    unit: '',
    kind: 'pan',
    min: -1,
    max: 1,
    step: 0.05,
    chars: 4,
    isRelative: true,
  },
  time('attack', 'Attack'),
  time('hold', 'Hold'),
  time('decay', 'Decay'),
  {
    of: 'sustain',
    label: 'Sustain',
    unit: 'dB',
    kind: 'level',
    min: SUSTAIN_SILENT,
    max: 0,
    step: 1,
    chars: 5,
  },
  time('release', 'Release'),
  {
    of: 'start',
    label: 'Start',
    unit: 's',
    kind: 'decimal',
    min: 0,
    max: LONGEST_RECORDING,
    step: 0.001,
    chars: 7,
  },
  {
    of: 'choke',
    label: 'Choke group',
    unit: '',
    kind: 'plain',
    min: 0,
    max: 255,
    step: 1,
    chars: 3,
  },
  { of: 'turn', label: 'Turn', unit: '', kind: 'plain', min: 0, max: 128, step: 1, chars: 3 },
];
