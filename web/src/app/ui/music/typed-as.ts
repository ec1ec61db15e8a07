import { Directive, inject, input } from '@angular/core';
import { MatOption } from '@angular/material/core';

/** Has an option be found by what hands can type, where it is written with signs that no keyboard has: `Eb` for E♭. */
@Directive({ selector: 'mat-option[pcTypedAs]' })
export class TypedAs {
  readonly typed = input.required<string>({ alias: 'pcTypedAs' });

  constructor() {
    inject(MatOption).getLabel = () => this.typed();
  }
}
