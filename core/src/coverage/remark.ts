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
  | 'unbalancedSplit'
  | 'neverHeard';

/** Something noticed in a patch: what, where, which layers. */
export interface Remark {
  kind: RemarkKind;
  /** Stays the same while the matter stays the same. */
  id: string;
  /** `alarm`: something will be missing on stage. `note`: worth knowing. */
  weight: 'alarm' | 'note';
  text: string;
  /** The keyboard it was noticed on; null when it is on none. */
  keyboardId: string | null;
  where: Ground | null;
  layerIds: string[];
  /** Semitones, in octaves, that would take the layer to where all of it sounds well; left out where none do. */
  octaves?: number;
  /** dB by which the upper side of a split is louder than the lower one. */
  excess?: number;
}
