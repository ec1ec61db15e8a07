/** What was typed as `HH:MM`: 20:15, 20.15, 2015 and 8 are read; null for nothing, undefined for what is no time. */
export function readTimeOfDay(text: string): string | null | undefined {
  const typed = text.trim();
  if (typed === '') return null;
  const [, hours, minutes = '00'] = /^(\d{1,2})(?:[:.h ]?(\d{2}))?$/.exec(typed) ?? [];
  if (hours === undefined || Number(hours) > 23 || Number(minutes) > 59) return undefined;
  return `${hours.padStart(2, '0')}:${minutes}`;
}
