import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { Pattern } from '@pentachord/core/model';
import {
  lengthenedNotes,
  movedNotes,
  strengthenedNotes,
  withoutNotes,
} from '@pentachord/core/patterns';
import type { NoteNaming } from '@pentachord/core/pitch';
import { NumberField } from '../numbers/number-field';
import type { NotesMended } from './note-chart';

/** The chosen notes of a pattern in numbers: what is typed for the first moves all of them along. */
@Component({
  selector: 'pc-chosen-notes',
  imports: [MatButtonModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (first(); as note) {
      <b>{{ chosen().size === 1 ? '1 note chosen' : chosen().size + ' notes chosen' }}</b>
      <span
        >key
        <pc-number-field
          label="Key of the note"
          kind="key"
          [value]="note.key"
          [middleC]="middleC()"
          (changed)="move({ beats: 0, keys: $event.value - note.key }, $event.gesture)"
      /></span>
      <span
        >beat
        <pc-number-field
          label="Where the note begins, beats"
          kind="decimal"
          [value]="rounded(note.beat)"
          [min]="0"
          [max]="pattern().length"
          [step]="0.25"
          (changed)="move({ beats: $event.value - note.beat, keys: 0 }, $event.gesture)"
      /></span>
      <span
        >length
        <pc-number-field
          label="Length of the note, beats"
          kind="decimal"
          [value]="rounded(note.length)"
          [min]="0"
          [max]="pattern().length"
          [step]="0.25"
          (changed)="lengthen($event.value - note.length, $event.gesture)"
      /></span>
      <span
        >velocity
        <pc-number-field
          label="Velocity of the note"
          [value]="note.velocity"
          [min]="1"
          [max]="127"
          (changed)="strengthen($event.value - note.velocity, $event.gesture)"
      /></span>
      <button type="button" matButton="outlined" (click)="remove()">Remove</button>
    } @else {
      <p>
        Drag notes to mend them, their end to make them longer. A double click adds one. With keys:
        Alt and arrows choose, arrows move, Control and arrows lengthen, + and − change velocity,
        Insert and Delete.
      </p>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 4px;
      align-items: flex-start;
      overflow: auto;
    }
    p {
      margin: 0;
      color: var(--ink-soft);
    }
  `,
})
export class ChosenNotes {
  readonly pattern = input.required<Pick<Pattern, 'length' | 'notes'>>();
  readonly chosen = input.required<ReadonlySet<number>>();
  readonly middleC = input.required<NoteNaming>();
  readonly mended = output<NotesMended>();
  protected readonly first = computed(() => {
    const [at] = this.chosen();
    return at === undefined ? undefined : this.pattern().notes[at];
  });

  protected rounded(beats: number): number {
    return Math.round(beats * 1000) / 1000;
  }

  protected move(by: { beats: number; keys: number }, gesture: string): void {
    const notes = movedNotes(this.pattern(), this.chosen(), by);
    this.mended.emit({ notes, words: 'notes moved', gesture });
  }

  protected lengthen(by: number, gesture: string): void {
    const notes = lengthenedNotes(this.pattern(), this.chosen(), by);
    this.mended.emit({ notes, words: 'length of notes', gesture });
  }

  protected strengthen(by: number, gesture: string): void {
    const notes = strengthenedNotes(this.pattern(), this.chosen(), by);
    this.mended.emit({ notes, words: 'strength of notes', gesture });
  }

  protected remove(): void {
    this.mended.emit({
      ...{ notes: withoutNotes(this.pattern(), this.chosen()), words: 'notes removed' },
      ...{ gesture: crypto.randomUUID(), chosen: new Set() },
    });
  }
}
