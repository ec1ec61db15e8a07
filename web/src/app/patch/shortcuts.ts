import { DestroyRef, inject } from '@angular/core';
import { tinykeys } from 'tinykeys';
import { ScreenHands } from '../live/hands/screen-hands';
import type { PatchCommand } from './patch-commands';

/**
 * Makes the keys of commands work as long as the component lives: not while the caret is in a field, a menu or dialog is
 * open, or the letter keys play.
 */
export function useShortcuts(commands: readonly PatchCommand[]): void {
  const hands = inject(ScreenHands);
  const bindings: Record<string, (event: KeyboardEvent) => void> = {};
  for (const command of commands)
    for (const key of command.keys.split(',').filter(Boolean))
      bindings[key] = (event) => {
        const target = event.target as HTMLElement;
        if (hands.typing() || target.closest(ELSEWHERE) || document.querySelector(OVERLAY)) return;
        event.preventDefault();
        if (command.why() === '') command.run(event.key);
      };
  inject(DestroyRef).onDestroy(tinykeys(window, bindings));
}

const ELSEWHERE =
  'input:not([type=checkbox]), textarea, select, [role=listbox], [role=combobox], ' +
  '[role=menu], mat-dialog-container';
/** What lies over the page while a menu or dialog is open. */
const OVERLAY = '.cdk-overlay-backdrop';
