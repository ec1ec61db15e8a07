import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatTableModule } from '@angular/material/table';
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
  imports: [LayerBadge, MatButtonModule, MatDialogModule, MatTableModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Balance</h2>
    <mat-dialog-content>
      <p>
        Measured at velocity 80, or the nearest at which a layer is about as loud as its fades let
        it be. The patch as a whole stays as loud as it is.
      </p>
      <table mat-table [dataSource]="rows()" [trackBy]="idOf">
        <ng-container matColumnDef="layer">
          <th mat-header-cell *matHeaderCellDef>Layer</th>
          <td mat-cell *matCellDef="let row">
            <pc-layer-badge [index]="row.index" /> {{ row.name }}
          </td>
        </ng-container>
        <ng-container matColumnDef="heard">
          <th mat-header-cell *matHeaderCellDef>heard now</th>
          <td mat-cell *matCellDef="let row" class="mono">{{ row.heard }}</td>
        </ng-container>
        <ng-container matColumnDef="wish">
          <th mat-header-cell *matHeaderCellDef>shall stand</th>
          <td mat-cell *matCellDef="let row">
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
        </ng-container>
        <ng-container matColumnDef="before">
          <th mat-header-cell *matHeaderCellDef>level before</th>
          <td mat-cell *matCellDef="let row" class="mono">{{ row.before }}</td>
        </ng-container>
        <ng-container matColumnDef="after">
          <th mat-header-cell *matHeaderCellDef>level after</th>
          <td mat-cell *matCellDef="let row" class="mono after" [class.changed]="row.changed">
            {{ row.after }}
            @if (row.missing) {
              <span class="missing">{{ row.missing }}</span>
            }
          </td>
        </ng-container>
        <tr mat-header-row *matHeaderRowDef="columns"></tr>
        <tr mat-row *matRowDef="let row; columns: columns" [attr.data-layer]="row.name"></tr>
        <tr *matNoDataRow>
          <td [attr.colspan]="columns.length">No layer of this patch has a measured sound yet.</td>
        </tr>
      </table>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [disabled]="!changes()" (click)="take()">
        Set these levels
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    table {
      margin-top: 12px;
    }
    td,
    th {
      white-space: nowrap;
    }
    .changed {
      font-weight: 600;
      color: var(--sea);
    }
    .missing {
      display: block;
      font: 400 12px/1.2 var(--words);
      color: var(--ink);
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
        missing: missingInWords(line.missing),
      };
    }),
  );
  protected readonly columns = ['layer', 'heard', 'wish', 'before', 'after'];
  protected readonly changes = computed(() => this.rows().some((row) => row.changed));

  protected idOf(_index: number, row: { id: string }): string {
    return row.id;
  }

  protected wish(layerId: string, decibels: number): void {
    this.relation.update((relation) => new Map(relation).set(layerId, decibels));
  }

  protected take(): void {
    this.dialog.close(new Map(this.result().map(({ layerId, after }) => [layerId, after])));
  }
}

/** What balancing could not reach, since levels end there; empty when it could. */
function missingInWords(missing: number): string {
  if (missing === 0) return '';
  const decibels = Math.abs(missing).toFixed(1);
  return missing > 0
    ? `as loud as it goes; ${decibels} dB are missing`
    : `as soft as it goes; ${decibels} dB too much`;
}
