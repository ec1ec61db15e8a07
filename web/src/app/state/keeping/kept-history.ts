import { KINDS, type Kind } from '@pentachord/core/model';
import { dequal } from 'dequal';
import * as z from 'zod';
import { forgetting, type History } from '../editing/history';
import type { Things } from '../show/document';

/** Steps that are kept, and letters that they may take as text. */
const MOST_STEPS = 60;
const MOST_LETTERS = 1_000_000;

const changeSchema = z.object({
  op: z.enum(['add', 'remove', 'replace']),
  path: z.array(z.union([z.string(), z.number()])).min(1),
  value: z.unknown().optional(),
});
const stepSchema = z.object({
  words: z.string(),
  place: z.object({ kind: z.enum(KINDS), id: z.string() }),
  forth: z.array(changeSchema).min(1),
  back: z.array(changeSchema).min(1),
});
/** What can be undone and redone, as this browser keeps it over a reload. */
const keptHistorySchema = z.object({
  /** Name of the database it belongs to, and of the window whose it is. */
  database: z.string(),
  window: z.string(),
  past: z.array(stepSchema),
  future: z.array(stepSchema),
  /** Every thing that a step touches, as it stood; undefined for one that was not there. */
  things: z.array(z.object({ kind: z.enum(KINDS), id: z.string(), value: z.unknown() })),
});
type KeptHistory = z.infer<typeof keptHistorySchema>;

/** The latest steps of a history, as many as are kept, with the things that they touch. */
export function historyToKeep(
  { past, future }: History,
  things: Things,
): Pick<KeptHistory, 'past' | 'future' | 'things'> {
  let letters = 0;
  const within = (steps: History['past']) =>
    steps
      .slice(-MOST_STEPS)
      .reverse()
      .filter((step) => (letters += JSON.stringify([step.forth, step.back]).length) < MOST_LETTERS)
      .reverse()
      .map(({ words, place, forth, back }) => ({ words, place, forth, back }));
  const kept = { past: within(past), future: within(future) };
  const touched = new Map<string, { kind: Kind; id: string }>();
  for (const { forth } of [...kept.past, ...kept.future])
    for (const { path } of forth) {
      const [kind, id] = path as [Kind, string];
      touched.set(`${kind}/${id}`, { kind, id });
    }
  return {
    ...kept,
    things: [...touched.values()].map(({ kind, id }) => ({ kind, id, value: things[kind][id] })),
  };
}

/**
 * What of a kept history can still be undone: nothing of another database or window, and of no thing that is otherwise than it was
 * left. Null for what is no history at all.
 */
export function historyStillTrue(
  kept: unknown,
  whose: { database: string | null; window: string },
  things: Things,
): Pick<History, 'past' | 'future'> | null {
  const read = keptHistorySchema.safeParse(kept).data;
  if (read?.database !== whose.database || read.window !== whose.window) return null;
  const whole = (step: KeptHistory['past'][number]): History['past'][number] => ({
    ...step,
    gesture: null,
  });
  let history: History = {
    past: read.past.map(whole),
    future: read.future.map(whole),
    undoing: null,
  };
  for (const { kind, id, value } of read.things)
    if (!dequal(value, things[kind][id])) history = forgetting(history, { kind, id });
  return { past: history.past, future: history.future };
}
