import type { Begins } from '../../model/patch/begins.js';
import type { RunningPattern } from './running-pattern.js';

/** A pattern that runs, with what its accompanist knows of it. */
export interface Run {
  pattern: RunningPattern;
  /** Where it waits to begin, so that it moves along when bars are counted from elsewhere; null once it plays. */
  waitsFor: Begins | null;
  /** Those that end as it begins. */
  replaces: Run[];
  /** Ends with its key. */
  slot: number;
}
