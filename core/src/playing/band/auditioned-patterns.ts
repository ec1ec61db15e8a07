import { NOW, type ShowClock } from '../../clock/show-clock.js';
import { newAccompanist } from '../../model/patch/accompanist.js';
import type { ReadyAccompanist } from '../../patterns/compiled-band.js';
import type { ReadyPattern } from '../../patterns/ready-pattern.js';
import type { CompiledPatch } from '../../routing/compile.js';
import type { Beats } from '../../units/times.js';
import { beginnings, firstBeginnings } from './beginnings.js';
import type { FollowedChord } from './followed-chord.js';
import { RunningPattern, type BandOutput } from './running-pattern.js';

/** Whoever plays patterns that are only tried out: at the place of no accompanist. */
const NOBODY = newAccompanist('auditioned', 'Auditioned', 'keys1');

/**
 * Patterns that are heard before they are taken, on layers of the patch that is played. Each begins on the next beat, so that
 * several are together; what is looked for next plays on from where the one before was in its round.
 */
export class AuditionedPatterns {
  private readonly heard = new Map<string, RunningPattern>();
  private patch: CompiledPatch | null = null;
  private hasJoined = false;

  constructor(
    private readonly clock: ShowClock,
    private readonly output: BandOutput,
    private readonly chord: FollowedChord,
  ) {
    clock.onTempo(() => {
      for (const pattern of this.heard.values()) pattern.tempoChanged(clock.beats);
    });
  }

  /** Another patch is played, in which they are not heard; or this one was edited. */
  take(patch: CompiledPatch | null): void {
    const isOther = this.patch?.id !== patch?.id;
    this.patch = patch;
    if (isOther) this.stop();
    else if (patch)
      for (const one of this.heard.values())
        one.become(patch, one.accompanist, one.ready, this.clock.beats);
  }

  /**
   * Has a pattern heard from the next beat on, or as if it had begun at a beat; one that is heard already becomes this version of
   * itself, where it is.
   */
  hear(ready: ReadyPattern, layerIds: ReadonlySet<string>, from?: Beats): void {
    const { patch, clock } = this;
    if (!patch) return;
    const before = this.heard.get(ready.id);
    const by: ReadyAccompanist = {
      ...{ id: NOBODY.id, index: -1, source: NOBODY, layerIds, patterns: [ready] },
    };
    if (before) {
      before.become(patch, { ...by, source: { ...NOBODY } }, ready, clock.beats);
      before.advance(clock.horizon);
      return;
    }
    const { beat } = this.hasJoined ? beginnings(clock) : firstBeginnings(clock);
    this.hasJoined = true;
    const pattern = new RunningPattern(
      patch,
      by,
      ready,
      from ?? beat,
      clock,
      this.output,
      this.chord,
    );
    this.heard.set(ready.id, pattern);
    pattern.advance(clock.horizon);
  }

  /** Ends one at once, or all of them. */
  stop(id?: string): void {
    for (const [one, pattern] of this.heard)
      if (id === undefined || one === id) {
        pattern.end(NOW);
        this.heard.delete(one);
      }
    if (this.heard.size > 0 || !this.hasJoined) return;
    this.hasJoined = false;
    this.clock.leave();
  }

  /** How far one is in its round, 0 … 1; null while it is not heard. */
  placeOf(id: string): number | null {
    const pattern = this.heard.get(id);
    return pattern ? pattern.placeAt(this.clock.beats) : null;
  }

  /** Works out what becomes due within the next moments. */
  advance(): void {
    if (this.heard.size === 0) return;
    const { horizon } = this.clock;
    for (const pattern of this.heard.values()) pattern.advance(horizon);
  }
}
