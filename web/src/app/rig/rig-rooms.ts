import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';

/** The rooms of the rig, one tab each. */
const ROOMS = [
  { path: '/rig', name: 'Plan', exact: true },
  { path: '/rig/channels', name: 'Channels', exact: false },
  { path: '/rig/ties', name: 'Ties', exact: false },
  { path: '/rig/controls', name: 'Controls', exact: false },
  { path: '/rig/monitor', name: 'Monitor', exact: false },
];

/** The Rig: what stands on the stage, its channels, what its controls do, and what it sends. */
@Component({
  selector: 'pc-rig-rooms',
  imports: [MatTabsModule, RouterLink, RouterLinkActive, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav mat-tab-nav-bar mat-stretch-tabs="false" aria-label="Rig" [tabPanel]="panel">
      @for (room of rooms; track room.path) {
        <a
          mat-tab-link
          routerLinkActive
          #here="routerLinkActive"
          [routerLink]="room.path"
          [routerLinkActiveOptions]="{ exact: room.exact }"
          [active]="here.isActive"
        >
          {{ room.name }}
        </a>
      }
    </nav>
    <mat-tab-nav-panel #panel class="room"><router-outlet /></mat-tab-nav-panel>
  `,
  styleUrl: '../ui/rooms.scss',
})
export class RigRooms {
  protected readonly rooms = ROOMS;
}
