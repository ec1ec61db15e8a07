import { KINDS, savedSchemas, type Kind, type Saved, type ValueOf } from '@pentachord/core/model';
import * as z from 'zod';
import type { Unsaved } from '../show/document';
import type { Putting } from './settled';

const unsavedSchema = z.object({ revision: z.number().int().min(0), value: z.unknown() });
const puttingSchema = z.object({ page: z.string(), n: z.number() });

/** Which page has kept it, and when; nothing for what an earlier version kept. */
export function puttingOf(kept: unknown): Partial<Putting> {
  return puttingSchema.safeParse(kept).data ?? {};
}

/** Of what is kept under keys of kind and id, that which is as it should be. */
export function wholeOnes(
  keys: readonly string[],
  kept: readonly unknown[],
): Record<string, Saved<ValueOf<Kind>>> {
  const base: Record<string, Saved<ValueOf<Kind>>> = {};
  keys.forEach((key, i) => {
    const { kind } = kindAndId(key);
    const read = kind && savedSchemas[kind].safeParse(kept[i]);
    if (read?.success) base[key] = read.data;
  });
  return base;
}

function kindAndId(key: string): { kind: Kind | null; id: string } {
  const at = key.indexOf('/');
  const kind = KINDS.find((one) => one === key.slice(0, at)) ?? null;
  return { kind, id: key.slice(at + 1) };
}

/** A kept change that is not saved yet; null when it is not as it should be. */
export function readUnsaved(key: string, kept: unknown): Unsaved | null {
  const { kind, id } = kindAndId(key);
  const read = unsavedSchema.safeParse(kept);
  if (!kind || !read.success) return null;
  const { revision, value } = read.data;
  if (value === null) return { kind, id, revision, value: null };
  const whole = savedSchemas[kind].safeParse({ revision, value });
  return whole.success && whole.data.value.id === id
    ? { kind, id, revision, value: whole.data.value }
    : null;
}
