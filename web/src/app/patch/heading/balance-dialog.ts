import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { balance, type Responses } from '@pentachord/core/loudness';
import type { CompiledPatch } from '@pentachord/core/routing';
import { formatDb } from '@pentachord/core/units';
import { LayerBadge } from '../../ui/layer-badge';
import { NumberField } from '../../ui/numbers/number-field';

/** What balancing starts from. */
export interface BalanceData {
  patch: CompiledPatch;
  responses: Responses;
}

/** New levels by layer id, dB. */
export type BalanceResult = Map<string, number>;

/** Shows what balancing would do, before and after, and lets the player say how the layers shall stand to each other. */
@Component({
  selector: 'pc-balance-dialog',
  imports: [LayerBadge, MatDialogModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Balance</h2>
    <mat-dialog-content>
      <p>
        Measured at strength 80, or the nearest at which a layer answers. The patch as a whole stays
        as loud as it is.
      </p>
      <table>
        <thead>
          <tr>
            <th scope="col">Layer</th>
            <th scope="col">heard now</th>
            <th scope="col">shall stand</th>
            <th scope="col">level before</th>
            <th scope="col">level after</th>
          </tr>
        </thead>
        <tbody>
          @for (row of rows(); track row.id) {
            <tr [attr.data-layer]="row.name">
              <th scope="row"><pc-layer-badge [index]="row.index" /> {{ row.name }}</th>
              <td class="mono">{{ row.heard }}</td>
              <td>
                <pc-number-field
                  kind="signed"
                  [label]="'How far ' + row.name + ' shall stand above the others, dB'"
                  [value]="row.wish"
                  [min]="-24"
                  [max]="24"
                  (changed)="wish(row.id, $event.value)"
                />
                dB
              </td>
              <td class="mono">{{ row.before }}</td>
              <td class="mono after" [class.changed]="row.changed">{{ row.after }}</td>
            </tr>
          } @empty {
            <tr>
              <td colspan="5">No layer of this patch has a measured sound yet.</td>
            </tr>
          }
        </tbody>
      </table>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" class="plain" mat-dialog-close>Leave it</button>
      <button type="button" class="plain" [disabled]="!changes()" (click)="take()">
        Set these levels
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    table {
      border-collapse: collapse;
      margin-top: 12px;
      width: 100%;
    }
    th,
    td {
      text-align: left;
      font-weight: 400;
      padding: 5px 14px 5px 0;
      white-space: nowrap;
    }
    thead th {
      font-size: 13px;
      font-weight: 600;
      color: var(--ink-soft);
    }
    .changed {
      font-weight: 600;
      color: var(--sea);
    }
    mat-dialog-actions {
      gap: 8px;
    }
  `,
})
export class BalanceDialog {
  private readonly data = inject<BalanceData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<BalanceDialog, BalanceResult>>(MatDialogRef);
  private readonly relation = signal<ReadonlyMap<string, number>>(new Map());

  private readonly result = computed(() =>
    balance(this.data.patch, this.data.responses, this.relation()),
  );
  protected readonly rows = computed(() =>
    this.result().flatMap((line) => {
      const layer = this.data.patch.layers.find((l) => l.id === line.layerId);
      if (!layer) return [];
      return {
        id: layer.id,
        index: layer.index,
        name: layer.name,
        heard: `${line.loudnessBefore.toFixed(1).replace('-', '−')} LUFS`,
        wish: this.relation().get(layer.id) ?? 0,
        before: formatDb(line.before),
        after: formatDb(line.after),
        changed: line.after !== line.before,
      };
    }),
  );
  protected readonly changes = computed(() => this.rows().some((row) => row.changed));

  protected wish(layerId: string, decibels: number): void {
    this.relation.update((relation) => new Map(relation).set(layerId, decibels));
  }

  protected take(): void {
    this.dialog.close(new Map(this.result().map(({ layerId, after }) => [layerId, after])));
  }
}
