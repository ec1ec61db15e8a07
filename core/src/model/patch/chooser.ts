import * as z from 'zod';
import { idSchema, nameSchema } from '../identity.js';
import { placeSchema } from '../rig/place.js';
import { showMessageSchema } from '../show/show-message.js';

/** The most choosers of a patch, choices of one, and controls of one. */
export const MOST_CHOOSERS = 8;
export const MOST_CHOICES = 16;
const MOST_CHOOSER_CONTROLS = 32;

/** What a control of a chooser picks: one choice (from 0), the next one round, or the one at whose sector or number it stands. */
export const picksSchema = z.union([
  z
    .number()
    .int()
    .min(0)
    .max(MOST_CHOICES - 1),
  z.enum(['next', 'position']),
]);
export type Picks = z.infer<typeof picksSchema>;

/** A control that picks: a pad, key, button or pedal; a knob by its sectors; program changes by their number. */
export const chooserControlSchema = z.strictObject({
  place: placeSchema,
  message: showMessageSchema,
  picks: picksSchema,
});
export type ChooserControl = z.infer<typeof chooserControlSchema>;

/** One of the things among which is chosen: the layers that play then, or none. */
export const choiceSchema = z.strictObject({
  name: nameSchema,
  layerIds: z.array(idSchema).max(32),
});
export type Choice = z.infer<typeof choiceSchema>;

/** Picks which of several layers, or groups of layers, the keyboard plays. */
export const chooserSchema = z.strictObject({
  id: idSchema,
  name: nameSchema,
  choices: z.array(choiceSchema).min(2).max(MOST_CHOICES),
  /** The choice that counts until another is picked. */
  chosen: z
    .number()
    .int()
    .min(0)
    .max(MOST_CHOICES - 1),
  controls: z.array(chooserControlSchema).max(MOST_CHOOSER_CONTROLS),
});
export type Chooser = z.infer<typeof chooserSchema>;

/** Whether a layer is played as choosers stand: every chooser that names it has to have picked it. */
export function isChosen(
  layerId: string,
  choosers: readonly Chooser[],
  chosen: (chooser: Chooser) => number = (chooser) => chooser.chosen,
): boolean {
  return choosers.every((chooser) => {
    if (!chooser.choices.some(({ layerIds }) => layerIds.includes(layerId))) return true;
    return chooser.choices.at(chosen(chooser))?.layerIds.includes(layerId) ?? false;
  });
}

/** The choice at a position of 0–127, each having as much of the way as the others. */
export function choiceAt(position: number, count: number): number {
  return Math.min(count - 1, Math.floor((position * count) / 128));
}

/** A chooser among layers, each a choice of its own. */
export function newChooser(
  id: string,
  name: string,
  layers: readonly { id: string; name: string }[],
): Chooser {
  const choices = layers.slice(0, MOST_CHOICES).map((layer): Choice => ({
    name: layer.name,
    layerIds: [layer.id],
  }));
  while (choices.length < 2) choices.push({ name: 'no layers', layerIds: [] });
  return { id, name, choices, chosen: 0, controls: [] };
}

/** A chooser without one of its choices; controls of those behind it pick them still. With two left it stays as it is. */
export function withoutChoice(chooser: Chooser, at: number): Chooser {
  const { choices, chosen, controls } = chooser;
  if (choices.length <= 2 || at < 0 || at >= choices.length) return chooser;
  const moved = (picks: number) => (picks > at ? picks - 1 : picks);
  return {
    ...chooser,
    choices: choices.toSpliced(at, 1),
    chosen: Math.min(moved(chosen), choices.length - 2),
    controls: controls
      .filter(({ picks }) => picks !== at)
      .map((one) => (typeof one.picks === 'number' ? { ...one, picks: moved(one.picks) } : one)),
  };
}

/** What choosers have picked, by chooser: as the patch has it, but where something else has been picked while playing (null for none). */
export function picksOf(
  choosers: readonly Chooser[],
  pickedBy: (chooserId: string) => number | null,
): Map<string, number> {
  return new Map(choosers.map(({ id, chosen }) => [id, pickedBy(id) ?? chosen]));
}
