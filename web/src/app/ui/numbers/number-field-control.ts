import { Directive, signal } from '@angular/core';
import { MatFormFieldControl } from '@angular/material/form-field';
import { Subject } from 'rxjs';

let made = 0;

/** Lets a number field stand in a Material form field: what that has to know of it, and does with it. */
@Directive({
  selector: '[pcNumberControl]',
  providers: [{ provide: MatFormFieldControl, useExisting: NumberFieldControl }],
})
export class NumberFieldControl extends MatFormFieldControl<number> {
  override readonly value = null;
  override readonly stateChanges = new Subject<void>();
  override readonly id = `pc-number-${made++}`;
  override readonly placeholder = '';
  override readonly ngControl = null;
  override focused = false;
  override readonly empty = false;
  override readonly shouldLabelFloat = true;
  override readonly required = false;
  override readonly disabled = false;
  override errorState = false;
  override readonly controlType = 'pc-number';
  readonly describedBy = signal('');
  /** Puts the caret into the field. */
  focusField: () => void = () => undefined;

  override setDescribedByIds(ids: string[]): void {
    this.describedBy.set(ids.join(' '));
  }

  override onContainerClick(): void {
    if (!this.focused) this.focusField();
  }

  /** Tells the form field how the field stands. */
  tell(state: { focused?: boolean; errorState?: boolean }): void {
    Object.assign(this, state);
    this.stateChanges.next();
  }
}
