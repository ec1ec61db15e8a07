import * as z from 'zod';

/** The parts that a sheet can have: the running order, a page a song, the rig. */
export const SHEET_PARTS = ['order', 'songs', 'rig'] as const;
export type SheetPart = (typeof SHEET_PARTS)[number];

/** How a sheet is wanted, as an address says it. */
export const sheetWishesSchema = z.object({
  paper: z.enum(['A4', 'Letter']).default('A4'),
  /** Letters for the dark, half as large again. */
  large: z.stringbool().default(false),
  /** Parts, with commas between them; all if left out. */
  parts: z
    .string()
    .transform((words) => words.split(','))
    .pipe(z.array(z.enum(SHEET_PARTS)).min(1))
    .default([...SHEET_PARTS]),
});
export type SheetWishes = z.infer<typeof sheetWishesSchema>;
