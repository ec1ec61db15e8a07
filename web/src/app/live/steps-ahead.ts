import type { Step } from '@pentachord/core/setlist';

/**
 * Steps that the player has made and the desk has not heard of yet: it is told of each in a task of its own, so that the new patch
 * can sound before anybody else hears of it.
 */
export class StepsAhead {
  private readonly steps: [Step, string | null][] = [];
  private readonly channel = new MessageChannel();
  /** Counts one until it has been told wholly. */
  private ahead = 0;

  /** @param caughtUp called when the desk has heard of all of them */
  constructor(told: (step: Step, patchId: string | null) => void, caughtUp: () => void) {
    this.channel.port1.onmessage = () => {
      const next = this.steps.shift();
      if (next) told(...next);
      this.ahead = this.steps.length;
      if (!this.isAhead) caughtUp();
    };
  }

  get isAhead(): boolean {
    return this.ahead > 0;
  }

  enter(step: Step, patchId: string | null): void {
    this.ahead++;
    this.steps.push([step, patchId]);
    this.channel.port2.postMessage(null);
  }
}
