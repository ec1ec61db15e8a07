import { afterRenderEffect, Directive, ElementRef, inject, input } from '@angular/core';

/** What of a row can have the focus. */
export function stopsOf(row: HTMLElement | undefined): HTMLElement[] {
  return [...(row?.querySelectorAll<HTMLElement>('input, button') ?? [])];
}

/** Lets Tab go through the fields and buttons of a row, or past them: of a table of layers one row is enough at a time. */
@Directive({ selector: '[pcRowStops]' })
export class RowStops {
  /** True for the row that Tab goes into. */
  readonly pcRowStops = input.required<boolean>();

  constructor() {
    const row = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterRenderEffect(() => {
      const tabIndex = this.pcRowStops() ? 0 : -1;
      for (const stop of stopsOf(row)) stop.tabIndex = tabIndex;
    });
  }
}
