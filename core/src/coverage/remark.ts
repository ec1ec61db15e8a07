import type { Ground } from './coverage.js';

/** What sort of thing was noticed. */
export type RemarkKind =
  | 'silentKeys'
  | 'silentStrengths'
  | 'beyondKeyboard'
  | 'sameSoundTwice'
  | 'outsideNaturalRange'
  | 'outsideMidi'
  | 'dip'
  | 'leap'
  | 'unbalancedSplit';

/** Something noticed in a patch: what, where, which layers. */
export interface Remark {
  kind: RemarkKind;
  /** Stays the same while the matter stays the same. */
  id: string;
  /** `alarm`: something will be missing on stage. `note`: worth knowing. */
  weight: 'alarm' | 'note';
  text: string;
  keyboardId: string;
  where: Ground | null;
  layerIds: string[];
}
