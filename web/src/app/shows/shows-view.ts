import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatMenuModule } from '@angular/material/menu';
import { MatTableModule } from '@angular/material/table';
import { Router } from '@angular/router';
import { cutText, type Show } from '@pentachord/core/model';
import { showDifferences, timeline, totalSeconds } from '@pentachord/core/setlist';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import { DemoKeeping } from '../state/loading/demo-keeping';
import type { AppState } from '../state/reducers';
import { selectShowId, selectSongs, selectThings } from '../state/selectors';
import { NameField } from '../ui/names/name-field';
import { UndoButtons } from '../ui/undo-buttons';
import { provideDays } from '../ui/days/day-formats';
import { dayAfter, dayOf, isoOf, today } from '../ui/days/days';
import { Dialogs } from '../ui/dialogs/dialogs';
import type { CopiedFor, CopyShowData } from './copy-show-dialog';

/** The most characters of a place. */
const LONGEST_PLACE = 120;

/** The Shows view: every night there is, made, copied, put away and brought back. */
@Component({
  selector: 'pc-shows-view',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatDatepickerModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatMenuModule,
    MatTableModule,
    NameField,
    UndoButtons,
  ],
  providers: [provideDays()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './shows-view.html',
  styleUrl: './shows-view.scss',
})
export class ShowsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly router = inject(Router);
  private readonly dialogs = inject(Dialogs);
  protected readonly editing = inject(ShowEditing);
  protected readonly demo = inject(DemoKeeping);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly songs = this.store.selectSignal(selectSongs);
  protected readonly openId = this.store.selectSignal(selectShowId);
  protected readonly shown = signal<'coming' | 'away'>('coming');
  protected readonly columns = ['open', 'name', 'date', 'place', 'songs', 'length', 'more'];
  protected readonly idOf = (_: number, { show }: { show: Show }) => show.id;

  private readonly all = computed(() =>
    Object.values(this.things().shows).sort(
      (a, b) => b.date.localeCompare(a.date) || a.name.localeCompare(b.name),
    ),
  );
  protected readonly counts = computed(() => ({
    coming: this.all().filter(({ putAway }) => !putAway).length,
    away: this.all().filter(({ putAway }) => putAway).length,
  }));
  protected readonly rows = computed(() =>
    this.all()
      .filter(({ putAway }) => putAway === (this.shown() === 'away'))
      .map((show) => {
        const entries = timeline(show.order, this.songs());
        const total = totalSeconds(entries);
        return {
          show,
          day: dayOf(show.date),
          songs: entries.filter(({ song }) => song !== null).length,
          length: `${clockTime(total)} of ${clockTime(show.slotSeconds)}`,
          over: total > show.slotSeconds,
        };
      }),
  );
  /** What differs in the open show from the one it was copied from; null when it is no copy. */
  protected readonly differences = computed(() => {
    const show = this.all().find(({ id }) => id === this.openId());
    if (!show?.copiedFrom) return null;
    const origin = this.all().find(({ id }) => id === show.copiedFrom);
    return {
      show,
      origin: origin ?? null,
      lines: origin ? showDifferences(show, origin, this.songs()) : [],
    };
  });

  protected newShow(): void {
    if (this.editing.newShow(today()) !== null) void this.router.navigateByUrl('/running-order');
  }

  /** Asks for which night it is, and makes it; the show that is open stays open. */
  protected async copy(show: Show): Promise<void> {
    const { CopyShowDialog } = await import('./copy-show-dialog');
    const latest = [show.date, today()].sort()[1];
    const data = {
      original: show.name,
      name: this.editing.nameOfCopy(show),
      date: dayAfter(latest),
    };
    const wish = await this.dialogs.open<CopyShowData, CopiedFor>(CopyShowDialog, {
      data,
      width: '420px',
    });
    if (!wish) return;
    this.shown.set('coming');
    this.editing.copyShow(show, wish);
  }

  protected open(show: Show): void {
    this.editing.open(show.id);
    void this.router.navigateByUrl('/running-order');
  }

  protected setDate(show: Show, day: Date | null): void {
    const date = isoOf(day);
    if (date !== null && date !== show.date) this.editing.change(show.id, { date });
  }

  protected setPlace(show: Show, text: string): void {
    const place = cutText(text, LONGEST_PLACE);
    if (place !== show.place) this.editing.change(show.id, { place });
  }
}
