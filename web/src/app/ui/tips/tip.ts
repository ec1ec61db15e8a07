import { DestroyRef, Directive, ElementRef, inject, input } from '@angular/core';
import { MatTooltip } from '@angular/material/tooltip';
import { freeSide } from './free-side';

/** Milliseconds that the hand rests on a control before its tooltip is shown. */
const RESTS = 500;
/** What must never be covered. */
const CONTROLS =
  'button, a[href], input, textarea, mat-select, [role=button], [role=slider], [role=tab], [role=switch]';

/**
 * Material’s tooltip on a side where it covers no other control; where there is none it is not shown, and told to those alone who
 * listen.
 */
@Directive({
  selector: '[pcTip]',
  hostDirectives: [MatTooltip],
  host: {
    '(pointerenter)': 'come()',
    '(pointerleave)': 'leave()',
    '(pointerdown)': 'leave()',
    '(focus)': 'focused()',
    '(blur)': 'leave()',
  },
})
export class Tip {
  /** The words; empty for none. */
  readonly words = input('', { alias: 'pcTip', transform: (words: string | null) => words ?? '' });
  private readonly tooltip = inject(MatTooltip);
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private waiting: ReturnType<typeof setTimeout> | undefined;

  constructor() {
    inject(DestroyRef).onDestroy(() => clearTimeout(this.waiting));
  }

  protected come(): void {
    clearTimeout(this.waiting);
    this.waiting = setTimeout(() => this.show(), RESTS);
  }

  protected focused(): void {
    if (this.host.matches(':focus-visible')) this.show();
  }

  protected leave(): void {
    clearTimeout(this.waiting);
    // Whoever has no tooltip listens to nothing: many stand in every table.
    this.tooltip.message = '';
  }

  private show(): void {
    const words = this.words();
    if (words === '') return;
    const { host } = this;
    const others = [...document.querySelectorAll<HTMLElement>(CONTROLS)]
      .filter((other) => !other.contains(host) && !host.contains(other))
      .map((other) => other.getBoundingClientRect())
      .filter(({ width, height }) => width > 0 && height > 0);
    const size = { width: window.innerWidth, height: window.innerHeight };
    const side = freeSide(host.getBoundingClientRect(), words, others, size);
    this.tooltip.disabled = side === null;
    this.tooltip.message = words;
    if (!side) return;
    this.tooltip.position = side;
    this.tooltip.show(0);
  }
}
