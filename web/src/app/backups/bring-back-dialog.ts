import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

/** Asks before a backup takes the place of everything. */
@Component({
  selector: 'pc-bring-back-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Bring back {{ when }}?</h2>
    <mat-dialog-content>
      <p>All shows, songs, patches, cues, devices, and what you keep become as they were then.</p>
      <p>What is there now is backed up first, so that you can come back to it.</p>
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
      <button type="button" matButton="filled" [mat-dialog-close]="true">Bring it back</button>
    </mat-dialog-actions>
  `,
})
export class BringBackDialog {
  protected readonly when = inject<string>(MAT_DIALOG_DATA);
}
