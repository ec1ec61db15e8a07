import type { Treatment } from '../model/patch/treatment.js';
import type { Beats } from '../units/times.js';
import { ArpeggioStage } from './arpeggio.js';
import { ChordStage } from './chord.js';
import { DoublingStage } from './doubling.js';
import { LatchStage } from './latch.js';
import type { NoteSink, StageSurroundings } from './note-stage.js';
import { RestrikeStage } from './restrike.js';
import { SieveStage } from './sieve.js';
import { StrumStage } from './strum.js';

interface Link {
  id: string;
  kind: Treatment['kind'];
  stage:
    | ArpeggioStage
    | ChordStage
    | RestrikeStage
    | SieveStage
    | DoublingStage
    | StrumStage
    | LatchStage;
}

/**
 * The treatments of one layer, in order:
 *
 * struck key ─► first ─► second ─► … ─► the layer's sound
 */
export class Chain implements NoteSink {
  private readonly links: Link[] = [];
  private readonly first: NoteSink;

  constructor(
    treatments: readonly Treatment[],
    sink: NoteSink,
    private readonly around: StageSurroundings,
  ) {
    let next = sink;
    for (const treatment of [...treatments].reverse()) {
      const { id, kind } = treatment;
      const stage = stageOf(treatment, next, around);
      stage.on = treatment.on;
      this.links.unshift({ id, kind, stage });
      next = stage;
    }
    this.first = next;
  }

  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void {
    this.first.press(id, key, velocity, gain, beat);
    // What the first hands on ahead of its time waits in the second, which would look at it with the next tick only.
    this.advance(this.around.clock.horizon);
  }

  release(id: number, beat: Beats): void {
    this.first.release(id, beat);
    // As with a press: what is played without it now may be due at once.
    this.advance(this.around.clock.horizon);
  }

  lean(id: number, value: number): void {
    this.first.lean(id, value);
  }

  /** True when it can go on with these treatments: the same ones in the same order. */
  fits(treatments: readonly Treatment[]): boolean {
    return (
      treatments.length === this.links.length &&
      treatments.every(({ id, kind }, i) => id === this.links[i].id && kind === this.links[i].kind)
    );
  }

  /** Goes on with the present settings of the treatments it {@link fits}. */
  set(treatments: readonly Treatment[]): void {
    treatments.forEach((treatment, i) => {
      const { stage } = this.links[i];
      stage.on = treatment.on;
      // A stage takes settings of its own kind, and these are: they fit.
      stage.set(treatment as never);
    });
    this.advance(this.around.clock.horizon);
  }

  /** Works out what becomes due up to a beat, from the first treatment on. */
  advance(until: Beats): void {
    for (let i = 0; i < this.links.length; i++) this.links[i].stage.advance(until);
  }

  /** Gives up what no key holds any more, in all of its treatments or in one. */
  letGo(treatmentId?: string): void {
    for (const { id, stage } of this.links)
      if (treatmentId === undefined || id === treatmentId) stage.letGo();
  }

  /** From now on it ends with its keys: the patch it belongs to was left. */
  leave(): void {
    for (const { stage } of this.links) stage.leave();
  }

  /** Ends what a treatment plays, and lets notes pass it. */
  switchOff(treatmentId: string): void {
    for (const { id, stage } of this.links) if (id === treatmentId) stage.on = false;
  }

  /** Ends everything at once. */
  stop(): void {
    for (const { stage } of this.links) stage.stop();
  }

  get idle(): boolean {
    return this.links.every(({ stage }) => stage.idle);
  }
}

function stageOf(treatment: Treatment, sink: NoteSink, around: StageSurroundings): Link['stage'] {
  switch (treatment.kind) {
    case 'arpeggio':
      return new ArpeggioStage(sink, around, treatment);
    case 'chord':
      return new ChordStage(sink, around, treatment);
    case 'restrike':
      return new RestrikeStage(sink, around, treatment);
    case 'sieve':
      return new SieveStage(sink, around, treatment);
    case 'doubling':
      return new DoublingStage(sink, around, treatment);
    case 'strum':
      return new StrumStage(sink, around, treatment);
    case 'latch':
      return new LatchStage(sink, around);
  }
}
