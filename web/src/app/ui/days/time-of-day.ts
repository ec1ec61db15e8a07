import { Directive, ElementRef, inject, input, output } from '@angular/core';
import { readTimeOfDay } from './read-time-of-day';

/** A time of day typed in place, as `20:15`; empty for one that nobody knows. What is no time goes back to what it was. */
@Directive({
  selector: 'input[pcTimeOfDay]',
  host: {
    type: 'text',
    autocomplete: 'off',
    placeholder: '--:--',
    '[value]': "pcTimeOfDay() ?? ''",
    '(blur)': 'take()',
    '(keydown)': 'key($event)',
  },
})
export class TimeOfDay {
  readonly pcTimeOfDay = input.required<string | null>();
  readonly changed = output<string | null>();
  private readonly box = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  protected take(): void {
    const time = readTimeOfDay(this.box.value);
    this.box.value = (time === undefined ? this.pcTimeOfDay() : time) ?? '';
    if (time !== undefined && time !== this.pcTimeOfDay()) this.changed.emit(time);
  }

  protected key(event: KeyboardEvent): void {
    if (event.key === 'Escape') this.box.value = this.pcTimeOfDay() ?? '';
    else if (event.key === 'Enter') this.box.blur();
    event.stopPropagation();
  }
}
