import { Injectable, signal } from '@angular/core';
import { Calm } from './calm';
import type { DrawerTab } from './drawer/drawer-tabs';

/** What the Patch view shows beside the field. */
export type SidePanel = 'trace' | 'plumb';

/** How the parts of the Patch view stand: what is open, and what the hand points at. */
@Injectable()
export class PatchDesk {
  /** While an edge is dragged, only the field itself moves with every frame. */
  readonly calm = new Calm();
  /** The part of the selected layer that the drawer shows; null while it is closed. */
  readonly drawer = signal<DrawerTab | null>(null);
  readonly beside = signal<SidePanel>('trace');
  /** The key under the hand on the field. */
  readonly hoveredKey = signal<number | null>(null);
  /** The layer under the hand in the ledger. */
  readonly hoveredLayer = signal<string | null>(null);
  /** Id of the remark under the hand. */
  readonly pointed = signal<string | null>(null);
  /** The layer whose transposition is under the hand or the caret, and of what it is made up. */
  readonly transposing = signal<{ layerId: string; words: string } | null>(null);
  /** Where the drawer opens next time. */
  private lastTab: DrawerTab = 'touch';

  /** True while the ledger stands in the order of the patch. */
  readonly inOrder = signal(true);
  /** What had the focus when the drawer was opened. */
  opener: HTMLElement | null = null;

  /** Opens the drawer on the selected layer: at a part, or where it was last. */
  open(tab: DrawerTab = this.lastTab): void {
    this.lastTab = tab;
    if (this.drawer() === null) this.opener = document.activeElement as HTMLElement | null;
    this.drawer.set(tab);
  }

  close(): void {
    this.drawer.set(null);
  }
}
