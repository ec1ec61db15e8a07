import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { lookAt, type Mend, type Remark } from '@pentachord/core/coverage';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../../state/editing/patch-editing';
import { selectRemarks } from '../../state/machine/remarks.selectors';
import type { AppState } from '../../state/reducers';
import { selectWrittenPatch } from '../../state/selectors';
import { LayerSelection } from '../../state/session/layer-selection';
import { session } from '../../state/session/session';
import { PatchDesk } from '../patch-desk';
import { selectMendOf } from './mend-of';

/** Remarks listed behind the weightiest. */
const MOST_LISTED = 30;

/**
 * What was noticed about the patch, in a line of its own: the weightiest in whole words with its mend, the others behind it.
 */
@Component({
  selector: 'pc-remarks-line',
  imports: [MatButtonModule, MatMenuModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Remarks" aria-live="polite">
      @if (first(); as line) {
        <li>
          <button
            type="button"
            matButton="outlined"
            class="remark"
            [class.alarm]="line.remark.weight === 'alarm'"
            (click)="show(line.remark)"
            (pointerenter)="desk.pointed.set(line.remark.id)"
            (pointerleave)="desk.pointed.set(null)"
            (focus)="desk.pointed.set(line.remark.id)"
            (blur)="desk.pointed.set(null)"
          >
            {{ line.remark.text }}
          </button>
          @if (line.mend; as mend) {
            <button
              type="button"
              matButton
              class="mend"
              [attr.aria-label]="mend.words + ' (' + line.remark.text + ')'"
              (click)="carryOut(mend)"
            >
              {{ mend.words }}
            </button>
          } @else {
            <span class="look">{{ line.look }}</span>
          }
        </li>
      } @else {
        <li class="look">nothing to remark now</li>
      }
      @if (others().length > 0) {
        <li>
          <button
            type="button"
            matButton="outlined"
            [class.alarm]="others()[0].remark.weight === 'alarm'"
            [matMenuTriggerFor]="more"
          >
            {{ count() }} more
          </button>
          <mat-menu #more="matMenu" class="broad"
            ><ng-template matMenuContent>
              @for (line of others(); track line.remark.id) {
                <button mat-menu-item (click)="show(line.remark)">
                  {{ line.remark.text }}{{ line.mend ? '' : ': ' + line.look }}
                </button>
                @if (line.mend; as mend) {
                  <button mat-menu-item class="mend-item" (click)="carryOut(mend)">
                    {{ mend.words }}
                  </button>
                }
              }
            </ng-template></mat-menu
          >
        </li>
      }
    </ul>
  `,
  styles: `
    @use 'theme';

    :host {
      @include theme.notes;
      display: block;
    }
    ul {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 12px;
      min-height: 28px;
      margin: 0;
      padding: 0;
      list-style: none;
    }
    li {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 2px 6px;
      max-width: 100%;
    }
    .remark {
      height: auto;
      min-height: 26px;
      background: var(--sheet);
      text-align: left;
      white-space: normal;
    }
    .alarm {
      --mat-button-outlined-label-text-color: var(--alarm);
      --mat-button-outlined-outline-color: var(--alarm);
      --mat-button-outlined-label-text-weight: 700;
    }
    .mend {
      --mat-button-text-label-text-color: var(--sea);
      text-decoration: underline;
    }
    .look {
      font-size: 13px;
      color: var(--ink-soft);
    }
  `,
})
export class RemarksLine {
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly desk = inject(PatchDesk);
  private readonly editing = inject(PatchEditing);
  private readonly selection = inject(LayerSelection);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  /** As of the last look: while an edge is dragged they wait, and so does what mends them. */
  private readonly remarks = this.desk.calm.following(this.store.selectSignal(selectRemarks));
  private readonly mendOf = this.desk.calm.following(this.store.selectSignal(selectMendOf));

  private readonly lines = computed(() =>
    this.remarks()
      .slice(0, MOST_LISTED + 1)
      .map((remark) => ({ remark, mend: this.mendOf()(remark), look: lookAt(remark) })),
  );
  protected readonly first = computed(() => this.lines().at(0) ?? null);
  protected readonly others = computed(() => this.lines().slice(1));
  protected readonly count = computed(() => this.remarks().length - 1);

  protected show(remark: Remark): void {
    if (remark.keyboardId)
      this.store.dispatch(session.keyboardChosen({ keyboardId: remark.keyboardId }));
    if (remark.layerIds.length > 0) this.selection.only(remark.layerIds[0]);
  }

  protected carryOut({ patchId, words, changes, band }: Mend): void {
    // Told of a patch that is not on the desk any more it is done to none.
    if (patchId !== this.patch()?.id) return;
    if (band) this.editing.mendBand(band, words);
    else this.editing.changeLayers(changes, words);
  }
}
