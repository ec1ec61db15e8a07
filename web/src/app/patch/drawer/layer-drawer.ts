import { ChangeDetectionStrategy, Component, computed, input, model, output } from '@angular/core';
import type { Patch, Sound } from '@pentachord/core/model';
import type { MiddleC } from '@pentachord/core/pitch';
import { LayerBadge } from '../../ui/layer-badge';
import { BalanceTab } from './balance-tab';
import { ControlsTab } from './controls-tab';
import { SoundTab } from './sound-tab';
import { TouchTab } from './touch-tab';
import { TreatmentsTab } from './treatments-tab';

/** The parts of a layer that the drawer shows. */
export type DrawerTab = 'touch' | 'sound' | 'balance' | 'treatments' | 'controls';

const TABS: readonly { tab: DrawerTab; name: string }[] = [
  { tab: 'touch', name: 'Touch' },
  { tab: 'sound', name: 'Sound' },
  { tab: 'balance', name: 'Balance and effects' },
  { tab: 'treatments', name: 'Treatments' },
  { tab: 'controls', name: 'Controls' },
];

/** The detail of one layer, drawn over the ledger; the field stays in sight. */
@Component({
  selector: 'pc-layer-drawer',
  imports: [BalanceTab, ControlsTab, LayerBadge, SoundTab, TouchTab, TreatmentsTab],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (layer(); as layer) {
      <header>
        <pc-layer-badge [index]="index()" />
        <b>{{ layer.name }}</b>
        <div role="tablist" aria-label="Parts of the layer">
          @for (choice of tabs; track choice.tab) {
            <button
              type="button"
              role="tab"
              [id]="'drawer-' + choice.tab"
              [attr.aria-selected]="tab() === choice.tab"
              [attr.tabindex]="tab() === choice.tab ? 0 : -1"
              aria-controls="drawer-body"
              (click)="tab.set(choice.tab)"
              (keydown)="step($event)"
            >
              {{ choice.name }}
            </button>
          }
        </div>
        <button type="button" class="plain close" (click)="closed.emit()">
          Close <kbd>Esc</kbd>
        </button>
      </header>
      <div
        id="drawer-body"
        class="body"
        role="tabpanel"
        tabindex="0"
        [attr.aria-labelledby]="'drawer-' + tab()"
      >
        @switch (tab()) {
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
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto minmax(0, 1fr);
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-top: 3px solid var(--sea);
      box-shadow: 0 -4px 16px #16243a22;
    }
    header {
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 6px 12px 0;
    }
    [role='tablist'] {
      display: flex;
      gap: 16px;
      margin-left: 14px;
    }
    [role='tab'] {
      font: 600 14px/1 var(--words);
      color: var(--ink-soft);
      background: none;
      border: 0;
      border-bottom: 2px solid transparent;
      padding: 6px 0;
      cursor: pointer;
    }
    [role='tab'][aria-selected='true'] {
      color: var(--ink);
      border-color: var(--lamp);
    }
    .close {
      margin-left: auto;
      padding: 5px 9px;
    }
    .body {
      padding: 10px 12px;
      overflow: auto;
      min-height: 0;
    }
    .body:focus-visible {
      outline-offset: -2px;
    }
  `,
})
export class LayerDrawer {
  readonly patch = input.required<Patch>();
  readonly layerId = input.required<string>();
  readonly library = input.required<readonly Sound[]>();
  readonly middleC = input<MiddleC>(4);
  readonly tab = model.required<DrawerTab>();
  readonly closed = output();
  /** The player wants another sound for this layer. */
  readonly swapAsked = output<string>();

  protected readonly tabs = TABS;
  protected readonly index = computed(() =>
    this.patch().layers.findIndex(({ id }) => id === this.layerId()),
  );
  protected readonly layer = computed(
    () => this.patch().layers.find(({ id }) => id === this.layerId()) ?? null,
  );

  protected step(event: KeyboardEvent): void {
    const by = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
    if (!by) return;
    event.preventDefault();
    const at = TABS.findIndex(({ tab }) => tab === this.tab());
    const next = TABS[(at + by + TABS.length) % TABS.length].tab;
    this.tab.set(next);
    document.getElementById(`drawer-${next}`)?.focus();
  }
}
