import * as z from 'zod';

/** When something begins that is asked for: now, or on the next beat, bar, or fourth bar. */
export const beginsSchema = z.enum(['now', 'beat', 'bar', 'fourBars']);
export type Begins = z.infer<typeof beginsSchema>;
