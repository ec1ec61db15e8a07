import type { ShowClock } from '../../clock/show-clock.js';
import type { Begins } from '../../model/patch/begins.js';
import { keyOfTarget, type ControlTarget } from '../../model/patch/control-target.js';
import type { Beats } from '../../units/times.js';
import { beginnings } from './beginnings.js';

interface Waiting {
  target: ControlTarget;
  on: boolean;
  at: Beats;
}

/** Switches that wait for their beat or bar. Where nothing runs there is none to wait for. */
export class TimedSwitches {
  private readonly waiting = new Map<string, Waiting>();

  constructor(
    private readonly clock: ShowClock,
    private readonly output: {
      isOn(target: ControlTarget): boolean;
      switchTo(target: ControlTarget, on: boolean): void;
    },
  ) {}

  /** Whether it is on, or will be. */
  isOn(target: ControlTarget): boolean {
    if (this.waiting.size === 0) return this.output.isOn(target);
    return this.waiting.get(keyOfTarget(target))?.on ?? this.output.isOn(target);
  }

  switchTo(target: ControlTarget, on: boolean, begins: Begins): void {
    if (this.waiting.size > 0) this.waiting.delete(keyOfTarget(target));
    if (begins === 'now' || !this.clock.isRunning) this.output.switchTo(target, on);
    // Thought better of before its beat it stays as it is.
    else if (this.output.isOn(target) !== on)
      this.waiting.set(keyOfTarget(target), { target, on, at: beginnings(this.clock)[begins] });
  }

  /** Switches what is due: patterns as far ahead as their notes are worked out, everything else when it is time. */
  advance(): void {
    if (this.waiting.size === 0) return;
    const { beats, horizon, isRunning } = this.clock;
    for (const [key, { target, on, at }] of this.waiting) {
      if (isRunning && at > (target.kind === 'accompanist' ? horizon : beats)) continue;
      this.waiting.delete(key);
      this.output.switchTo(target, on);
    }
  }

  /** Whatever waits is called off. */
  callOff(): void {
    this.waiting.clear();
  }
}
