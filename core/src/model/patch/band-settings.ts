import * as z from 'zod';
import { GRID_STEPS, LONGEST_PATTERN } from '../library/pattern-limits.js';

/** Settings of whatever an accompanist plays that a control can move, and a cue keep. */
export const bandSettingSchema = z.enum([
  'muted',
  'turned',
  'weight',
  'swing',
  'quantise',
  'thin',
  'transpose',
  'steps',
  'length',
  'rate',
]);
export type BandSetting = z.infer<typeof bandSettingSchema>;

/** How a setting is moved: least and most, where a newly tied control moves it from and to, and its smallest step. */
interface MovedWay {
  name: string;
  isSwitch: boolean;
  min: number;
  max: number;
  from: number;
  to: number;
  step: number;
}

const way = (name: string, min: number, max: number, step: number, from = min, to = max) => ({
  ...{ name, isSwitch: false, min, max, step, from, to },
});
const onOff = (name: string) => ({ ...way(name, 0, 1, 1), isSwitch: true });

/**
 * Of every setting its way. `turned` turns directions over; `quantise` is the share of the way to the step; `thin` counts note
 * values from every note (0) by 1/32 (1) to 1/4; `length` is beats, 0 as written; `rate` half time (−1), as written, double time.
 */
export const BAND_SETTINGS: Readonly<Record<BandSetting, MovedWay>> = {
  muted: onOff('muting'),
  turned: onOff('direction turned over'),
  weight: way('weight', -1, 1, 0.01),
  swing: way('swing', 50, 75, 1),
  quantise: way('quantise', 0, 1, 0.01),
  thin: way('thinning', 0, GRID_STEPS.length, 1),
  transpose: way('transposition', -60, 60, 1, -12, 12),
  steps: way('steps of the key', -28, 28, 1, -7, 7),
  length: way('length', 0, LONGEST_PATTERN, 1, 1, 8),
  rate: way('half and double time', -1, 1, 1),
};

/** Where settings of an accompanist are put, whatever its patterns have; switches are 0 or 1. */
export const bandMovesSchema = z
  .partialRecord(bandSettingSchema, z.number())
  .refine(
    (moves) =>
      Object.entries(moves).every(
        ([setting, value]) =>
          value >= BAND_SETTINGS[setting as BandSetting].min &&
          value <= BAND_SETTINGS[setting as BandSetting].max,
      ),
    'a setting of an accompanist is put beyond its end',
  );
export type BandMoves = z.infer<typeof bandMovesSchema>;
