import { inject, signal, type Signal } from '@angular/core';
import type { ReadyPattern } from '@pentachord/core/patterns';
import type { CompiledPatch } from '@pentachord/core/routing';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';

/** Steps of a round that its place is told in: finer ones nobody sees. */
const PLACES = 96;

/** What an accompanist does at this moment. */
export interface Looked {
  /** The pattern that plays, and the one that waits; null for none. */
  playing: ReadyPattern | null;
  next: ReadyPattern | null;
  /** How far it is in its round, 0 … 1; null while nothing plays. */
  place: number | null;
  /** Whole beats until the next begins. */
  beatsToNext: number;
  /** It stops at a beat that is to come, and nothing follows. */
  isEnding: boolean;
}

export const AT_REST: Looked = {
  ...{ playing: null, next: null, place: null, beatsToNext: 0, isEnding: false },
};

/** What each accompanist of a patch does, looked at once a frame. To be called where it can inject. */
export function bandLooks(compiled: () => CompiledPatch | null): Signal<readonly Looked[]> {
  const live = inject(Live);
  const looks = signal<readonly Looked[]>([], { equal: dequal });
  eachFrame(() => {
    const band = compiled()?.band.accompanists ?? [];
    if (band.length === 0 && looks().length === 0) return;
    looks.set(
      band.map(({ id }): Looked => {
        const { playing, next, place, beatsToNext, isEnding } = live.band.look(id);
        return {
          ...{ playing, next, isEnding, beatsToNext: Math.ceil(beatsToNext) },
          place: playing ? Math.floor(place * PLACES) / PLACES : null,
        };
      }),
    );
  });
  return looks;
}

/** What comes next, in words; empty for nothing. */
export function nextInWords({ next, beatsToNext, isEnding }: Looked): string {
  if (!next) return isEnding ? 'then rests' : '';
  return `then ${next.name}, in ${beatsToNext} ${beatsToNext === 1 ? 'beat' : 'beats'}`;
}
