import { Directive, ElementRef, inject, input, output } from '@angular/core';
import { cutText, LONGEST_NAME } from '@pentachord/core/model';

/** A name typed in place: Enter or leaving takes it, Escape brings back the one that was there, and so does an empty one. */
@Directive({
  selector: 'input[pcName]',
  host: {
    type: 'text',
    autocomplete: 'off',
    '[value]': 'pcName()',
    '(blur)': 'take()',
    '(keydown)': 'key($event)',
  },
})
export class NameField {
  /** The name as it is. */
  readonly pcName = input.required<string>();
  /** Another name, of a length that can be kept. */
  readonly renamed = output<string>();
  private readonly box = inject<ElementRef<HTMLInputElement>>(ElementRef).nativeElement;

  protected take(): void {
    const name = cutText(this.box.value, LONGEST_NAME);
    if (name === '' || name === this.pcName()) this.box.value = this.pcName();
    else this.renamed.emit(name);
  }

  protected key(event: KeyboardEvent): void {
    // With nothing to take back here, Escape is meant for what is around.
    if (event.key === 'Escape' && this.box.value === this.pcName()) return;
    if (event.key === 'Escape') {
      event.preventDefault();
      this.box.value = this.pcName();
      this.box.select();
    } else if (event.key === 'Enter') this.box.blur();
    // Single letters are shortcuts elsewhere, but here they are text.
    event.stopPropagation();
  }
}
