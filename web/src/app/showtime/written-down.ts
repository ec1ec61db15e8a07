import { DestroyRef, effect, inject, untracked, type Signal } from '@angular/core';
import type { Show } from '@pentachord/core/model';
import { Live } from '../live/live';
import { Logbook } from '../live/logbook/logbook';

/**
 * Has what is played in Showtime written down as long as it is open and this window plays; gives back what is wrong with that,
 * in words.
 */
export function writtenDown(show: Signal<Show | null>): Signal<string> {
  const { window } = inject(Live);
  const logbook = inject(Logbook);
  effect(() => {
    const played = show();
    const plays = window.plays();
    untracked(() => {
      // Another window goes on with what it writes; this one begins another take when it plays again.
      if (!plays) logbook.end();
      else if (played) void logbook.follow('showtime', played.id, played.name);
    });
  });
  inject(DestroyRef).onDestroy(() => logbook.end());
  return logbook.problem;
}
