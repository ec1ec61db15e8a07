import { ChangeDetectionStrategy, Component, input } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';

/** A room of a view: where it is, and what its tab says; `exact` where other rooms lie below its address. */
export interface Room {
  path: string;
  name: string;
  exact?: boolean;
}

/** A view of several rooms, one tab each. Its name and rooms are told by its route. */
@Component({
  selector: 'pc-rooms',
  imports: [MatTabsModule, RouterLink, RouterLinkActive, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav mat-tab-nav-bar mat-stretch-tabs="false" [attr.aria-label]="label()" [tabPanel]="panel">
      @for (room of rooms(); track room.path) {
        <a
          mat-tab-link
          routerLinkActive
          #here="routerLinkActive"
          [routerLink]="room.path"
          [routerLinkActiveOptions]="{ exact: room.exact === true }"
          [active]="here.isActive"
        >
          {{ room.name }}
        </a>
      }
    </nav>
    <mat-tab-nav-panel #panel class="room"><router-outlet /></mat-tab-nav-panel>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      height: 100%;
      min-height: 0;
    }
    nav {
      padding: 2px 12px 0;
      border-bottom: 1px solid var(--hairline);
    }
    .room {
      display: block;
      min-height: 0;
    }
  `,
})
export class Rooms {
  readonly label = input.required<string>();
  readonly rooms = input.required<readonly Room[]>();
}
