import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { PatchesOfSong } from '../state/editing/patches-of-song';
import { SongEditing } from '../state/editing/song-editing';
import type { AppState } from '../state/reducers';
import { selectSession } from '../state/selectors';
import { FieldThumb } from './field-thumb';
import { SongActions } from './song-actions';

/** The patches of a song: opened, put in order, added, removed. */
@Component({
  selector: 'pc-song-patches',
  imports: [FieldThumb, MatButtonModule, MatIconModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <h2>Patches of this song</h2>
    <ul>
      @for (patch of patches.all(); track patch.id; let i = $index; let last = $last) {
        <li [class.open]="patch.id === session().patchId">
          <button
            type="button"
            matButton
            class="thumb"
            [attr.aria-label]="'Open ' + patch.name + ' in Patch'"
            (click)="open(patch.id)"
          >
            <pc-field-thumb [patch]="patch" />
          </button>
          <span class="line">
            <span class="name">{{ patch.name }}</span>
            <button
              type="button"
              matIconButton
              [matMenuTriggerFor]="menu"
              [attr.aria-label]="'More of ' + patch.name"
            >
              <mat-icon svgIcon="more" />
            </button>
          </span>
          <mat-menu #menu="matMenu">
            <ng-template matMenuContent>
              <button mat-menu-item (click)="open(patch.id)">Open in Patch</button>
              <button mat-menu-item (click)="editing.startFrom(patch.name, patch)">
                Copy within this song
              </button>
              <button mat-menu-item [disabled]="i === 0" (click)="patches.move(patch.id, i - 1)">
                Move up
              </button>
              <button mat-menu-item [disabled]="last" (click)="patches.move(patch.id, i + 1)">
                Move down
              </button>
              @let why = patches.whyStays(patch.id);
              <button mat-menu-item [disabled]="why !== ''" (click)="patches.remove(patch.id)">
                Remove {{ why ? '(' + why + ')' : '' }}
              </button>
            </ng-template>
          </mat-menu>
        </li>
      } @empty {
        <li class="none">
          No patch yet: nothing sounds. Start from one that fits, or an empty one.
        </li>
      }
      <li class="new">
        <button type="button" matButton="outlined" (click)="actions.startFrom()">
          Start from …
        </button>
        <button type="button" matButton="outlined" (click)="addEmpty()">Empty patch</button>
      </li>
    </ul>
  `,
  styles: `
    h2 {
      font: 600 14px/1.3 var(--words);
    }
    ul {
      display: flex;
      gap: 12px;
      margin: 6px 0 0;
      padding: 2px;
      list-style: none;
      overflow-x: auto;
    }
    li {
      flex: none;
      width: 150px;
    }
    .thumb {
      width: 150px;
      height: 52px;
      padding: 0;
      overflow: hidden;
    }
    pc-field-thumb {
      display: block;
      width: 150px;
      height: 52px;
    }
    .open pc-field-thumb {
      outline: 2px solid var(--sea);
      outline-offset: -2px;
    }
    .line {
      display: flex;
      align-items: center;
      font-size: 13px;
    }
    .name {
      flex: 1;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .new {
      display: grid;
      align-content: start;
      gap: 6px;
      width: 110px;
    }
    .none {
      width: 260px;
      color: var(--ink-soft);
    }
  `,
})
export class SongPatches {
  protected readonly editing = inject(SongEditing);
  protected readonly patches = inject(PatchesOfSong);
  protected readonly actions = inject(SongActions);
  private readonly router = inject(Router);
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly session = this.store.selectSignal(selectSession);

  /** An empty patch is made to be filled. */
  protected addEmpty(): void {
    this.patches.addEmpty();
    void this.router.navigateByUrl('/patch');
  }

  protected open(patchId: string): void {
    this.patches.open(patchId);
    void this.router.navigateByUrl('/patch');
  }
}
