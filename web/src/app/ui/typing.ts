/** Whether something takes what is typed for itself: a field, or whatever else is named by a selector. */
export function takesTyping(target: EventTarget | null, others = ''): boolean {
  if (!(target instanceof Element)) return false;
  return target.closest(`input, textarea, select${others && `, ${others}`}`) !== null;
}
