import {
  ChangeDetectionStrategy,
  Component,
  computed,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatMenu, MatMenuModule } from '@angular/material/menu';
import type { Sound } from '@pentachord/core/model';

/** The library as a menu, by category: `<button [matMenuTriggerFor]="sounds.menu()">` with `<pc-sound-menu #sounds>`. */
@Component({
  selector: 'pc-sound-menu',
  imports: [MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <mat-menu>
      @for (group of groups(); track group.category) {
        <p class="category">{{ group.category }}</p>
        @for (sound of group.sounds; track sound.id) {
          <button mat-menu-item [disabled]="sound.id === current()" (click)="taken.emit(sound.id)">
            {{ sound.name }}
          </button>
        }
      }
    </mat-menu>
  `,
  styles: `
    :host {
      display: none;
    }
    .category {
      padding: 8px 12px 2px;
      font-size: 13px;
      font-weight: 600;
      color: var(--ink-soft);
    }
  `,
})
export class SoundMenu {
  readonly library = input.required<readonly Sound[]>();
  /** Id of the sound in use, which cannot be taken again. */
  readonly current = input<string | null>(null);
  /** Id of the library sound taken. */
  readonly taken = output<string>();
  readonly menu = viewChild.required(MatMenu);

  protected readonly groups = computed(() => {
    const groups = new Map<string, Sound[]>();
    for (const sound of this.library())
      groups.set(sound.category, [...(groups.get(sound.category) ?? []), sound]);
    return [...groups].map(([category, sounds]) => ({ category, sounds }));
  });
}
