import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { selectUndo } from '../state/editing/selectors';
import { Undoing } from '../state/session/undoing';
import { Tip } from './tips/tip';

/** Undo and redo, each saying what it would take back or bring again. */
@Component({
  selector: 'pc-undo-buttons',
  imports: [MatButtonModule, MatIconModule, Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <button
      type="button"
      matIconButton
      aria-label="Undo"
      [disabled]="!steps().undo"
      [pcTip]="steps().undo ?? ''"
      (click)="undoing.undo()"
    >
      <mat-icon svgIcon="undo" />
    </button>
    <button
      type="button"
      matIconButton
      aria-label="Redo"
      [disabled]="!steps().redo"
      [pcTip]="steps().redo ?? ''"
      (click)="undoing.redo()"
    >
      <mat-icon svgIcon="redo" />
    </button>
  `,
  styles: `
    :host {
      flex: none;
      white-space: nowrap;
    }
  `,
})
export class UndoButtons {
  protected readonly undoing = inject(Undoing);
  protected readonly steps = inject<Store<AppState>>(Store).selectSignal(selectUndo);
}
