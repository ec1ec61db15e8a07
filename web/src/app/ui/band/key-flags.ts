import { DragDropModule, type CdkDragEnd } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';

/** A name over a key. */
export interface KeyFlag {
  id: string;
  key: number;
  name: string;
  colour: string;
  /** It plays, or it waits for its beat. */
  state: 'plays' | 'waits' | 'rests';
}

/** Pixels of a row of flags, of what is beside a name, and about those of a letter: on the desk, and from a step away. */
const ROW_HEIGHT = { desk: 26, stage: 25 };
const BESIDE = { desk: 18, stage: 12 };
const LETTER = { desk: 7, stage: 7.8 };

/** Names of what keys start, as flags over the keys of a keyboard. */
@Component({
  selector: 'pc-key-flags',
  imports: [DragDropModule, MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.stage]': "seenFrom() === 'stage'" },
  template: `
    @for (flag of placed(); track flag.id) {
      <i [style.left.%]="flag.x" [style.height.px]="flag.stem" [style.background]="flag.colour"></i>
      @if (seenFrom() === 'stage') {
        <span
          class="flag"
          [class]="flag.state"
          [style.left.%]="flag.x"
          [style.bottom.px]="flag.stem"
          [style.border-color]="flag.colour"
          [style.color]="flag.state === 'plays' ? 'var(--ink)' : flag.colour"
        >
          {{ flag.name }}
        </span>
      } @else {
        <button
          type="button"
          matButton
          class="flag"
          [class]="flag.state"
          [style.left.%]="flag.x"
          [style.bottom.px]="flag.stem"
          [style.border-color]="flag.colour"
          [style.--mat-button-text-label-text-color]="
            flag.state === 'plays' ? 'var(--ink)' : flag.colour
          "
          cdkDrag
          [cdkDragDisabled]="!movable()"
          (cdkDragEnded)="drop($event, flag.id)"
          (click)="chosen.emit(flag.id)"
        >
          {{ flag.name }}
        </button>
      }
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 112px;
      overflow: hidden;
    }
    :host(.stage) {
      height: var(--flags-height, 79px);
    }
    i {
      position: absolute;
      bottom: 0;
      width: 1px;
    }
    .flag {
      position: absolute;
      min-width: 24px;
      margin-left: -1px;
      border: 1px solid;
      border-radius: 3px;
      background: var(--flag-ground, var(--sheet));
      z-index: 1;
      white-space: nowrap;
    }
    button {
      pointer-events: auto;
      --mat-button-text-container-height: 22px;
      --mat-button-text-horizontal-padding: 6px;
      --mat-button-text-label-text-size: 12px;
    }
    span {
      padding: 0 4px;
      font: 600 15px/20px var(--words);
    }
    .flag.plays {
      background: var(--lamp);
    }
    .flag.waits {
      border-style: dashed;
    }
  `,
})
export class KeyFlags {
  readonly flags = input.required<readonly KeyFlag[]>();
  readonly lowestKey = input.required<number>();
  readonly highestKey = input.required<number>();
  /** On stage names are larger. */
  readonly seenFrom = input<'desk' | 'stage'>('desk');
  /** Whether flags can be dragged onto another key. */
  readonly movable = input(false);
  readonly chosen = output<string>();
  /** A flag was dragged to a point of the window. */
  readonly moved = output<{ id: string; x: number; y: number }>();

  /** Pixels across, which say how many names fit beside one another. */
  private readonly width = signal(1000);
  /** Pixels from the keys up, which say how many rows there are. */
  private readonly height = signal(112);
  /** The names from left to right, each on the lowest row on which it covers no other. */
  protected readonly placed = computed(() => {
    const span = this.highestKey() - this.lowestKey() + 1;
    const seenFrom = this.seenFrom();
    const ends = new Array<number>(
      Math.max(1, Math.floor(this.height() / ROW_HEIGHT[seenFrom])),
    ).fill(-Infinity);
    return [...this.flags()]
      .sort((a, b) => a.key - b.key)
      .map((flag) => {
        const share = (flag.key - this.lowestKey() + 0.5) / span;
        const left = share * this.width();
        const free = ends.findIndex((end) => end <= left);
        const row = free >= 0 ? free : ends.indexOf(Math.min(...ends));
        ends[row] = left + Math.max(28, flag.name.length * LETTER[seenFrom] + BESIDE[seenFrom]);
        return { ...flag, x: share * 100, stem: 4 + row * ROW_HEIGHT[seenFrom] };
      });
  });

  protected drop({ source, dropPoint: { x, y } }: CdkDragEnd, id: string): void {
    source.reset();
    this.moved.emit({ id, x, y });
  }

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    const watch = new ResizeObserver(() => {
      this.width.set(host.clientWidth);
      this.height.set(host.clientHeight);
    });
    watch.observe(host);
    inject(DestroyRef).onDestroy(() => watch.disconnect());
  }
}
