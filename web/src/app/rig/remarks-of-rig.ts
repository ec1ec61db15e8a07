import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { rigRemarks } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { RigEditing } from '../state/editing/rig-editing';
import type { AppState } from '../state/reducers';
import { selectWrittenPatch } from '../state/selectors';
import { ArrivedChannels } from './arrived-channels';

/** What is odd about who sends and who listens, with what mends it. */
@Component({
  selector: 'pc-remarks-of-rig',
  imports: [MatButtonModule],
  providers: [ArrivedChannels],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Remarks" aria-live="polite">
      @for (remark of remarks(); track remark.id) {
        <li>
          {{ remark.words }}
          <span class="mends">
            @for (mend of remark.mends; track mend.words) {
              <button type="button" matButton (click)="editing.mend(mend)">{{ mend.words }}</button>
            }
          </span>
        </li>
      } @empty {
        <li class="well">Every keyboard is heard, and every layer has one to hear.</li>
      }
    </ul>
  `,
  styles: `
    ul {
      margin: 0;
      padding: 0;
      list-style: none;
      display: grid;
      gap: 6px;
    }
    li {
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-left: 4px solid var(--alarm);
      padding: 6px 10px;
    }
    .well {
      border-left-color: var(--sea);
      color: var(--ink-soft);
    }
    .mends {
      display: block;
    }
  `,
})
export class RemarksOfRig {
  protected readonly editing = inject(RigEditing);
  private readonly patch = inject<Store<AppState>>(Store).selectSignal(selectWrittenPatch);
  private readonly arrived = inject(ArrivedChannels).all;
  protected readonly remarks = computed(() =>
    rigRemarks(
      this.editing.devices(),
      this.patch(),
      this.editing.rig()?.labels ?? [],
      this.arrived(),
    ),
  );
}
