import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { OverlayModule } from '@angular/cdk/overlay';
import { MatButtonModule } from '@angular/material/button';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import { selectBudget, selectCost } from '../state/machine/selectors';
import { CostDetail } from './cost-detail';

/** What the patch on the desk costs against the budget of this machine. */
@Component({
  selector: 'pc-cost-state',
  imports: [CostDetail, MatButtonModule, OverlayModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (cost(); as told) {
      <button
        type="button"
        matButton
        class="cost mono"
        cdkOverlayOrigin
        #origin="cdkOverlayOrigin"
        [class.much]="told.share > 1"
        [attr.aria-expanded]="open()"
        [attr.aria-label]="'Cost of the patch: ' + told.words + ' of the budget'"
        data-testid="cost"
        (click)="open.set(!open())"
      >
        cost {{ told.words }}
      </button>
      <ng-template
        cdkConnectedOverlay
        [cdkConnectedOverlayOrigin]="origin"
        [cdkConnectedOverlayOpen]="open()"
        [cdkConnectedOverlayHasBackdrop]="true"
        cdkConnectedOverlayBackdropClass="cdk-overlay-transparent-backdrop"
        (backdropClick)="open.set(false)"
        (detach)="open.set(false)"
        (overlayKeydown)="keyDown($event)"
      >
        @defer {
          <pc-cost-detail />
        }
      </ng-template>
    }
  `,
  styles: `
    .cost {
      white-space: nowrap;
      font-family: var(--mono);
      font-weight: 400;
    }
    .much {
      --mat-button-text-label-text-color: #ffb3a8;
    }
  `,
})
export class CostState {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patchCost = this.store.selectSignal(selectCost);
  private readonly budget = this.store.selectSignal(selectBudget);
  protected readonly open = signal(false);

  protected readonly cost = computed(() => {
    const cost = this.patchCost();
    if (!cost) return null;
    const share = cost.total / this.budget();
    return { share, words: `${Math.round(share * 100)} %` };
  });

  protected keyDown(event: KeyboardEvent): void {
    if (event.key === 'Escape') this.open.set(false);
    // Keys that are meant for what stands in here are shortcuts elsewhere.
    event.stopPropagation();
  }
}
