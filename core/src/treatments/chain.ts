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

type Link = { id: string } & (
  | { kind: 'arpeggio'; stage: ArpeggioStage }
  | { kind: 'chord'; stage: ChordStage }
  | { kind: 'restrike'; stage: RestrikeStage }
  | { kind: 'sieve'; stage: SieveStage }
  | { kind: 'doubling'; stage: DoublingStage }
  | { kind: 'strum'; stage: StrumStage }
  | { kind: 'latch'; stage: LatchStage }
);

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
      const link = linkOf(treatment, next, around);
      link.stage.on = treatment.on;
      this.links.unshift(link);
      next = link.stage;
    }
    this.first = next;
  }

  press(id: number, key: number, velocity: number, gain: number, beat: Beats): void {
    this.first.press(id, key, velocity, gain, beat);
    // What the first hands on ahead of its time waits in the second, which would look at it with the next tick only.
    if (this.links.length > 1) this.advance(this.around.clock.horizon);
  }

  release(id: number, beat: Beats): void {
    this.first.release(id, beat);
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
      const link = this.links[i];
      link.stage.on = treatment.on;
      if (link.kind === 'arpeggio' && treatment.kind === 'arpeggio') link.stage.set(treatment);
      if (link.kind === 'chord' && treatment.kind === 'chord') link.stage.set(treatment);
      if (link.kind === 'restrike' && treatment.kind === 'restrike') link.stage.set(treatment);
      if (link.kind === 'sieve' && treatment.kind === 'sieve') link.stage.set(treatment);
      if (link.kind === 'doubling' && treatment.kind === 'doubling') link.stage.set(treatment);
      if (link.kind === 'strum' && treatment.kind === 'strum') link.stage.set(treatment);
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

function linkOf(treatment: Treatment, sink: NoteSink, around: StageSurroundings): Link {
  const { id } = treatment;
  switch (treatment.kind) {
    case 'arpeggio':
      return { id, kind: 'arpeggio', stage: new ArpeggioStage(sink, around, treatment) };
    case 'chord':
      return { id, kind: 'chord', stage: new ChordStage(sink, around, treatment) };
    case 'restrike':
      return { id, kind: 'restrike', stage: new RestrikeStage(sink, around, treatment) };
    case 'sieve':
      return { id, kind: 'sieve', stage: new SieveStage(sink, around, treatment) };
    case 'doubling':
      return { id, kind: 'doubling', stage: new DoublingStage(sink, around, treatment) };
    case 'strum':
      return { id, kind: 'strum', stage: new StrumStage(sink, around, treatment) };
    case 'latch':
      return { id, kind: 'latch', stage: new LatchStage(sink, around) };
  }
}
