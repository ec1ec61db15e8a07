import { CdkDrag, CdkDragHandle, CdkDropList } from '@angular/cdk/drag-drop';
import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatTableModule } from '@angular/material/table';
import { EntrySelection } from './entry-selection';
import { Legs, type Leg } from './legs';

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
  protected readonly idOf = (_: number, { id }: Leg) => id;

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
