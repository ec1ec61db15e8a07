import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTableModule } from '@angular/material/table';
import { differencesOf, kindInWords } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { saving } from '../state/saving/saving';
import { selectConflict } from '../state/saving/selectors';
import { selectMiddleC, selectThings } from '../state/selectors';

/** Differences shown before the list is cut short. */
const MOST_SHOWN = 6;

/** Shows both versions of something that was saved elsewhere since, and lets the player choose. */
@Component({
  selector: 'pc-conflict-panel',
  imports: [MatButtonModule, MatTableModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (conflict(); as found) {
      <section role="alertdialog" aria-labelledby="conflict-title">
        <h2 id="conflict-title">
          This {{ kindInWords(found.kind) }} was {{ found.present ? 'saved' : 'removed' }} elsewhere
          since
        </h2>
        <p>
          Nothing is lost: yours is in this window, the other is on the server. After
          <i>Take the other</i>, <i>Undo</i> brings yours back.
        </p>
        @if (differences().length > 0) {
          <table mat-table [dataSource]="differences()">
            <ng-container matColumnDef="what">
              <th mat-header-cell *matHeaderCellDef scope="col">What</th>
              <td mat-cell *matCellDef="let line">{{ line.what }}</td>
            </ng-container>
            <ng-container matColumnDef="mine">
              <th mat-header-cell *matHeaderCellDef scope="col">Yours</th>
              <td mat-cell *matCellDef="let line" data-testid="mine">{{ line.mine }}</td>
            </ng-container>
            <ng-container matColumnDef="theirs">
              <th mat-header-cell *matHeaderCellDef scope="col">Saved elsewhere</th>
              <td mat-cell *matCellDef="let line" data-testid="theirs">{{ line.theirs }}</td>
            </ng-container>
            <tr mat-header-row *matHeaderRowDef="columns"></tr>
            <tr mat-row *matRowDef="let line; columns: columns"></tr>
          </table>
        }
        <div class="choice">
          <button type="button" matButton="outlined" (click)="keep()">Keep mine</button>
          <button type="button" matButton="outlined" (click)="take()">Take the other</button>
        </div>
      </section>
    }
  `,
  styles: `
    section {
      position: fixed;
      z-index: 20;
      right: 16px;
      top: 56px;
      width: min(520px, calc(100vw - 32px));
      background: var(--sheet);
      border: 2px solid var(--alarm);
      border-radius: 8px;
      padding: 14px 16px;
      display: grid;
      gap: 10px;
      box-shadow: 0 8px 30px #16243a40;
    }
    h2 {
      font-size: 16px;
    }
    table {
      width: 100%;
    }
    .choice {
      display: flex;
      gap: 8px;
    }
  `,
})
export class ConflictPanel {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly kindInWords = kindInWords;
  protected readonly columns = ['what', 'mine', 'theirs'];
  protected readonly conflict = this.store.selectSignal(selectConflict);
  protected readonly differences = computed(() => {
    const conflict = this.conflict();
    if (!conflict?.present) return [];
    const mine = this.things()[conflict.kind][conflict.id];
    return differencesOf(mine, conflict.present.value, this.middleC()).slice(0, MOST_SHOWN);
  });

  protected keep(): void {
    this.store.dispatch(saving.mineKept());
  }

  protected take(): void {
    this.store.dispatch(saving.theirsTaken());
  }
}
