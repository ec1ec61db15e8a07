import {
  afterNextRender,
  computed,
  effect,
  ElementRef,
  inject,
  Injector,
  signal,
  type Signal,
} from '@angular/core';
import { stopsOf } from './row-stops';

/** Which row of a table has the focus, and where it goes: among the rows, and when its row is gone. Made where it can inject. */
export class RowFocus {
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly injector = inject(Injector);
  /** The row where the focus was last. */
  private readonly entered = signal<string | null>(null);
  private places: readonly string[] = [];
  /** The row that Tab goes into: the selected one, else the one where one was last, else the first. */
  readonly reached = computed(() => {
    const ids = this.ids();
    const wanted = [this.selected(), this.entered()].find((id) => id !== null && ids.includes(id));
    return wanted ?? ids.at(0) ?? null;
  });

  /** @param ids what the rows are about, in their order */
  constructor(
    private readonly ids: Signal<readonly string[]>,
    private readonly selected: Signal<string | null>,
  ) {
    effect(() => {
      const now = this.ids();
      if (this.places.some((id) => !now.includes(id))) this.stayNear();
      else this.places = now;
    });
  }

  /** The focus has gone into a row. */
  enter(id: string): void {
    this.entered.set(id);
  }

  /** When the row with the focus is gone, the focus goes to the one in its place. */
  stayNear(): void {
    afterNextRender(
      () => {
        const ids = this.ids();
        const at = this.places.findIndex((id) => !ids.includes(id));
        if (at < 0 || document.activeElement !== document.body) return;
        this.places = ids;
        const near = ids.at(Math.min(at, ids.length - 1)) ?? null;
        this.entered.set(near);
        if (near) this.rowAt(ids.indexOf(near))?.focus();
      },
      { injector: this.injector },
    );
  }

  /**
   * Ctrl and an arrow key go to the same place of the row above or below: `entering` is told of which one, before the focus goes
   * there.
   */
  goAmong(event: KeyboardEvent, from: string, entering: (id: string) => void): void {
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (!by || !(event.ctrlKey || event.metaKey)) return;
    const at = this.ids().indexOf(from) + by;
    const next = at < 0 ? undefined : this.ids().at(at);
    if (next === undefined) return;
    event.preventDefault();
    const place = stopsOf(this.rowAt(at - by)).indexOf(event.target as HTMLElement);
    entering(next);
    stopsOf(this.rowAt(at)).at(place)?.focus();
  }

  private rowAt(index: number): HTMLElement | undefined {
    return this.host.querySelectorAll<HTMLElement>('tr.mat-mdc-row')[index];
  }
}
