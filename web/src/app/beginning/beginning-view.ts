import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { Router } from '@angular/router';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import { DEMO_SHOW, DemoKeeping } from '../state/loading/demo-keeping';
import type { AppState } from '../state/reducers';
import { selectLoading, selectThings } from '../state/selectors';
import { today } from '../ui/days/days';

/** The first page: a new installation begins with the demo show or an empty one; later it leads to where the player was. */
@Component({
  selector: 'pc-beginning-view',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './beginning-view.html',
  styleUrl: './beginning-view.scss',
})
export class BeginningView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly router = inject(Router);
  private readonly editing = inject(ShowEditing);
  protected readonly demo = inject(DemoKeeping);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly loading = this.store.selectSignal(selectLoading);
  private readonly chosen = signal(false);

  private readonly shows = computed(() => Object.values(this.things().shows));
  protected readonly isOpen = computed(() => this.loading().status === 'open');
  /** True when there is something of the player’s own, or the player was here before: nothing has to be chosen. */
  private readonly isKnown = computed(
    () =>
      this.shows().length > 0 &&
      (this.loading().wasHere || this.shows().some(({ id }) => id !== DEMO_SHOW)),
  );
  protected readonly asks = computed(() => this.isOpen() && !this.isKnown() && !this.chosen());

  constructor() {
    effect(() => {
      if (this.isOpen() && this.isKnown() && !this.chosen()) this.go('/patch');
    });
  }

  /** Opens the demo show; where it is not there, it is brought first. */
  protected async openDemo(): Promise<void> {
    this.chosen.set(true);
    if (!this.demo.isThere() && !(await this.demo.bring())) {
      this.chosen.set(false);
      return;
    }
    this.editing.open(DEMO_SHOW);
    this.go('/running-order');
  }

  protected openEmpty(): void {
    this.chosen.set(true);
    this.editing.newShow(today());
    this.go('/running-order');
  }

  private go(url: string): void {
    void this.router.navigateByUrl(url, { replaceUrl: true });
  }
}
