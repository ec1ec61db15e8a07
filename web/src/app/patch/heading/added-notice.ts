import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { AddedInCue } from '../../state/editing/added-in-cue';

/** Says that what was added while a cue's balance is on the desk belongs to the patch, and offers to keep it to the cue. */
@Component({
  selector: 'pc-added-notice',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (added.told(); as one) {
      <p role="status">
        <span
          ><b>{{ one.names }}</b> is added to the patch, and sounds in all {{ one.cues }} cues that
          play {{ one.patch }}.</span
        >
        <button type="button" matButton="outlined" (click)="added.keepToCue()">
          Only in {{ one.cue }}
        </button>
        <button type="button" matButton="outlined" (click)="added.dismiss()">In all of them</button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 12px;
      min-height: 34px;
      padding: 1px 12px;
      border-left: 3px solid var(--lamp);
      background: #fff6e4;
      font-size: 13px;
    }
  `,
})
export class AddedNotice {
  protected readonly added = inject(AddedInCue);
}
