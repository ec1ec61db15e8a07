import { ChangeDetectionStrategy, Component, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { cutText, LONGEST_NAME } from '@pentachord/core/model';

/** What is named, and the name that is proposed. */
export interface NameData {
  title: string;
  name: string;
  /** What the button says that takes it. */
  take: string;
}

/** Asks for a name; closed with it, or with nothing. */
@Component({
  selector: 'pc-name-dialog',
  imports: [MatButtonModule, MatDialogModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>{{ data.title }}</h2>
    <form (submit)="take($event)">
      <mat-dialog-content>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>called</mat-label>
          <input
            #box
            matInput
            cdkFocusInitial
            [attr.maxlength]="longest"
            [value]="data.name"
            (focus)="box.select()"
            (input)="name.set(box.value)"
            (keydown)="$event.key === 'Escape' || $event.stopPropagation()"
          />
        </mat-form-field>
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
        <button type="submit" matButton="filled" [disabled]="name().trim() === ''">
          {{ data.take }}
        </button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-form-field {
      width: 100%;
      margin-top: 6px;
    }
    mat-dialog-actions {
      gap: 8px;
    }
  `,
})
export class NameDialog {
  protected readonly data = inject<NameData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<NameDialog, string>>(MatDialogRef);
  protected readonly longest = LONGEST_NAME;
  protected readonly name = signal(this.data.name);

  protected take(event: Event): void {
    event.preventDefault();
    const name = cutText(this.name(), LONGEST_NAME);
    if (name !== '') this.dialog.close(name);
  }
}
