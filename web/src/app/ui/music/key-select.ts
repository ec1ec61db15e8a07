import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { TypedAs } from './typed-as';
import { musicalKeyName, type MusicalKey } from '@pentachord/core/pitch';

const KEYS: readonly MusicalKey[] = (['major', 'minor'] as const).flatMap((mode) =>
  Array.from({ length: 12 }, (_, tonic): MusicalKey => ({ tonic, spelling: 'usual', mode })),
);

/** A musical key, chosen from all there are. */
@Component({
  selector: 'pc-key-select',
  imports: [MatFormFieldModule, MatSelectModule, TypedAs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-form-field appearance="outline" subscriptSizing="dynamic">
      <mat-select
        [aria-label]="label()"
        [value]="name()"
        panelWidth="90px"
        (valueChange)="choose($event)"
      >
        @for (key of keys(); track key.name) {
          <mat-option [value]="key.name" [pcTypedAs]="key.typed">{{ key.name }}</mat-option>
        }
      </mat-select>
    </mat-form-field>
  `,
  styles: `
    mat-form-field {
      width: 78px;
    }
  `,
})
export class KeySelect {
  readonly value = input.required<MusicalKey>();
  readonly label = input.required<string>();
  readonly changed = output<MusicalKey>();
  protected readonly name = computed(() => musicalKeyName(this.value()));
  /** All keys; the one that is chosen as it is spelled. */
  protected readonly keys = computed(() => {
    const own = this.value();
    return KEYS.map((key) => {
      const isOwn = key.tonic === own.tonic && key.mode === own.mode;
      const shown = isOwn ? own : key;
      const name = musicalKeyName(shown);
      return { key: shown, name, typed: name.replace('♭', 'b').replace('♯', '#') };
    });
  });

  protected choose(name: string): void {
    const chosen = this.keys().find((key) => key.name === name);
    if (chosen && chosen.name !== this.name()) this.changed.emit(chosen.key);
  }
}
