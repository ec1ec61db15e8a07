import * as z from 'zod';

/** Identifier of a saved thing, made by whoever creates it. */
export const idSchema = z
  .string()
  .min(1)
  .max(64)
  .regex(/^[A-Za-z0-9-]+$/, 'an id holds only letters, digits and hyphens');
export type Id = z.infer<typeof idSchema>;

/** Half of a character: what is left when text is cut in the midst of one. It cannot be stored. */
const HALF = /\p{Surrogate}/u;

/** Text of at most so many characters, counted as one reads them, and none of them a half. */
export function textSchema(most: number) {
  return z
    .string()
    .refine((text) => !HALF.test(text), 'it holds half a character')
    .refine((text) => [...text].length <= most, `it is longer than ${most} characters`);
}

/** Text cut to so many characters, none of them halved, and without blanks around it. */
export function cutText(text: string, most: number): string {
  return [...text.trim()].slice(0, most).join('').trim();
}

/** The most characters of a name. */
export const LONGEST_NAME = 80;
/** A name on screen: not empty, at most {@link LONGEST_NAME} characters. */
export const nameSchema = z
  .string()
  .trim()
  .min(1, 'a name cannot be empty')
  .pipe(textSchema(LONGEST_NAME));

/** Says of every thing of a list whose id one before it has that there are two of them. */
export function refuseTwins(
  things: readonly { id: string }[],
  list: string,
  what: string,
  context: z.RefinementCtx,
): void {
  const seen = new Set<string>();
  things.forEach(({ id }, index) => {
    if (seen.has(id))
      context.addIssue({
        code: 'custom',
        path: [list, index, 'id'],
        message: `two ${what} have the same id`,
      });
    seen.add(id);
  });
}

/** How often a thing has been saved; 0 means it has never been. A save names the revision it was made from. */
export const revisionSchema = z.number().int().min(0);

/** MIDI channel as musicians count, 1–16. */
export const channelSchema = z.number().int().min(1).max(16);

/** Number of a MIDI controller, 0–119; 120–127 are channel mode messages. */
export const controllerNumberSchema = z.number().int().min(0).max(119);

/** A seven-bit MIDI value. */
export const sevenBitSchema = z.number().int().min(0).max(127);
