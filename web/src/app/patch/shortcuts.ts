import { DestroyRef, inject } from '@angular/core';
import { tinykeys } from 'tinykeys';
import { ScreenHands } from '../live/hands/screen-hands';

/** A key of the Patch view: as tinykeys reads it, as it is shown, and what it does. */
export interface PatchShortcut {
  keys: string;
  shown: string;
  words: string;
  /** Gets the key that was pressed, for shortcuts of several keys. */
  run: (key: string) => void;
}

/**
 * Makes shortcuts work as long as the component lives: not while the caret is in a field, a menu or dialog is open, or the
 * letter keys play.
 */
export function useShortcuts(shortcuts: readonly PatchShortcut[]): void {
  const hands = inject(ScreenHands);
  const bindings: Record<string, (event: KeyboardEvent) => void> = {};
  for (const { keys, run } of shortcuts)
    for (const key of keys.split(','))
      bindings[key] = (event) => {
        const target = event.target as HTMLElement;
        if (hands.typing() || target.closest(ELSEWHERE) || document.querySelector(OVERLAY)) return;
        event.preventDefault();
        run(event.key);
      };
  inject(DestroyRef).onDestroy(tinykeys(window, bindings));
}

const ELSEWHERE =
  'input:not([type=checkbox]), textarea, select, .mat-mdc-menu-panel, mat-dialog-container';
/** What lies over the page while a menu or dialog is open. */
const OVERLAY = '.cdk-overlay-backdrop';
