import { afterRenderEffect, Directive, ElementRef, inject } from '@angular/core';

/** A row that is scrolled sideways: what is current in it stays in view, and a wheel goes along it. */
@Directive({ selector: '[pcInView]', host: { '(wheel)': 'wheel($event)' } })
export class InView {
  private readonly row = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private last: Element | null = null;

  constructor() {
    new MutationObserver(() => this.look()).observe(this.row, {
      ...{ subtree: true, childList: true },
      attributeFilter: ['aria-current'],
    });
    afterRenderEffect(() => this.look());
  }

  protected wheel(event: WheelEvent): void {
    if (this.row.scrollWidth <= this.row.clientWidth || event.deltaX !== 0) return;
    event.preventDefault();
    this.row.scrollLeft += event.deltaY;
  }

  /** Only what has just become current is brought into view: a hand that has scrolled elsewhere stays there. */
  private look(): void {
    const current = this.row.querySelector('[aria-current]');
    if (current === this.last) return;
    this.last = current;
    if (!current) return;
    const { left, right } = current.getBoundingClientRect();
    const row = this.row.getBoundingClientRect();
    if (left < row.left) this.row.scrollLeft -= row.left - left + 8;
    else if (right > row.right) this.row.scrollLeft += right - row.right + 8;
  }
}
