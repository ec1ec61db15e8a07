import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatDatepickerModule } from '@angular/material/datepicker';
import { MAT_DIALOG_DATA, MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { cutText, LONGEST_NAME } from '@pentachord/core/model';
import { dayOf, isoOf } from '../ui/days/days';
import { provideDays } from '../ui/days/day-formats';

/** A show that is to be copied, and what the copy would be called. */
export interface CopyShowData {
  original: string;
  name: string;
  /** ISO day that is proposed. */
  date: string;
}

/** The night that a copy is for. */
export interface CopiedFor {
  name: string;
  date: string;
}

/** Asks for which night a show is copied. */
@Component({
  selector: 'pc-copy-show-dialog',
  imports: [
    MatButtonModule,
    MatDatepickerModule,
    MatDialogModule,
    MatFormFieldModule,
    MatInputModule,
  ],
  providers: [provideDays()],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Copy {{ data.original }} for another night</h2>
    <form (submit)="make($event)">
      <mat-dialog-content>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>date</mat-label>
          <input
            matInput
            cdkFocusInitial
            [matDatepicker]="picker"
            [value]="day()"
            (dateChange)="day.set($event.value)"
            (keydown)="$event.stopPropagation()"
          />
          <mat-datepicker-toggle matIconSuffix [for]="picker" />
          <mat-datepicker #picker />
        </mat-form-field>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <mat-label>called</mat-label>
          <input
            #called
            matInput
            [attr.maxlength]="longest"
            [value]="data.name"
            (input)="name.set(called.value)"
            (keydown)="$event.stopPropagation()"
          />
        </mat-form-field>
        <p>It has the same songs; what was otherwise on that one night stays there.</p>
      </mat-dialog-content>
      <mat-dialog-actions align="end">
        <button type="button" matButton="outlined" mat-dialog-close>Cancel</button>
        <button type="submit" matButton="filled" [disabled]="!wish()">Make the copy</button>
      </mat-dialog-actions>
    </form>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      gap: 12px;
    }
    mat-dialog-actions {
      gap: 8px;
    }
  `,
})
export class CopyShowDialog {
  protected readonly data = inject<CopyShowData>(MAT_DIALOG_DATA);
  private readonly dialog = inject<MatDialogRef<CopyShowDialog, CopiedFor>>(MatDialogRef);
  protected readonly longest = LONGEST_NAME;
  protected readonly day = signal(dayOf(this.data.date));
  protected readonly name = signal(this.data.name);
  /** What is asked for; null while a part of it is missing. */
  protected readonly wish = computed((): CopiedFor | null => {
    const date = isoOf(this.day());
    const name = cutText(this.name(), LONGEST_NAME);
    return date !== null && name !== '' ? { name, date } : null;
  });

  protected make(event: Event): void {
    event.preventDefault();
    const wish = this.wish();
    if (wish) this.dialog.close(wish);
  }
}
