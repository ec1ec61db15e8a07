import { FocusKeyManager, type FocusableOption } from '@angular/cdk/a11y';
import {
  computed,
  contentChildren,
  Directive,
  ElementRef,
  forwardRef,
  inject,
  Injector,
  input,
  signal,
} from '@angular/core';

/** Several buttons in a row that are one stop of the Tab key; the arrow keys, Home and End go among them. */
@Directive({ selector: '[pcRoving]', host: { '(keydown)': 'key($event)' } })
export class Roving {
  readonly items = contentChildren<RovingItem>(
    forwardRef(() => RovingItem),
    { descendants: true },
  );
  private readonly entered = signal<RovingItem | null>(null);
  /** The one that Tab reaches: where one was last, else the one that is current, else the first. */
  readonly stop = computed(() => {
    const items = this.items();
    const last = this.entered();
    if (last && items.includes(last) && !last.pcRovingDisabled()) return last;
    return (
      items.find((item) => item.current()) ?? items.find((item) => !item.pcRovingDisabled()) ?? null
    );
  });
  private readonly keys = new FocusKeyManager<RovingItem>(this.items, inject(Injector))
    .withHorizontalOrientation('ltr')
    .withHomeAndEnd()
    .skipPredicate((item) => item.pcRovingDisabled());

  enter(item: RovingItem): void {
    this.entered.set(item);
    this.keys.updateActiveItem(item);
  }

  protected key(event: KeyboardEvent): void {
    this.keys.onKeydown(event);
  }
}

/** One of the buttons of a {@link Roving} row. */
@Directive({
  selector: '[pcRovingItem]',
  host: { '[attr.tabindex]': 'row.stop() === this ? 0 : -1', '(focus)': 'row.enter(this)' },
})
export class RovingItem implements FocusableOption {
  protected readonly row = inject(Roving);
  private readonly element = inject<ElementRef<HTMLButtonElement>>(ElementRef).nativeElement;
  /** True for the one that is current in what the row shows. */
  readonly current = input(false, {
    alias: 'pcRovingItem',
    transform: (value: boolean | '' | null) => value === true,
  });

  /** As the button is, of which the row has to know. */
  readonly pcRovingDisabled = input(false);

  focus(): void {
    this.element.focus();
  }
}
