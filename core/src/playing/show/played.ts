import type { CompiledPatch } from '../../routing/compile.js';
import type { Seconds } from '../../units/times.js';
import type { NowPlaying, ShowPlan } from './show-plan.js';

/** What is played from now on. */
export interface Played {
  plan: ShowPlan;
  place: NowPlaying;
  /** Null where there is nothing to play. */
  patch: CompiledPatch | null;
  /** Seconds over which a cue that was just recalled glides; null where none was. */
  fadeSeconds: Seconds | null;
}
