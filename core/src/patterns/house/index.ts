import type { Pattern } from '../../model/library/pattern.js';
import { STROKES } from './strokes-of-kits.js';
import { TONES } from './tones-of-keys.js';

/** The patterns that ship, all of our own making. */
export const HOUSE_PATTERNS: readonly Pattern[] = [...STROKES, ...TONES];
