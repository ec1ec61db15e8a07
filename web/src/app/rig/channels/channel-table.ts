import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import {
  LAYERS_ROW,
  lettersOf,
  markInWords,
  type ChannelMark,
  type ChannelRow,
} from '@pentachord/core/rig';
import { LayerBadge } from '../../ui/layer-badge';
import { Tip } from '../../ui/tips/tip';

const SIGNS: Partial<Record<ChannelMark['kind'], string>> = {
  sends: '●',
  leaves: '▹',
  willSend: '◌',
  arrives: '→',
  plays: '○',
};

/** Who sends and who listens, by channel: a table of bearings. A channel is chosen by its number. */
@Component({
  selector: 'pc-channel-table',
  imports: [LayerBadge, MatButtonModule, MatTableModule, Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <table mat-table [dataSource]="data()" aria-label="Who sends and who listens, by channel">
      <ng-container matColumnDef="name">
        <th mat-header-cell *matHeaderCellDef scope="col"><span class="unseen">Who</span></th>
        <td mat-cell *matCellDef="let row" class="name">
          {{ row.name }}
          @if (row.any.length > 0) {
            <span class="any">any: {{ letters(row.any) }}</span>
          }
        </td>
      </ng-container>
      @for (channel of channels; track channel) {
        <ng-container [matColumnDef]="'c' + channel">
          <th mat-header-cell *matHeaderCellDef scope="col" class="mono channel">
            <button
              type="button"
              matButton
              class="pick"
              [class.here]="channel === chosen()"
              [attr.aria-pressed]="channel === chosen()"
              [attr.aria-label]="
                'Channel ' + channel + (labels()[channel - 1] ? ', ' + labels()[channel - 1] : '')
              "
              [pcTip]="labels()[channel - 1]"
              [class.labelled]="labels()[channel - 1]"
              (click)="choose.emit(channel)"
            >
              {{ channel }}
            </button>
          </th>
          <td mat-cell *matCellDef="let row" class="mark" [class.here]="channel === chosen()">
            @if (row.marks[channel - 1]; as mark) {
              <span
                [class]="mark.kind"
                [pcTip]="words(row, mark, channel)"
                [attr.aria-label]="words(row, mark, channel)"
                role="img"
              >
                @if (mark.kind === 'listens' || mark.kind === 'plays') {
                  @for (layer of mark.layers; track layer) {
                    <pc-layer-badge [index]="layer" />
                  }
                } @else {
                  {{ sign(mark) }}
                }
              </span>
            }
          </td>
        </ng-container>
      }
      <tr mat-header-row *matHeaderRowDef="columns"></tr>
      <tr mat-row *matRowDef="let row; columns: columns" [class.layers]="row.id === layersRow"></tr>
    </table>
    <p class="key">
      ● sends · ◌ will send, once written · ▹ sends, heard elsewhere · → heard here · letters:
      layers
    </p>
  `,
  styles: `
    :host {
      display: block;
    }
    table {
      width: 100%;
      table-layout: fixed;
      border: 1px solid var(--hairline);
    }
    th,
    td {
      padding: 0 2px;
      text-align: center;
    }
    .name,
    th:first-child {
      width: 118px;
      padding-left: 8px;
      text-align: left;
      line-height: 1.15;
    }
    .any {
      display: block;
      font-size: 12px;
      color: var(--ink-soft);
    }
    .pick {
      --mat-button-text-horizontal-padding: 0;
      --mat-button-text-label-text-size: 12px;
      min-width: 0;
      width: 100%;
    }
    .labelled {
      text-decoration: underline dotted;
    }
    .pick.here {
      background: var(--lamp);
      border-radius: 4px;
    }
    .mark {
      border-left: 1px solid var(--hairline);
    }
    td.here {
      background: #fdf3dd;
    }
    .sends {
      color: var(--sea);
    }
    .leaves,
    .willSend,
    .arrives {
      color: #8a4b00;
    }
    .listens,
    .plays {
      display: grid;
      justify-items: center;
      gap: 1px;
    }
    .key {
      margin-top: 4px;
      font-size: 12px;
      color: var(--ink-soft);
    }
  `,
})
export class ChannelTable {
  readonly rows = input.required<readonly ChannelRow[]>();
  readonly labels = input.required<readonly string[]>();
  readonly chosen = input<number>(1);
  readonly choose = output<number>();
  protected readonly channels = Array.from({ length: 16 }, (_, at) => at + 1);
  protected readonly columns = ['name', ...this.channels.map((channel) => `c${channel}`)];
  protected readonly layersRow = LAYERS_ROW;
  protected readonly data = computed(() => [...this.rows()]);

  protected sign({ kind }: ChannelMark): string {
    return SIGNS[kind] ?? '';
  }

  protected words(row: ChannelRow, mark: ChannelMark, channel: number): string {
    return markInWords(row, mark, channel);
  }

  protected letters(layers: readonly number[]): string {
    return lettersOf(layers);
  }
}
