import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { RouterLink } from '@angular/router';
import {
  controlInWords,
  limitsOf,
  targetInWords,
  travels,
  type Patch,
  type Tie,
} from '@pentachord/core/model';
import { actsInWords, isInForce, jobInWords, OWNER_NAMES } from '@pentachord/core/ties';
import { Store } from '@ngrx/store';
import { TieEditing } from '../../state/editing/tie-editing';
import type { AppState } from '../../state/reducers';
import { selectDevices } from '../../state/selectors';
import { NumberField } from '../../ui/numbers/number-field';
import { kindOfTarget } from '../../ui/numbers/kind-of-target';

/** Every control that is tied to something in the patch, and how far it moves it. */
@Component({
  selector: 'pc-controls-tab',
  imports: [MatButtonModule, MatTableModule, NumberField, RouterLink],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <p>
      Press “tie” beside any setting, then move the control. A wheel, knob or pedal moves the
      setting from the first number to the second.
    </p>
    <table
      mat-table
      [dataSource]="rows()"
      [trackBy]="idOf"
      aria-label="Controls tied to this patch"
    >
      <ng-container matColumnDef="control">
        <th mat-header-cell *matHeaderCellDef>Control</th>
        <td mat-cell *matCellDef="let row">{{ row.source }}</td>
      </ng-container>
      <ng-container matColumnDef="moves">
        <th mat-header-cell *matHeaderCellDef>moves</th>
        <td mat-cell *matCellDef="let row">{{ row.target }}</td>
      </ng-container>
      <ng-container matColumnDef="from">
        <th mat-header-cell *matHeaderCellDef>from</th>
        <td mat-cell *matCellDef="let row">
          @if (!row.travels) {
            {{ row.acts }}
          } @else {
            <pc-number-field
              [kind]="row.kind"
              [label]="row.source + ' moves ' + row.target + ' from'"
              [value]="row.control.from"
              [min]="row.min"
              [max]="row.max"
              (changed)="travel(row.control, { from: $event.value }, $event.gesture)"
            />
          }
        </td>
      </ng-container>
      <ng-container matColumnDef="to">
        <th mat-header-cell *matHeaderCellDef>to</th>
        <td mat-cell *matCellDef="let row">
          @if (row.travels) {
            <pc-number-field
              [kind]="row.kind"
              [label]="row.source + ' moves ' + row.target + ' to'"
              [value]="row.control.to"
              [min]="row.min"
              [max]="row.max"
              (changed)="travel(row.control, { to: $event.value }, $event.gesture)"
            />
          }
        </td>
      </ng-container>
      <ng-container matColumnDef="untie">
        <th mat-header-cell *matHeaderCellDef><span class="unseen">Untie</span></th>
        <td mat-cell *matCellDef="let row">
          <button
            type="button"
            matButton="outlined"
            [attr.aria-label]="'Untie ' + row.source + ' from ' + row.target"
            (click)="ties.remove('patch', row.control.id)"
          >
            untie
          </button>
        </td>
      </ng-container>
      <tr mat-header-row *matHeaderRowDef="columns"></tr>
      <tr mat-row *matRowDef="let row; columns: columns"></tr>
      <tr *matNoDataRow>
        <td [attr.colspan]="columns.length">Nothing is tied in this patch alone.</td>
      </tr>
    </table>
    @if (elsewhere().length > 0) {
      <p data-testid="elsewhere">
        Moved by other ties too: {{ elsewhere().join('; ') }}
        <a matButton routerLink="/rig/ties">All ties</a>
      </p>
    }
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
      width: auto;
      justify-self: start;
    }
  `,
})
export class ControlsTab {
  readonly patch = input.required<Patch>();
  protected readonly ties = inject(TieEditing);
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);

  protected readonly columns = ['control', 'moves', 'from', 'to', 'untie'];
  protected readonly rows = computed(() => {
    const patch = this.patch();
    return patch.controls.map((control) => ({
      control,
      source: controlInWords(control, this.devices()),
      target: targetInWords(control.target, patch),
      travels: travels(control.target),
      acts: actsInWords(control.acts, control),
      kind: kindOfTarget(control.target),
      ...limitsOf(control.target),
    }));
  });

  /** What the ties of the song and of the rig move in this patch. */
  protected readonly elsewhere = computed(() => {
    const { layers, treatments, accompanists } = this.patch();
    const words = { layers, treatments, accompanists, called: () => '' };
    return this.ties
      .jobs()
      .filter((job) => (job.owner === 'song' || job.owner === 'rig') && isInForce(job))
      .filter(
        ({ target }) =>
          target?.kind === 'layer' || target?.kind === 'sound' || target?.kind === 'treatment',
      )
      .map((job) => {
        const control = controlInWords(job, this.devices());
        return `${control}: ${jobInWords(job, words)} (${OWNER_NAMES[job.owner]})`;
      });
  });

  protected idOf(_index: number, row: { control: Tie }): string {
    return row.control.id;
  }

  protected travel(control: Tie, changes: Partial<Tie>, gesture: string): void {
    this.ties.tie({ ...control, ...changes }, `${gesture} ${Object.keys(changes).join()}`);
  }
}
