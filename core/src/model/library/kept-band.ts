import * as z from 'zod';
import { idSchema, nameSchema } from '../identity.js';
import {
  accompanistSchema,
  bandKeySchema,
  MOST_ACCOMPANISTS,
  MOST_BAND_KEYS,
} from '../patch/accompanist.js';
import { MOST_CONTROLS, tieSchema } from '../patch/tie.js';
import { soundCategorySchema } from './sound.js';

/** A layer that a kept band was played by: by its name or its kind another one is found for it elsewhere. */
const bandLayerSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  category: soundCategorySchema.nullable(),
});
export type BandLayer = z.infer<typeof bandLayerSchema>;

/** The layout of a band without its sounds: accompanists, their keys and patterns, and what moves them. */
export const keptBandSchema = z.strictObject({
  kind: z.literal('band'),
  accompanists: z.array(accompanistSchema).max(MOST_ACCOMPANISTS),
  bandKeys: z.array(bandKeySchema).max(MOST_BAND_KEYS),
  /** Controls that move its accompanists. */
  controls: z.array(tieSchema).max(MOST_CONTROLS),
  layers: z.array(bandLayerSchema).max(MOST_ACCOMPANISTS * 32),
});
export type KeptBand = z.infer<typeof keptBandSchema>;
