import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MAT_DIALOG_DATA, MatDialogModule } from '@angular/material/dialog';

/** Shortcuts that belong together. */
export interface ShortcutGroup {
  name: string;
  shortcuts: readonly { shown: string; words: string }[];
}

/** The list of keyboard shortcuts. */
@Component({
  selector: 'pc-shortcuts-dialog',
  imports: [MatButtonModule, MatDialogModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2 mat-dialog-title>Keyboard shortcuts</h2>
    <mat-dialog-content tabindex="0">
      @for (group of groups; track group.name) {
        <section>
          <h3>{{ group.name }}</h3>
          <dl>
            @for (shortcut of group.shortcuts; track shortcut.shown) {
              <dt>
                @for (key of shortcut.shown.split(' '); track $index) {
                  <kbd>{{ key }}</kbd>
                }
              </dt>
              <dd>{{ shortcut.words }}</dd>
            }
          </dl>
        </section>
      }
    </mat-dialog-content>
    <mat-dialog-actions align="end">
      <button type="button" matButton="outlined" mat-dialog-close>Done</button>
    </mat-dialog-actions>
  `,
  styles: `
    mat-dialog-content {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 14px 34px;
      max-height: 76vh;
    }
    h3 {
      font: 600 14px/1.4 var(--words);
    }
    dl {
      display: grid;
      grid-template-columns: 96px 1fr;
      gap: 3px 10px;
      margin: 0;
      font-size: 13px;
      color: var(--ink);
    }
    dt {
      text-align: right;
    }
    dd {
      margin: 0;
    }
  `,
})
export class ShortcutsDialog {
  protected readonly groups = inject<readonly ShortcutGroup[]>(MAT_DIALOG_DATA);
}
