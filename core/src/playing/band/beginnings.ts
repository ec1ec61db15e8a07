import type { ShowClock } from '../../clock/show-clock.js';
import type { Begins } from '../../model/patch/begins.js';
import type { Beats } from '../../units/times.js';

/** The beats at which something can begin that is asked for now: one look at the clock for all that is asked for at once. */
export type Beginnings = Readonly<Record<Begins, Beats>>;

/** Nearer than this to where bars are counted from is there: time goes on while one asks. */
const AT_ONCE: Beats = 1e-3;

export function beginnings(clock: ShowClock): Beginnings {
  const now = clock.beats;
  const step = 4 / clock.metre.unit;
  const counted = Math.ceil((now - clock.firstBeat) / step - 1e-6);
  return {
    now,
    beat: clock.firstBeat + counted * step,
    bar: clock.barFrom(now),
    fourBars: clock.barFrom(now, 4),
  };
}

/** The same for the first who joins the clock: where nothing ran, all of it is now. */
export function firstBeginnings(clock: ShowClock): Beginnings {
  const bar = clock.joinAtBar();
  return bar <= clock.beats + AT_ONCE && bar === clock.firstBeat
    ? { now: bar, beat: bar, bar, fourBars: bar }
    : beginnings(clock);
}

/** Where a pattern would have begun that is now in its place in the bars, by the beats of its round. */
export function inItsBar(clock: ShowClock, round: Beats, now: Beats): Beats {
  const rounds = Math.floor((now - clock.firstBeat) / round + 1e-9);
  return clock.firstBeat + Math.max(0, rounds) * round;
}
