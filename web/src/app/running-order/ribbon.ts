import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import type { OrderEntry } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { cuesTonight, tonightInWords } from '@pentachord/core/setlist';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import type { AppState } from '../state/reducers';
import {
  selectCuesBySong,
  selectSession,
  selectShow,
  selectThings,
  selectTimeline,
  selectTotalSeconds,
} from '../state/selectors';
import { patchOfCue } from '../state/session/places';
import { session } from '../state/session/session';
import { StatusLine } from '../state/session/status-line';
import { InView } from '../ui/focus/in-view';
import { Roving, RovingItem } from '../ui/focus/roving';

/** The running order laid out in time: songs as wide as they are long, cues as ticks. */
@Component({
  selector: 'pc-ribbon',
  imports: [InView, Roving, RovingItem],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ribbon.html',
  styleUrl: './ribbon.scss',
})
export class Ribbon {
  /** Without the songs to scale: where the view shows the whole night itself. */
  readonly bare = input(false);
  private readonly store = inject<Store<AppState>>(Store);
  protected readonly status = inject(StatusLine);
  /** What is told of the song under the hand. */
  protected readonly reading = signal('');
  protected readonly show = this.store.selectSignal(selectShow);
  private readonly entries = this.store.selectSignal(selectTimeline);
  private readonly cues = this.store.selectSignal(selectCuesBySong);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly total = this.store.selectSignal(selectTotalSeconds);
  private readonly place = this.store.selectSignal(selectSession);

  protected readonly totals = computed(() => {
    const slot = this.show()?.slotSeconds ?? 0;
    const total = this.total();
    const songs = this.entries().filter((e) => e.song).length;
    return {
      songs: songs === 1 ? '1 song' : `${songs} songs`,
      total: clockTime(total),
      slot: clockTime(slot),
      over: total > slot ? clockTime(total - slot) : null,
    };
  });

  protected readonly blocks = computed(() => {
    const { entryId, cueId } = this.place();
    return this.entries().map(({ entry, song, name, start, lengthSeconds, counts }) => ({
      id: entry.id,
      songId: song?.id ?? null,
      kind: entry.kind,
      encore: !counts,
      tonight: entry.kind === 'song' && entry.tonight !== null,
      name,
      length: lengthSeconds,
      title: titleOf(name, lengthSeconds, start, this.nightOf(entry), counts),
      facts: song ? `${musicalKeyName(song.sounding)} · ${song.tempo}` : clockTime(lengthSeconds),
      current: entry.id === entryId,
      cues: song
        ? cuesTonight(
            this.cues().get(song.id) ?? [],
            entry.kind === 'song' ? entry.tonight : null,
          ).map((cue) => ({
            id: cue.id,
            name: cue.name,
            current: entry.id === entryId && cue.id === cueId,
          }))
        : [],
    }));
  });

  /** The current song with its cues. */
  protected readonly current = computed(() => {
    const block = this.blocks().find((b) => b.current);
    return block?.songId
      ? { entryId: block.id, name: block.name, songId: block.songId, cues: block.cues }
      : null;
  });

  protected openSong(entryId: string, songId: string, firstCue: string | undefined): void {
    this.openCue(entryId, songId, firstCue ?? null);
  }

  /** A cue that is chosen is heard and edited with its balance from then on. */
  protected chooseCue(entryId: string, songId: string, cueId: string): void {
    this.store.dispatch(session.balanceChosen({ balance: 'cue' }));
    this.openCue(entryId, songId, cueId);
  }

  private openCue(entryId: string, songId: string, cueId: string | null): void {
    const patchId = patchOfCue(this.things(), songId, cueId);
    this.store.dispatch(session.cueReached({ entryId, songId, cueId, patchId }));
  }

  private nightOf(entry: OrderEntry): string {
    const song = entry.kind === 'song' ? this.things().songs[entry.songId] : undefined;
    return entry.kind === 'song' && song && entry.tonight
      ? tonightInWords(song, entry.tonight)
      : '';
  }
}

function titleOf(
  name: string,
  lengthSeconds: number,
  start: number,
  tonight: string,
  counts: boolean,
): string {
  const words = [name, clockTime(lengthSeconds), `begins at ${clockTime(start)}`];
  if (!counts) words.push('an encore');
  if (tonight) words.push(`tonight ${tonight}`);
  return words.join(', ');
}
