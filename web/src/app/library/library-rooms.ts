import { ChangeDetectionStrategy, Component } from '@angular/core';
import { MatTabsModule } from '@angular/material/tabs';
import { RouterLink, RouterLinkActive, RouterOutlet } from '@angular/router';

/** The shelves of the library, one tab each. */
const ROOMS = [{ path: '/library/sounds', name: 'Sounds' }];

/** The Library: what can be taken into patches. */
@Component({
  selector: 'pc-library-rooms',
  imports: [MatTabsModule, RouterLink, RouterLinkActive, RouterOutlet],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <nav mat-tab-nav-bar mat-stretch-tabs="false" aria-label="Library" [tabPanel]="panel">
      @for (room of rooms; track room.path) {
        <a
          mat-tab-link
          routerLinkActive
          #here="routerLinkActive"
          [routerLink]="room.path"
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
export class LibraryRooms {
  protected readonly rooms = ROOMS;
}
