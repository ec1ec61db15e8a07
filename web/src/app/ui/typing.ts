/** Whether what is typed there is text or a value of its own, and no shortcut. */
export function takesTyping(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('input, textarea, select') !== null;
}

/** Whether it stands over the page, so that keys are meant for it alone. */
export function standsOver(target: EventTarget | null): boolean {
  return target instanceof Element && target.closest('mat-dialog-container, [role=menu]') !== null;
}
