import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { NOTE_ON } from '@pentachord/core/midi';
import type { ControlBox } from '@pentachord/core/model';
import { fittedSensitivity, PAD_STROKES, wantedSettings } from '@pentachord/core/settings';
import { median } from '@pentachord/core/touch';
import { Live } from '../../live/live';
import { RigEditing } from '../../state/editing/rig-editing';

/** Fits how easily each pad speaks to its player: medium strokes are asked for, and each is shown as it lands. */
@Component({
  selector: 'pc-pads-touch-tab',
  imports: [MatButtonModule, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div>
      <p>
        Strike each pad {{ asked }} times, neither softly nor hard. Pads that speak too easily, or
        not easily enough, are put right one by one.
      </p>
      <p class="told" role="status">{{ told() }}</p>
      <div class="deeds">
        <button type="button" matButton="filled" [disabled]="!changes()" (click)="take()">
          Want these, to be written
        </button>
        <button type="button" matButton="outlined" (click)="strokes.set([])">Begin anew</button>
      </div>
    </div>
    <table mat-table [dataSource]="rows()" aria-label="Strokes on the pads">
      <ng-container matColumnDef="pad">
        <th mat-header-cell *matHeaderCellDef scope="col">pad</th>
        <td mat-cell *matCellDef="let row">{{ row.pad }}</td>
      </ng-container>
      <ng-container matColumnDef="landed">
        <th mat-header-cell *matHeaderCellDef scope="col">landed</th>
        <td mat-cell *matCellDef="let row" class="mono">{{ row.landed }}</td>
      </ng-container>
      <ng-container matColumnDef="middle">
        <th mat-header-cell *matHeaderCellDef scope="col">middle</th>
        <td mat-cell *matCellDef="let row" class="mono">
          <span class="bar"><i [style.width.%]="(row.middle / 127) * 100"></i></span>
          {{ row.middle || '' }}
        </td>
      </ng-container>
      <ng-container matColumnDef="speaks">
        <th mat-header-cell *matHeaderCellDef scope="col">speaks, 1–8</th>
        <td mat-cell *matCellDef="let row" class="mono" [class.other]="row.other">
          {{ row.speaks }}
        </td>
      </ng-container>
      <tr mat-header-row *matHeaderRowDef="columns"></tr>
      <tr mat-row *matRowDef="let row; columns: columns"></tr>
    </table>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(260px, 1fr) minmax(420px, 1.6fr);
      gap: 20px;
      padding-top: 8px;
    }
    .told {
      min-height: 19px;
      margin: 8px 0;
    }
    .deeds {
      display: flex;
      gap: 8px;
    }
    .bar {
      display: inline-block;
      width: 90px;
      height: 8px;
      margin-right: 8px;
      border: 1px solid #8792a5;
      border-radius: 4px;
      overflow: hidden;

      i {
        display: block;
        height: 100%;
        background: var(--sea);
      }
    }
    .other {
      font-weight: 600;
    }
  `,
})
export class PadsTouchTab {
  readonly device = input.required<ControlBox>();
  /** Index of the box in the rig that plays. */
  readonly index = input(-1);

  private readonly editing = inject(RigEditing);
  protected readonly asked = PAD_STROKES;
  protected readonly columns = ['pad', 'landed', 'middle', 'speaks'];
  protected readonly strokes = signal<readonly { note: number; velocity: number }[]>([]);
  private readonly present = computed(() => wantedSettings(this.device()).padSensitivity);
  private readonly fitted = computed(() =>
    this.device().padNotes.map((note, pad) =>
      fittedSensitivity(this.velocitiesOf(note), this.present().at(pad) ?? 4),
    ),
  );
  protected readonly rows = computed(() =>
    this.device().padNotes.map((note, pad) => {
      const velocities = this.velocitiesOf(note);
      const present = this.present().at(pad) ?? 4;
      const fitted = this.fitted()[pad];
      const other = fitted !== null && fitted !== present;
      return {
        ...{ pad: pad + 1, landed: velocities.join(' '), other },
        middle: Math.round(median(velocities)),
        speaks: other ? `${present} → ${fitted}` : String(present),
      };
    }),
  );
  protected readonly changes = computed(() => this.rows().some(({ other }) => other));
  protected readonly told = computed(() => {
    const done = this.fitted().filter((one) => one !== null).length;
    const all = this.device().padNotes.length;
    if (done === 0) return '';
    if (done < all) return `${done} of ${all} pads are known.`;
    return this.changes() ? 'All pads are known.' : 'All pads are known, and speak as they should.';
  });

  constructor() {
    const untap = inject(Live).host.tap((_time, _port, device, status, note, velocity) => {
      if (device !== this.index() || (status & 0xf0) !== NOTE_ON || velocity === 0) return;
      if (this.velocitiesOf(note).length >= PAD_STROKES) return;
      this.strokes.update((strokes) => [...strokes, { note, velocity }]);
    });
    inject(DestroyRef).onDestroy(untap);
  }

  /** Wants what was fitted: it is written with the other settings of the device. */
  protected take(): void {
    const { id, settings } = this.device();
    const padSensitivity = this.present().map((present, pad) => this.fitted().at(pad) ?? present);
    const wanted = { ...settings.wanted, padSensitivity };
    this.editing.change(id, { settings: { ...settings, wanted } }, 'pads fitted');
    this.strokes.set([]);
  }

  private velocitiesOf(note: number): number[] {
    return this.strokes()
      .filter((stroke) => stroke.note === note)
      .map(({ velocity }) => velocity);
  }
}
