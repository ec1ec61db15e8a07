import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import type { ShelfItem } from '@pentachord/core/library';
import { SoundBrowser, type Offered } from './sound-browser';

/** What the picker starts from. */
export interface PickerData {
  title: string;
  offered: Offered;
  /** Id of the library sound in use. */
  current: string | null;
}

/** Lets the player try sounds and take one: `dialog.open(SoundPicker, { data })`, closed with the item taken. */
@Component({
  selector: 'pc-sound-picker',
  imports: [MatButtonModule, MatDialogModule, SoundBrowser],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <mat-dialog-content>
      <pc-sound-browser
        [offered]="data.offered"
        [current]="data.current"
        (selected)="chosen.set($event)"
        (taken)="dialog.close($event)"
      />
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <span class="hint">Play to try it out. Enter takes it.</span>
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [disabled]="!chosen()" (click)="take()">
        Take {{ chosen()?.name ?? 'it' }}
      </button>
    </mat-dialog-actions>
  `,
  styles: `
    pc-sound-browser {
      height: min(56vh, 480px);
      padding-top: 4px;
    }
    mat-dialog-actions {
      gap: 8px;
    }
    .hint {
      margin-right: auto;
      font-size: 13px;
      color: var(--ink-soft);
    }
  `,
})
export class SoundPicker {
  protected readonly data = inject<PickerData>(MAT_DIALOG_DATA);
  protected readonly dialog = inject<MatDialogRef<SoundPicker, ShelfItem>>(MatDialogRef);
  protected readonly chosen = signal<ShelfItem | null>(null);
  private readonly browser = viewChild.required(SoundBrowser);

  protected take(): void {
    const chosen = this.chosen();
    if (chosen) this.dialog.close(chosen);
  }

  constructor() {
    afterNextRender(() => this.browser().focus());
  }
}
