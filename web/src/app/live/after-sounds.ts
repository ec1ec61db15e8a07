import { inject } from '@angular/core';
import { delay, filter, interval, race, take, timer, type Observable } from 'rxjs';
import { Live } from './live';

/** Milliseconds between two looks at how far the sounds are. */
const LOOKED_EVERY = 250;
/** Milliseconds that are left to measuring the machine, which comes last. */
const LEFT_TO_MEASURING = 2000;
/** Milliseconds after which it is told in any case. */
const AT_LATEST = 15_000;

/**
 * Tells once, when the sounds of the show are made. What the browser keeps of the program begins then: while it is fetched and
 * laid down, every request of the page waits, and on a first visit sound would wait with it. To be called where things can
 * be injected.
 */
export function afterSounds(): Observable<unknown> {
  const { sounds } = inject(Live);
  const made = interval(LOOKED_EVERY).pipe(
    filter(() => sounds.progress.of > 0 && sounds.progress.ready >= sounds.progress.of),
    take(1),
    delay(LEFT_TO_MEASURING),
  );
  return race(made, timer(AT_LATEST)).pipe(take(1));
}
