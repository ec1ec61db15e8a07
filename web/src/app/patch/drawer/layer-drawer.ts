import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  model,
  output,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatTabsModule } from '@angular/material/tabs';
import type { Patch, Sound } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { LayerBadge } from '../../ui/layer-badge';
import { BalanceTab } from './balance-tab';
import { ControlsTab } from './controls-tab';
import { DRAWER_TABS, type DrawerTab } from './drawer-tabs';
import { SoundTab } from './sound-tab';
import { TouchTab } from './touch-tab';
import { TreatmentsTab } from './treatments-tab';

/** The detail of one layer, drawn over the ledger; the field stays in sight. */
@Component({
  selector: 'pc-layer-drawer',
  imports: [
    BalanceTab,
    ControlsTab,
    LayerBadge,
    MatButtonModule,
    MatTabsModule,
    SoundTab,
    TouchTab,
    TreatmentsTab,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { role: 'region', tabindex: '-1', '[attr.aria-label]': 'layer()?.name' },
  template: `
    @if (layer(); as layer) {
      <header>
        <pc-layer-badge [index]="index()" />
        <b>{{ layer.name }}</b>
        <button type="button" matButton="outlined" (click)="closed.emit()">
          Done <kbd>Esc</kbd>
        </button>
      </header>
      <mat-tab-group
        animationDuration="0"
        mat-stretch-tabs="false"
        mat-align-tabs="start"
        aria-label="Parts of the layer"
        [selectedIndex]="place()"
        (selectedIndexChange)="tab.set(tabs[$event].tab)"
      >
        @for (choice of tabs; track choice.tab) {
          <mat-tab [label]="choice.name" bodyClass="drawer-body">
            <ng-template matTabContent>
              <div class="body">
                @switch (choice.tab) {
                  @case ('touch') {
                    <pc-touch-tab [layer]="layer" />
                  }
                  @case ('sound') {
                    <pc-sound-tab
                      [patch]="patch()"
                      [layer]="layer"
                      [library]="library()"
                      (swapAsked)="swapAsked.emit(layer.id)"
                    />
                  }
                  @case ('balance') {
                    <pc-balance-tab [patch]="patch()" [layer]="layer" />
                  }
                  @case ('treatments') {
                    <pc-treatments-tab [patch]="patch()" [layer]="layer" [middleC]="middleC()" />
                  }
                  @case ('controls') {
                    <pc-controls-tab [patch]="patch()" />
                  }
                }
              </div>
            </ng-template>
          </mat-tab>
        }
      </mat-tab-group>
    }
  `,
  styles: `
    :host {
      outline: none;
      position: relative;
      display: grid;
      grid-template-rows: minmax(0, 1fr);
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-top: 3px solid var(--sea);
      box-shadow: 0 -4px 16px #16243a22;
      --mat-tab-container-height: 38px;
    }
    header {
      position: absolute;
      z-index: 2;
      top: 0;
      right: 0;
      display: flex;
      align-items: center;
      gap: 10px;
      height: 38px;
      padding: 0 12px;
    }
    mat-tab-group {
      min-height: 0;
      height: 100%;
    }
    .body {
      padding: 8px 12px;
      height: 100%;
    }
  `,
})
export class LayerDrawer {
  readonly patch = input.required<Patch>();
  readonly layerId = input.required<string>();
  readonly library = input.required<readonly Sound[]>();
  readonly middleC = input<NoteNaming>(4);
  readonly tab = model.required<DrawerTab>();
  readonly closed = output();
  /** The player wants another sound for this layer. */
  readonly swapAsked = output<string>();

  protected readonly tabs = DRAWER_TABS;
  protected readonly place = computed(() => DRAWER_TABS.findIndex(({ tab }) => tab === this.tab()));
  protected readonly index = computed(() =>
    this.patch().layers.findIndex(({ id }) => id === this.layerId()),
  );
  protected readonly layer = computed(
    () => this.patch().layers.find(({ id }) => id === this.layerId()) ?? null,
  );

  constructor() {
    const host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
    afterNextRender(() => host.focus());
  }
}
