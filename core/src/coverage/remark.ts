import type { Span } from '../range/range.js';
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
  | 'neverHeard'
  | 'twoPrograms'
  | 'twoStarts'
  | 'beyondRun'
  | 'silentBand'
  | 'missingPieces';

/** Something noticed in a patch: what, where, which layers. */
export interface Remark {
  /** The patch in which it was noticed. */
  patchId: string;
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
  /** The keys on which the layer sounds as its sound was made for; left out where there are none. */
  keys?: Span;
  /** The accompanist it is about. */
  accompanistId?: string;
  /** Keys of placed patterns for which the kit has no piece, by the id of the placed pattern. */
  pieces?: Readonly<Record<string, readonly number[]>>;
  /** dB by which the upper side of a split is louder than the lower one. */
  excess?: number;
}

/** What was noticed, while it is not said yet in which patch. */
export type Found = Omit<Remark, 'patchId'>;
