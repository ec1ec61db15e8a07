import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import {
  controlInWords,
  isSwitch,
  limitsOf,
  targetInWords,
  type Patch,
  type PatchControl,
} from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../../state/editing/patch-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices } from '../../state/selectors';
import { NumberField } from '../../ui/numbers/number-field';
import type { NumberKind } from '../../ui/numbers/number-text';

/** Every control that is tied to something in the patch, and how far it moves it. */
@Component({
  selector: 'pc-controls-tab',
  imports: [NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      Press “tie” beside any setting, then move the control. A wheel, knob or pedal moves the
      setting from the first number to the second.
    </p>
    <table>
      <caption class="unseen">
        Controls tied to this patch
      </caption>
      <thead>
        <tr>
          <th scope="col">Control</th>
          <th scope="col">moves</th>
          <th scope="col">from</th>
          <th scope="col">to</th>
          <th scope="col"><span class="unseen">Untie</span></th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.control.id) {
          <tr>
            <th scope="row">{{ row.source }}</th>
            <td>{{ row.target }}</td>
            @if (row.switch) {
              <td colspan="2">
                {{
                  row.control.message.kind === 'note' ? 'each strike turns it over' : 'on from 64'
                }}
              </td>
            } @else {
              <td>
                <pc-number-field
                  [kind]="row.kind"
                  [label]="row.source + ' moves ' + row.target + ' from'"
                  [value]="row.control.from"
                  [min]="row.min"
                  [max]="row.max"
                  (changed)="travel(row.control, { from: $event.value }, $event.gesture)"
                />
              </td>
              <td>
                <pc-number-field
                  [kind]="row.kind"
                  [label]="row.source + ' moves ' + row.target + ' to'"
                  [value]="row.control.to"
                  [min]="row.min"
                  [max]="row.max"
                  (changed)="travel(row.control, { to: $event.value }, $event.gesture)"
                />
              </td>
            }
            <td>
              <button
                type="button"
                class="plain"
                [attr.aria-label]="'Untie ' + row.source + ' from ' + row.target"
                (click)="editing.untie(row.control.id)"
              >
                untie
              </button>
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="5">Nothing is tied yet.</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    :host {
      display: grid;
      align-content: start;
      gap: 8px;
    }
    p {
      color: var(--ink-soft);
      font-size: 13px;
    }
    table {
      border-collapse: collapse;
      justify-self: start;
    }
    th,
    td {
      text-align: left;
      font-weight: 400;
      padding: 3px 22px 3px 0;
    }
    thead th {
      font-size: 13px;
      font-weight: 600;
      color: var(--ink-soft);
    }
    button.plain {
      padding: 4px 9px;
    }
  `,
})
export class ControlsTab {
  readonly patch = input.required<Patch>();
  protected readonly editing = inject(PatchEditing);
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);

  protected readonly rows = computed(() => {
    const patch = this.patch();
    return patch.controls.map((control) => ({
      control,
      source: controlInWords(control, this.devices()),
      target: targetInWords(control.target, patch),
      switch: isSwitch(control.target),
      kind: kindOf(control),
      ...limitsOf(control.target),
    }));
  });

  protected travel(control: PatchControl, changes: Partial<PatchControl>, gesture: string): void {
    this.editing.tie({ ...control, ...changes }, `${gesture} ${Object.keys(changes).join()}`);
  }
}

function kindOf({ target }: PatchControl): NumberKind {
  if (target.kind === 'sound') return 'percent';
  return target.kind === 'layer' && target.parameter === 'pan' ? 'pan' : 'level';
}
