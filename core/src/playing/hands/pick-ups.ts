import type { Tie } from '../../model/patch/tie.js';
import { nearest, valueAt } from '../../ties/travel.js';

/** Settings that were put somewhere else than their controls stand, and wait for the hand to come by. */
export class PickUps {
  /** By tie: where its setting stands, in its own unit. */
  private readonly waiting = new Map<string, number>();

  /** Whether a tie’s setting waits. */
  waits(tieId: string): boolean {
    return this.waiting.has(tieId);
  }

  /** A tie’s setting stands somewhere now, and waits there. */
  wait(tieId: string, setting: number): void {
    this.waiting.set(tieId, setting);
  }

  /** Nothing waits any more. */
  clear(): void {
    this.waiting.clear();
  }

  /**
   * Whether a control that comes from one position (−1 for none) to another, 0–127, moves its setting: it does unless that waits
   * and the hand has neither reached it, by one step, nor passed it.
   */
  isPickedUp(tie: Tie, before: number, position: number): boolean {
    const waiting = this.waiting.get(tie.id);
    if (waiting === undefined) return true;
    // Of one that stands beyond the travel of its control the nearer end is all that a hand can reach.
    const setting = nearest(tie, waiting);
    const oneStep = Math.abs(tie.to - tie.from) / 127;
    const value = valueAt(tie, position);
    const isReached = Math.abs(value - setting) <= oneStep;
    const isPassed = before >= 0 && (valueAt(tie, before) - setting) * (value - setting) <= 0;
    if (!isReached && !isPassed) return false;
    this.waiting.delete(tie.id);
    return true;
  }
}
