import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import type { CompiledPatch } from '@pentachord/core/routing';
import { bandLooks } from './band-looks';
import { flagsOn } from './flags-on';
import { KeyFlags } from './key-flags';

/** What keys of a keyboard start in the patch that is shown, over its keys. */
@Component({
  selector: 'pc-board-flags',
  imports: [KeyFlags],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (flags().length > 0) {
      <pc-key-flags
        [flags]="flags()"
        [lowestKey]="keys().low"
        [highestKey]="keys().high"
        (chosen)="chosen.emit()"
      />
    }
  `,
})
export class BoardFlags {
  readonly patch = input.required<CompiledPatch>();
  /** Id of the keyboard, and the keys that are shown of it. */
  readonly keyboardId = input.required<string>();
  readonly keys = input.required<{ low: number; high: number }>();
  readonly chosen = output();
  private readonly looked = bandLooks(() => this.patch());
  protected readonly flags = computed(() => {
    const patch = this.patch();
    return flagsOn(patch, patch.rig.ids.indexOf(this.keyboardId()), this.looked());
  });
}
