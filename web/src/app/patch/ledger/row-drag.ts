import { Directive, ElementRef, inject, input, output } from '@angular/core';

/** Pixels that a pointer moves before it is a drag and not a click. */
const SLACK = 5;

/** The handle of a table row: drag it, and the row it is let go over is told by its place, counted without the dragged one. */
@Directive({
  selector: '[pcRowDrag]',
  host: {
    '(pointerdown)': 'take($event)',
    '(pointermove)': 'move($event)',
    '(pointerup)': 'drop()',
    '(pointercancel)': 'cancel()',
  },
})
export class RowDrag {
  /** True while rows cannot be dragged, because they are sorted by something else. */
  readonly pcRowDragOff = input(false);
  /** The new place. */
  readonly dropped = output<number>();

  private readonly handle = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private from: { pointer: number; y: number } | null = null;
  private landing: { row: HTMLElement; below: boolean } | null = null;

  protected take(event: PointerEvent): void {
    if (this.pcRowDragOff() || event.button !== 0) return;
    this.from = { pointer: event.pointerId, y: event.clientY };
    this.handle.setPointerCapture(event.pointerId);
    // Nothing is marked as text on the way; but the caret leaves its field, as it does with any click.
    event.preventDefault();
    (document.activeElement as HTMLElement | null)?.blur();
  }

  protected move(event: PointerEvent): void {
    if (!this.from) return;
    if (!this.landing && Math.abs(event.clientY - this.from.y) < SLACK) return;
    const rows = this.rows();
    const row =
      rows.find((r) => event.clientY < r.getBoundingClientRect().bottom) ?? rows[rows.length - 1];
    const box = row.getBoundingClientRect();
    this.mark(row, event.clientY > box.top + box.height / 2);
  }

  protected drop(): void {
    const { landing } = this;
    this.cancel();
    if (!landing) return;
    const rows = this.rows();
    const own = rows.findIndex((row) => row.contains(this.handle));
    const place = rows.indexOf(landing.row) + (landing.below ? 1 : 0);
    const to = place > own ? place - 1 : place;
    if (to !== own) this.dropped.emit(to);
  }

  protected cancel(): void {
    this.landing?.row.classList.remove('landing', 'landing-below');
    this.landing = null;
    this.from = null;
  }

  private mark(row: HTMLElement, below: boolean): void {
    this.landing?.row.classList.remove('landing', 'landing-below');
    row.classList.add(below ? 'landing-below' : 'landing');
    this.landing = { row, below };
  }

  private rows(): HTMLElement[] {
    return [...(this.handle.closest('tbody')?.querySelectorAll<HTMLElement>('tr') ?? [])];
  }
}
