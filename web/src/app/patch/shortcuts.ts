import { InputModalityDetector } from '@angular/cdk/a11y';
import { DestroyRef, inject } from '@angular/core';
import { tinykeys } from 'tinykeys';
import { ScreenHands } from '../live/hands/screen-hands';
import { StatusLine } from '../state/session/status-line';
import type { PatchCommand } from './patch-commands';

/**
 * Makes the keys of commands work as long as the component lives: not while the caret is in a field, a menu or dialog is open, or
 * the letter keys play, and no key that a control reached by keyboard needs itself. Why one cannot be carried out is told.
 */
export function useShortcuts(commands: readonly PatchCommand[]): void {
  const hands = inject(ScreenHands);
  const status = inject(StatusLine);
  const modality = inject(InputModalityDetector);
  // A click leaves the focus where it was made, but the hand has gone on.
  let byKeyboard = false;
  const focused = () => (byKeyboard = modality.mostRecentModality === 'keyboard');
  document.addEventListener('focusin', focused);
  const bindings: Record<string, (event: KeyboardEvent) => void> = {};
  for (const command of commands)
    for (const key of command.keys.split(',').filter(Boolean))
      bindings[key] = (event) => {
        const target = event.target as HTMLElement;
        if (hands.typing() || target.closest(ELSEWHERE) || document.querySelector(OVERLAY)) return;
        if (byKeyboard && isForControl(event, target)) return;
        event.preventDefault();
        const why = command.why();
        if (why === '') command.run(event.key);
        else status.say(`${command.words}: ${why}.`);
      };
  const stop = tinykeys(window, bindings);
  inject(DestroyRef).onDestroy(() => {
    document.removeEventListener('focusin', focused);
    stop();
  });
}

/**
 * Arrows, Enter, space and the keys that delete belong to the control that was reached by keyboard. None of these controls takes
 * a letter, a digit or a sign: those are shortcuts wherever the focus is.
 */
function isForControl(event: KeyboardEvent, target: HTMLElement): boolean {
  const alone = !event.ctrlKey && !event.metaKey && !event.altKey;
  const isSign = event.key.length === 1 && event.key !== ' ';
  return alone && !isSign && event.key !== 'Escape' && target.closest(CONTROLS) !== null;
}

const CONTROLS =
  'button, a[href], input, [role=tab], [role=slider], [role=checkbox], [role=switch], [role=radio], ' +
  '[role=option]';
const ELSEWHERE =
  'input:not([type=checkbox]), textarea, select, [role=listbox], [role=combobox], ' +
  '[role=menu], mat-dialog-container';
/** What lies over the page while a menu or dialog is open. */
const OVERLAY = '.cdk-overlay-backdrop';
