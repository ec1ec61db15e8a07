import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Live } from '../live/live';

/** Says that another window of this browser plays, and takes over from it when asked. */
@Component({
  selector: 'pc-playing-elsewhere',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (window.elsewhere(); as view) {
      <p role="status" data-testid="silent-window">
        {{ view }} plays in another window. This one is silent.
        <button type="button" matButton="filled" (click)="window.takeOver()">Play here</button>
      </p>
    }
  `,
  styles: `
    p {
      display: flex;
      align-items: center;
      gap: 12px;
      margin: 0;
      padding: 4px 12px;
      border-radius: 6px;
      background: #f2b84b;
      color: #16243a;
      font-size: 16px;
      /* The views colour their buttons each in its way; on this ground only one can be read. */
      --mat-button-filled-container-color: #16243a;
      --mat-button-filled-label-text-color: #fff;
      white-space: nowrap;
    }
  `,
})
export class PlayingElsewhere {
  protected readonly window = inject(Live).window;
}
