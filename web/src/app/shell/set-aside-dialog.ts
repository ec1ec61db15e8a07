import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { Router } from '@angular/router';
import { kindInWords, type Kind } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Taking } from '../state/editing/taking';
import type { AppState } from '../state/reducers';
import { saving, thingKey, type SetAside } from '../state/saving/saving';
import { selectBase, selectSetAside } from '../state/saving/selectors';
import { session } from '../state/session/session';
import { StatusLine } from '../state/session/status-line';
import { saveFile } from '../ui/files/save-file';

/** What the server refuses for good, why, and what can be done about it. Nothing else waits for it. */
@Component({
  selector: 'pc-set-aside-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Set aside</h2>
    <mat-dialog-content>
      <p>
        The server does not take these changes as they are. They are safe in this window, and
        everything else is saved. Change something of them and they are tried by themselves.
      </p>
      @for (one of list(); track one.key) {
        <section [attr.aria-label]="one.title">
          <h3>{{ one.title }}</h3>
          <p>{{ one.refused.problem }}</p>
          <span class="choice">
            @if (one.patchId) {
              <button type="button" matButton="outlined" (click)="goTo(one.patchId)">
                Go to it
              </button>
            }
            <button type="button" matButton="outlined" (click)="again(one.refused)">
              Try again as it is
            </button>
            @if (one.refused.value) {
              <button type="button" matButton="outlined" (click)="keepCopy(one.refused)">
                Keep as a copy
              </button>
            }
            <button type="button" matButton="outlined" (click)="drop(one.refused)">
              {{ one.drop }}
            </button>
          </span>
        </section>
      } @empty {
        <p>Nothing is set aside any more.</p>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    section {
      border-top: 1px solid var(--hairline);
      padding: 10px 0;
      display: grid;
      gap: 6px;
    }
    h3 {
      font: 600 15px/1.3 var(--words);
    }
    .choice {
      display: flex;
      flex-wrap: wrap;
      gap: 8px;
    }
  `,
})
export class SetAsideDialog {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly taking = inject(Taking);
  private readonly status = inject(StatusLine);
  private readonly router = inject(Router);
  private readonly dialog = inject<MatDialogRef<SetAsideDialog>>(MatDialogRef);
  private readonly setAside = this.store.selectSignal(selectSetAside);
  private readonly base = this.store.selectSignal(selectBase);

  protected readonly list = computed(() =>
    this.setAside().map((refused) => {
      const { kind, id, value } = refused;
      const key = thingKey(kind, id);
      const last = this.base()[key]?.value;
      const name = value?.name ?? last?.name ?? id;
      const what = `${kindInWords(kind)} “${name}”`;
      return {
        key,
        refused,
        title: value ? `The ${what}` : `Removing the ${what}`,
        patchId: patchOf(kind, value),
        drop: !value ? 'Discard the removal' : last ? 'Discard my change' : 'Discard it',
      };
    }),
  );

  protected goTo(patchId: string): void {
    this.store.dispatch(session.patchOpened({ patchId }));
    void this.router.navigateByUrl('/patch');
    this.dialog.close();
  }

  protected again({ kind, id }: SetAside): void {
    this.store.dispatch(saving.triedAgain({ kind, id }));
  }

  protected drop({ kind, id }: SetAside): void {
    this.store.dispatch(saving.dropped({ kind, id }));
    this.status.say('Discarded. Undo brings it back.');
  }

  /** A patch becomes a keepsake; of everything else a file is written. */
  protected keepCopy({ kind, value }: SetAside): void {
    if (!value) return;
    if (kind === 'patches' && 'layers' in value) {
      this.taking.keep(value.name, { kind: 'patch', patch: value });
      return;
    }
    const name = `${kindInWords(kind)} ${value.name}.json`;
    saveFile(name, JSON.stringify(value, null, 2), 'application/json');
    this.status.say(`Kept “${value.name}” as a file.`);
  }
}

function patchOf(kind: Kind, value: SetAside['value']): string | null {
  if (!value) return null;
  if (kind === 'patches') return value.id;
  return 'patchId' in value ? value.patchId : null;
}
