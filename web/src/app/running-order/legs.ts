import { inject, Injectable, computed } from '@angular/core';
import { CdkDragDrop } from '@angular/cdk/drag-drop';
import type { Cue, OrderEntry, Song } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { cuesTonight, tonightInWords, type TimedEntry } from '@pentachord/core/setlist';
import { clockTime, timeOfDay } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import {
  selectCuesBySong,
  selectOverrun,
  selectSession,
  selectShow,
  selectThings,
  selectTimeline,
} from '../state/selectors';
import { EntrySelection } from './entry-selection';

/** One leg of the night, as the plan and the log show it. */
export interface Leg {
  id: string;
  entry: OrderEntry;
  song: Song | null;
  name: string;
  /** Number among the songs; null for what stands between. */
  number: number | null;
  hands: string;
  sounds: string;
  tempo: string;
  cues: readonly Cue[];
  length: string;
  start: number;
  seconds: number;
  begins: string;
  /** What is otherwise tonight, in words; empty when nothing is. */
  tonight: string;
  encore: boolean;
  /** How often the song has stood there before. */
  again: number;
  /** True when it does not end within the slot. */
  over: boolean;
}

/** The night as legs, and what drags and keys do with them. */
@Injectable()
export class Legs {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(ShowEditing);
  private readonly selection = inject(EntrySelection);
  private readonly show = this.store.selectSignal(selectShow);
  private readonly timeline = this.store.selectSignal(selectTimeline);
  private readonly cues = this.store.selectSignal(selectCuesBySong);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly overrun = this.store.selectSignal(selectOverrun);
  readonly place = this.store.selectSignal(selectSession);

  readonly all = computed((): readonly Leg[] => {
    const start = this.show()?.start ?? null;
    const slot = this.show()?.slotSeconds ?? 0;
    const seen = new Map<string, number>();
    let songs = 0;
    return this.timeline().map((timed): Leg => {
      const { entry, song, name } = timed;
      const again = song ? (seen.get(song.id) ?? 0) : 0;
      if (song) seen.set(song.id, again + 1);
      const tonight = entry.kind === 'song' ? entry.tonight : null;
      return {
        id: entry.id,
        entry,
        song,
        name,
        number: song ? ++songs : null,
        hands: song ? musicalKeyName(song.fingered) : '',
        sounds: song ? musicalKeyName(song.sounding) : '',
        tempo: song ? String(song.tempo) : '',
        cues: song ? cuesTonight(this.cues().get(song.id) ?? [], tonight) : [],
        length: clockTime(timed.lengthSeconds),
        seconds: timed.lengthSeconds,
        start: timed.start,
        begins: start === null ? clockTime(timed.start) : timeOfDay(start, timed.start),
        tonight: this.nightOf(timed),
        encore: !timed.counts,
        again,
        over: timed.counts && timed.start + timed.lengthSeconds > slot && this.overrun() !== null,
      };
    });
  });

  /** Something was dropped: it, or all that is selected with it, stands there from now on. */
  drop({ previousIndex, currentIndex }: CdkDragDrop<unknown>): void {
    const legs = this.all();
    const moved = legs[previousIndex];
    if (previousIndex === currentIndex) return;
    const rest = legs.filter(({ id }) => id !== moved.id);
    this.editing.move(this.selection.with(moved.id), rest.at(currentIndex)?.id ?? null);
  }

  choose(leg: Leg, event: MouseEvent | KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey) this.selection.toggle(leg.id);
    else if (event.shiftKey) this.selection.through(leg.id);
    else {
      this.selection.only(leg.id);
      if (leg.song) this.editing.goTo(leg.id, leg.song.id);
    }
  }

  /** What keys do on a leg, where these two lead to the front and to the back; true when it was one of them. */
  key(event: KeyboardEvent, leg: Leg, front: string, back: string): boolean {
    const chosen = this.selection.with(leg.id);
    const way = event.key === back ? 1 : event.key === front ? -1 : 0;
    if (way !== 0 && event.altKey) this.editing.moveByOne(chosen, way);
    else if (event.key === ' ') this.selection.toggle(leg.id);
    else if (event.key === 'Enter') this.choose(leg, event);
    else if (event.key === 'Delete' || event.key === 'Backspace')
      this.editing.removeEntries(chosen);
    else return false;
    event.preventDefault();
    event.stopPropagation();
    return true;
  }

  private nightOf({ entry }: TimedEntry): string {
    if (entry.kind !== 'song' || !entry.tonight) return '';
    const song = this.things().songs[entry.songId] as Song | undefined;
    return song ? tonightInWords(song, entry.tonight) : '';
  }
}
