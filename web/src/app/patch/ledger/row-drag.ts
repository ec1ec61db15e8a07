import { DestroyRef, Directive, ElementRef, inject, Injector, input, output } from '@angular/core';
import type { DragRef, DropListRef } from '@angular/cdk/drag-drop';

/** A row that was dragged, and where it was let go among the others, counted without itself. */
export interface DraggedRow {
  from: number;
  to: number;
}

/**
 * Rows of a table that can be dragged by a handle, up and down. What drags them is the CDK's; it is fetched when a hand first
 * comes near, since nobody drags before the table is read.
 */
@Directive({
  selector: 'table[pcRowDrag]',
  host: { '(pointerenter)': 'prepare()', '(pointerover)': 'prepare()' },
})
export class RowDrag {
  /** What of a row it is dragged by, as a selector. */
  readonly pcRowDrag = input.required<string>();
  readonly pcRowDragOff = input(false);
  readonly dragged = output<DraggedRow>();
  private readonly table = inject<ElementRef<HTMLTableElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  private list: DropListRef | null = null;
  private rows: { element: HTMLElement; drag: DragRef }[] = [];
  private make: ((row: HTMLElement) => DragRef) | null = null;
  private isAsked = false;

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      for (const { drag } of this.rows) drag.dispose();
      this.list?.dispose();
    });
  }

  /** Has every row that is there now be dragged; rows come and go. */
  protected prepare(): void {
    if (!this.make) {
      void this.fetch();
      return;
    }
    if (!this.list || this.list.isDragging()) return;
    const elements = [...this.table.querySelectorAll<HTMLElement>('tbody tr[data-layer]')];
    if (
      elements.length === this.rows.length &&
      elements.every((e, i) => e === this.rows[i].element)
    )
      return;
    const known = new Map(this.rows.map((row) => [row.element, row]));
    const make = this.make;
    this.rows = elements.map((element) => known.get(element) ?? { element, drag: make(element) });
    for (const [element, { drag }] of known) if (!elements.includes(element)) drag.dispose();
    this.list.withItems(this.rows.map(({ drag }) => drag));
  }

  private async fetch(): Promise<void> {
    if (this.isAsked) return;
    this.isAsked = true;
    const { createDragRef, createDropListRef } = await import('@angular/cdk/drag-drop');
    const list = createDropListRef(this.injector, this.table);
    list.lockAxis = 'y';
    list.beforeStarted.subscribe(() => (list.disabled = this.pcRowDragOff()));
    list.dropped.subscribe(({ previousIndex, currentIndex }) => {
      if (previousIndex !== currentIndex)
        this.dragged.emit({ from: previousIndex, to: currentIndex });
    });
    list.withElementContainer(this.table.tBodies[0]);
    this.list = list;
    this.make = (row) => {
      const drag = createDragRef(this.injector, row);
      const handle = row.querySelector<HTMLElement>(this.pcRowDrag());
      if (handle) drag.withHandles([handle]);
      drag.lockAxis = 'y';
      drag.beforeStarted.subscribe(() => (drag.disabled = this.pcRowDragOff()));
      return drag;
    };
    this.prepare();
  }
}
