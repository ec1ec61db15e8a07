/** A day of the calendar as `yyyy-mm-dd`; null for none. */
export function isoOf(day: Date | null): string | null {
  if (!day || Number.isNaN(day.getTime())) return null;
  const two = (part: number) => String(part).padStart(2, '0');
  const year = String(day.getFullYear()).padStart(4, '0');
  return `${year}-${two(day.getMonth() + 1)}-${two(day.getDate())}`;
}

/** The day that `yyyy-mm-dd` names, here and not in Greenwich. */
export function dayOf(date: string): Date {
  const [year, month, day] = date.split('-').map(Number);
  return new Date(year, month - 1, day);
}

/** Today as `yyyy-mm-dd`. */
export function today(): string {
  return isoOf(new Date()) ?? '';
}

/** The day after `yyyy-mm-dd`. */
export function dayAfter(date: string): string {
  const day = dayOf(date);
  day.setDate(day.getDate() + 1);
  return isoOf(day) ?? date;
}
