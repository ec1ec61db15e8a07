import { ChangeDetectionStrategy, Component, computed, inject, Injector } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { GAP_KINDS, type GapEntry } from '@pentachord/core/model';
import { clockTime, timeOfDay } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectOverrun, selectShow, selectTotalSeconds } from '../state/selectors';
import { TimeOfDay } from '../ui/days/time-of-day';
import { Dialogs } from '../ui/dialogs/dialogs';
import { NameField } from '../ui/names/name-field';
import { NumberField } from '../ui/numbers/number-field';
import { UndoButtons } from '../ui/undo-buttons';
import { EntrySelection } from './entry-selection';
import { Legs } from './legs';
import { OrderLog } from './order-log';
import { PassagePlan } from './passage-plan';
import { RepertoirePanel } from './repertoire-panel';
import type { SongTables } from './song-tables';
import { TonightPanel } from './tonight-panel';

/** The longest slot there is, in seconds. */
const LONGEST_SLOT = 86_400;

/** The Running order view: the night to scale, its log beside what can go into it. */
@Component({
  selector: 'pc-running-order-view',
  imports: [
    MatButtonModule,
    MatInputModule,
    MatMenuModule,
    NameField,
    NumberField,
    OrderLog,
    PassagePlan,
    RepertoirePanel,
    RouterLink,
    TimeOfDay,
    TonightPanel,
    UndoButtons,
  ],
  providers: [EntrySelection, Legs],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './running-order-view.html',
  styleUrl: './running-order-view.scss',
})
export class RunningOrderView {
  private readonly injector = inject(Injector);
  private readonly dialogs = inject(Dialogs);
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly editing = inject(ShowEditing);
  protected readonly selection = inject(EntrySelection);
  protected readonly show = this.store.selectSignal(selectShow);
  private readonly total = this.store.selectSignal(selectTotalSeconds);
  private readonly overrun = this.store.selectSignal(selectOverrun);

  protected readonly gaps = GAP_KINDS;
  protected readonly longestSlot = LONGEST_SLOT;

  protected readonly sums = computed(() => {
    const { slotSeconds = 0, start = null } = this.show() ?? {};
    const total = this.total();
    const left = slotSeconds - total;
    return {
      total: clockTime(total),
      left: left >= 0 ? `${clockTime(left)} left` : '',
      ends: start === null ? '' : `ends ${timeOfDay(start, total)}`,
    };
  });
  /** What happens when it runs over, in words; null when it does not. */
  protected readonly over = computed(() => {
    const found = this.overrun();
    const slot = this.show()?.slotSeconds ?? 0;
    if (!found) return null;
    const { crossing, behind, without, seconds } = found;
    const played = clockTime(slot - crossing.start);
    const rest = behind.map(({ name }) => name).join(', ');
    return {
      words: `${clockTime(seconds)} over: ${crossing.name} would end after ${played}${
        rest ? `, ${rest} would not be begun` : ''
      }.`,
      without: without.slice(0, 3).map(({ entry, totalSeconds }) => ({
        id: entry.entry.id,
        words: `Without ${entry.name}: ${clockTime(totalSeconds)}`,
      })),
    };
  });

  protected addGap(kind: GapEntry['kind']): void {
    const entryId = this.editing.addGap(kind, this.behindSelected());
    if (entryId !== null) this.selection.chooseLength(entryId);
  }

  protected async bringIn(): Promise<void> {
    await (await this.tables()).bringIn();
  }

  protected async saveOrder(): Promise<void> {
    (await this.tables()).saveOrder();
  }

  protected async saveRepertoire(): Promise<void> {
    (await this.tables()).saveRepertoire();
  }

  /** Has the night shown as it is printed. */
  protected async openSheet(): Promise<void> {
    const show = this.show();
    if (!show) return;
    const { SheetDialog } = await import('./sheet-dialog');
    await this.dialogs.open(SheetDialog, {
      data: { showId: show.id, name: `${show.name} ${show.date}` },
      ...{ width: '860px', maxWidth: '96vw' },
    });
  }

  private async tables(): Promise<SongTables> {
    const { SongTables } = await import('./song-tables');
    return this.injector.get(SongTables);
  }

  /** What stands behind the selected place: new things come before it. */
  private behindSelected(): string | null {
    const order = this.show()?.order ?? [];
    const at = order.findIndex(({ id }) => id === this.selection.primary());
    return at < 0 ? null : (order.at(at + 1)?.id ?? null);
  }
}
