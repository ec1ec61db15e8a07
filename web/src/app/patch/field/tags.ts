import type { Remark, RemarkKind } from '@pentachord/core/coverage';

/** What a remark is called on the field, where there is little room. */
const REMARK_TAGS: Partial<Record<RemarkKind, string>> = {
  beyondKeyboard: 'beyond the keys',
  sameSoundTwice: 'twice',
  outsideNaturalRange: 'out of its range',
  outsideMidi: 'outside MIDI',
  dip: 'dip',
  leap: 'leap',
  unbalancedSplit: 'unbalanced',
};

/** The tag of a remark on the field; null for one that is drawn there anyway. */
export function tagOf({ kind }: Remark): string | null {
  return REMARK_TAGS[kind] ?? null;
}
