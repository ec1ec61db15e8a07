/** A time or a length in seconds, on whatever clock is meant. */
export type Seconds = number;
/** A place or a length on the show’s clock: quarter notes. */
export type Beats = number;
/** Tempo: quarter notes a minute. */
export type BeatsPerMinute = number;
/** A sample frame of the audio clock, counted from its start; 0 means “now”. */
export type Frame = number;

/** How long some beats last at a tempo. */
export function secondsOfBeats(beats: Beats, tempo: BeatsPerMinute): Seconds {
  return (beats * 60) / tempo;
}

/** How many beats pass in some seconds at a tempo. */
export function beatsOfSeconds(seconds: Seconds, tempo: BeatsPerMinute): Beats {
  return (seconds * tempo) / 60;
}

/** Minutes and seconds, `51:40`; hours only when there are any. */
export function clockTime(seconds: Seconds): string {
  const whole = Math.round(Math.abs(seconds));
  const hours = Math.floor(whole / 3600);
  const minutes = Math.floor((whole % 3600) / 60);
  const rest = String(whole % 60).padStart(2, '0');
  const sign = seconds < 0 ? '−' : '';
  return hours > 0
    ? `${sign}${hours}:${String(minutes).padStart(2, '0')}:${rest}`
    : `${sign}${minutes}:${rest}`;
}

/** The time of day so many seconds after another, `21:05`; begun minutes count, and it goes on past midnight. */
export function timeOfDay(from: string, seconds: Seconds): string {
  const [hours, minutes] = from.split(':').map(Number);
  const day = 24 * 60;
  const whole = (((hours * 60 + minutes + Math.floor(seconds / 60)) % day) + day) % day;
  return `${String(Math.floor(whole / 60)).padStart(2, '0')}:${String(whole % 60).padStart(2, '0')}`;
}

const DAYS = new Intl.DateTimeFormat('en-GB', {
  ...({ weekday: 'short', day: 'numeric', month: 'short', year: 'numeric' } as const),
  timeZone: 'UTC',
});

/** A day that `yyyy-mm-dd` names, in words: `Sat, 14 Aug 2027`. */
export function dayInWords(date: string): string {
  return DAYS.format(new Date(`${date}T00:00Z`));
}
