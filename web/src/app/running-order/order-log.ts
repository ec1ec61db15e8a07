import { CdkDrag, CdkDragHandle, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatTableModule } from '@angular/material/table';
import { eachFrame } from '../live/frames';
import { EntrySelection } from './entry-selection';
import { Legs, type Leg } from './legs';

/** Rows that a screen holds, and how many more come with every frame. */
const FIRST_ROWS = 24;
const ROWS_A_FRAME = 8;

/** The log of the night: a line a leg, times at the right, what is otherwise tonight pencilled in. */
@Component({
  selector: 'pc-order-log',
  imports: [CdkDrag, CdkDragHandle, CdkDropList, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './order-log.html',
  styleUrl: './order-log.scss',
})
export class OrderLog {
  protected readonly legs = inject(Legs);
  protected readonly selection = inject(EntrySelection);
  protected readonly columns = [
    'grip',
    'number',
    'song',
    'keys',
    'tempo',
    'cues',
    'length',
    'begins',
  ];
  /** What a screen holds is there at once; the rest comes while one looks, so that a long night opens as quickly as a short one. */
  private readonly shown = signal(FIRST_ROWS);
  protected readonly rows = computed(() => this.legs.all().slice(0, this.shown()));
  protected readonly idOf = (_: number, { id }: Leg) => id;

  constructor() {
    eachFrame(() => {
      if (this.shown() >= this.legs.all().length) return;
      this.shown.update((shown) => shown + ROWS_A_FRAME);
    });
  }

  protected key(event: KeyboardEvent, leg: Leg): void {
    if (this.legs.key(event, leg, 'ArrowUp', 'ArrowDown')) return;
    const row = event.currentTarget as HTMLElement;
    const other =
      event.key === 'ArrowDown'
        ? row.nextElementSibling
        : event.key === 'ArrowUp'
          ? row.previousElementSibling
          : null;
    if (!(other instanceof HTMLElement)) return;
    event.preventDefault();
    other.focus();
  }
}
