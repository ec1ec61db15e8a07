import { Leading, ShowClock } from '@pentachord/core/clock';
import { START_CLOCK, TIMING_CLOCK } from '@pentachord/core/midi';
import { Chance } from './chance.js';
import type { Finding } from './finding.js';

/** Seconds of one leader: even ticks, then bursts, then even ticks again. */
const EVEN = 5;
const BURSTS = 30;
const LENGTH = 40;
/** Seconds until a follower has met its leader. */
const MET = 3;
/** Times at which a follower looks at its clock, seconds apart. */
const LOOKS = 0.004;

/** How far a follower strays at most from a leader whose ticks come 30–250 ms apart, seconds. */
function straying(seed: number): number {
  const chance = new Chance(seed);
  const tempo = chance.whole(60, 180);
  const period = 60 / tempo / 24;
  let now = 0;
  const clock = new ShowClock(() => now);
  const leading = new Leading(clock);
  leading.follow('leader');
  clock.join();
  let next = 0;
  let delivered = 0;
  let most = 0;
  let counted = 0;
  leading.take('leader', START_CLOCK, 0, 0, 0);
  for (let at = 0; at < LENGTH; at += LOOKS) {
    now = at;
    if (at >= next) {
      while (delivered * period <= at) {
        leading.take('leader', TIMING_CLOCK, 0, 0, at);
        delivered++;
      }
      const isInBursts = at > EVEN && at < EVEN + BURSTS;
      next = isInBursts ? at + chance.whole(30, 250) / 1000 : delivered * period;
    }
    leading.look();
    // Bars are counted from where both met.
    const apart = clock.beatsInBars - (at * tempo) / 60;
    if (at < MET) counted = Math.round(apart);
    else most = Math.max(most, (Math.abs(apart - counted) * 60) / tempo);
  }
  return most;
}

/** Leaders whose ticks come in bursts for half a minute. */
export function followInBursts(seeds = 20): Finding[] {
  const strayed = Array.from({ length: seeds }, (_, seed) => straying(seed + 1)).sort(
    (a, b) => a - b,
  );
  const median = strayed[Math.floor(seeds / 2)];
  const most = strayed[seeds - 1];
  return [
    {
      what: `leaders whose ticks come in bursts, 30–250 ms apart (${seeds} of ${LENGTH} s): straying, median and most`,
      found: `${median.toFixed(2)} s, ${most.toFixed(2)} s`,
      promised: '0.1 s, 0.3 s',
      holds: median <= 0.1 && most <= 0.3,
    },
  ];
}
