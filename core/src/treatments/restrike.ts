import { NOW } from '../clock/show-clock.js';
import { beatsOf, type Treatment } from '../model/patch/treatment.js';
import type { Beats, Seconds } from '../units/times.js';
import { ClockedStage } from './clocked-stage.js';
import type { NoteSink, StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'restrike' }>;

interface Restruck {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  /** The step that comes next. */
  next: number;
}

/** Seconds before a step from which on a struck key counts as that step's. */
const EARLY: Seconds = 0.06;

/** Strikes every held key again on each step. */
export class RestrikeStage extends ClockedStage {
  private readonly held: Restruck[] = [];

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    const step = beatsOf(settings.rate);
    const otherRate = step !== beatsOf(this.settings.rate);
    for (const key of this.held) {
      const earliest = this.takeBack(({ of }) => of === key.id);
      key.next = otherRate
        ? Math.ceil(this.stepsAt(this.around.clock.beats, step) - 1e-9)
        : Math.min(key.next, earliest);
    }
    this.settings = settings;
  }

  override stop(): void {
    this.expectNothing();
    this.endAll(NOW);
    for (let i = 0; i < this.held.length; i++) this.around.clock.leave();
    this.held.length = 0;
  }

  protected override get holdsNothing(): boolean {
    return this.held.length === 0;
  }

  protected override stepTo(until: Beats): void {
    const step = beatsOf(this.settings.rate);
    const steps = this.stepsAt(this.around.clock.beats, step);
    for (const key of this.held) {
      if (steps > key.next + 2) key.next = Math.floor(steps);
      while (this.stepsAt(until, step) >= key.next - 1e-9) {
        const number = key.next++;
        const at = this.beatOfStep(number, step);
        this.strike(key, number, at, at);
      }
    }
  }

  protected override struck(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const { clock } = this.around;
    if (this.held.length === 0) this.join();
    else clock.join();
    const step = beatsOf(this.settings.rate);
    const at = this.beatOf(beat);
    const next = this.stepFor(at, step);
    const restruck = { id, key, velocity, gain, next };
    this.held.push(restruck);
    // A key that comes a little early is that step's already: nobody means both.
    const early = Math.min(step / 2, (EARLY * clock.tempo) / 60);
    const begins = this.beatOfStep(next, step);
    const isSteps = begins <= at + early + 1e-9;
    if (isSteps) restruck.next = next + 1;
    // A key answers at once; only what follows waits for the clock.
    this.strike(restruck, next, beat, isSteps ? Math.max(at, begins) : at);
  }

  protected override lifted(id: number, beat: Beats): void {
    const at = this.held.findIndex((h) => h.id === id);
    if (at < 0) return;
    this.held.splice(at, 1);
    this.endAll(beat, ({ of }) => of === id);
    this.around.clock.leave();
  }

  /** A note that counts from `begun`, and ends with the next at most. */
  private strike(key: Restruck, number: number, from: Beats, begun: Beats): void {
    const step = beatsOf(this.settings.rate);
    const until = Math.min(begun + step * this.settings.gate, this.beatOfStep(key.next, step));
    this.hand(key.id, number, key.key, key.velocity, key.gain, from, until);
  }
}
