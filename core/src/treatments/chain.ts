import type { Treatment } from '../model/treatment.js';
import { ArpeggioStage } from './arpeggio.js';
import { ChordStage } from './chord.js';
import { NoteFilterStage } from './note-filter.js';
import { RepeatStage } from './repeat.js';
import type { NoteSink, StageSurroundings } from './stage.js';

type Link = { id: string } & (
  | { kind: 'arpeggio'; stage: ArpeggioStage }
  | { kind: 'chord'; stage: ChordStage }
  | { kind: 'repeat'; stage: RepeatStage }
  | { kind: 'filter'; stage: NoteFilterStage }
);

/**
 * The treatments of one layer, in order:
 *
 * struck key ─► first ─► second ─► … ─► the layer's sound
 */
export class Chain implements NoteSink {
  private readonly links: Link[] = [];
  private readonly first: NoteSink;

  constructor(treatments: readonly Treatment[], sink: NoteSink, around: StageSurroundings) {
    let next = sink;
    for (const treatment of [...treatments].reverse()) {
      const link = linkOf(treatment, next, around);
      link.stage.on = treatment.on;
      this.links.unshift(link);
      next = link.stage;
    }
    this.first = next;
  }

  press(id: number, key: number, velocity: number, gain: number): void {
    this.first.press(id, key, velocity, gain);
  }

  release(id: number): void {
    this.first.release(id);
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
      if (link.kind === 'repeat' && treatment.kind === 'repeat') link.stage.set(treatment);
      if (link.kind === 'filter' && treatment.kind === 'filter') link.stage.set(treatment);
    });
  }

  /** Does what has become due on the clock, from the first treatment on. */
  advance(): void {
    for (let i = 0; i < this.links.length; i++) this.links[i].stage.advance();
  }

  /** Gives up what no key holds any more. */
  letGo(): void {
    for (const { stage } of this.links) stage.letGo();
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
    case 'repeat':
      return { id, kind: 'repeat', stage: new RepeatStage(sink, around, treatment) };
    case 'filter':
      return { id, kind: 'filter', stage: new NoteFilterStage(sink, around, treatment) };
  }
}
