import { NOW } from '../clock/show-clock.js';
import { beatsOf, type Treatment } from '../model/patch/treatment.js';
import type { Beats } from '../units/times.js';
import { ClockedStage } from './clocked-stage.js';
import type { NoteSink, StageSurroundings } from './note-stage.js';

type Settings = Extract<Treatment, { kind: 'arpeggio' }>;

interface HeldKey {
  id: number;
  key: number;
  velocity: number;
  gain: number;
  down: boolean;
}

/** Plays the keys that are held one after the other, or all at each step. */
export class ArpeggioStage extends ClockedStage {
  /** In the order in which they were struck. */
  private readonly held: HeldKey[] = [];
  /** Sorted anew for every step; kept so that a step allocates nothing. */
  private readonly ordered: HeldKey[] = [];
  /** Where in the round the next step is. */
  private place = 0;
  /** The step that comes next. */
  private next = 0;
  private runs = false;
  private left = false;

  constructor(
    sink: NoteSink,
    around: StageSurroundings,
    private settings: Settings,
  ) {
    super(sink, around);
  }

  /** Goes on with other settings. */
  set(settings: Settings): void {
    this.redo();
    const step = beatsOf(settings.rate);
    if (step !== beatsOf(this.settings.rate))
      this.next = Math.ceil(this.stepsAt(this.around.clock.beats, step) - 1e-9);
    const lettingGo = this.settings.hold && !settings.hold;
    this.settings = settings;
    if (lettingGo) this.letGo();
  }

  override letGo(): void {
    for (let i = this.held.length - 1; i >= 0; i--) if (!this.held[i].down) this.held.splice(i, 1);
    if (this.held.length === 0) this.stop();
  }

  override leave(): void {
    this.left = true;
    this.letGo();
  }

  override stop(): void {
    this.held.length = 0;
    this.expectNothing();
    this.end(NOW);
  }

  /** Nothing is held from a beat on. */
  private end(at: Beats): void {
    this.endAll(at);
    if (this.runs) this.around.clock.leave();
    this.runs = false;
    this.place = 0;
  }

  protected override get holdsNothing(): boolean {
    return this.held.length === 0;
  }

  protected override stepTo(until: Beats): void {
    if (!this.runs) return;
    const step = beatsOf(this.settings.rate);
    const steps = this.stepsAt(this.around.clock.beats, step);
    // After a pause of the machine the steps that were missed are left out, not caught up with.
    if (steps > this.next + 2) this.next = Math.floor(steps);
    while (this.runs && this.stepsAt(until, step) >= this.next - 1e-9) {
      this.playStep(this.beatOfStep(this.next, step), step);
      this.next++;
    }
  }

  protected override struck(
    id: number,
    key: number,
    velocity: number,
    gain: number,
    beat: Beats,
  ): void {
    const step = beatsOf(this.settings.rate);
    const late = beat === NOW;
    if (late) this.redo();
    if (this.holds && !this.held.some((h) => h.down)) this.held.length = 0;
    const held = { id, key, velocity, gain, down: true };
    this.held.push(held);
    if (!this.runs) {
      this.runs = true;
      this.join();
      this.place = 0;
      this.next = this.stepFor(this.beatOf(beat), step);
      return;
    }
    // The keys of a chord are never struck quite together; those that come a little late still belong to the step.
    const begun = this.next - 1;
    const at = this.beatOf(beat);
    if (this.settings.order === 'chord' && this.stepFor(at, step) === begun) {
      const next = this.beatOfStep(begun + 1, step);
      this.play(held, 0, begun, late ? NOW : beat, at, step, next);
    }
  }

  protected override lifted(id: number, beat: Beats): void {
    const at = this.held.findIndex((h) => h.id === id);
    if (at < 0) return;
    if (this.holds) {
      this.held[at].down = false;
      return;
    }
    if (beat === NOW) this.redo();
    this.held.splice(at, 1);
    if (this.held.length === 0) this.end(beat);
  }

  /** Whether keys go on being played when they are let go. */
  private get holds(): boolean {
    return this.settings.hold && !this.left;
  }

  /** Goes back to the first step that has not sounded yet. */
  private redo(): void {
    const earliest = this.takeBack();
    if (earliest === Infinity) return;
    this.place = Math.max(0, this.place - (this.next - earliest));
    this.next = earliest;
  }

  private playStep(beat: Beats, step: Beats): void {
    const { order, octaves } = this.settings;
    const { ordered, held } = this;
    if (order === 'chord') {
      for (const key of held) this.play(key, 0, this.next, beat, beat, step);
      return;
    }
    ordered.length = 0;
    for (const key of held) ordered.push(key);
    if (order !== 'as played') ordered.sort(byKey);
    const count = ordered.length * octaves;
    const round = order === 'both' ? Math.max(1, 2 * count - 2) : count;
    const at = this.place++ % round;
    const index = order === 'down' ? count - 1 - at : at < count ? at : round - at;
    const octave = Math.floor(index / ordered.length);
    this.play(ordered[index % ordered.length], octave, this.next, beat, beat, step);
  }

  /** A note that counts from `begun`, and ends at most at a beat. */
  private play(
    { id, key, velocity, gain }: HeldKey,
    octave: number,
    number: number,
    from: Beats,
    begun: Beats,
    step: Beats,
    atMost: Beats = Infinity,
  ): void {
    const until = Math.min(atMost, begun + step * this.settings.gate);
    this.hand(id, number, key + 12 * octave, velocity, gain, from, until);
  }
}

function byKey(a: HeldKey, b: HeldKey): number {
  return a.key - b.key || a.id - b.id;
}
