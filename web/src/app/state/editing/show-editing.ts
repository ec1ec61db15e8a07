import { computed, inject, Injectable } from '@angular/core';
import {
  cutText,
  freeName,
  LONGEST_NAME,
  MOST_ENTRIES,
  newShow,
  nextName,
  songEntry,
  usualControls,
  type GapEntry,
  type OrderEntry,
  type Show,
  type Song,
  type Tonight,
} from '@pentachord/core/model';
import {
  changedTonight,
  copyOfShow,
  movedByOne,
  movedTogether,
  showsWith,
  songEntryOf,
  songOfLine,
  type SongLine,
} from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectSession, selectShow, selectThings } from '../selectors';
import { placeInSong } from '../session/places';
import { session } from '../session/session';
import { StatusLine } from '../session/status-line';
import { showToOpen } from '../show/document';
import { Editing } from './editing';
import { devicesOf } from './rig-editing';
import { showEdits, type ShowSettings } from './show-edits';

/** How long what stands between songs is at first, in seconds. */
export const USUAL_SECONDS: Record<GapEntry['kind'], number> = {
  talk: 60,
  break: 900,
  changeover: 600,
};

/** Edits of shows and of the running order of the open one. */
@Injectable({ providedIn: 'root' })
export class ShowEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly status = inject(StatusLine);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly session = this.store.selectSignal(selectSession);
  readonly show = this.store.selectSignal(selectShow);

  /** Why nothing more goes into the running order; an empty text when something does. */
  readonly full = computed(() =>
    (this.show()?.order.length ?? 0) >= MOST_ENTRIES
      ? `a night has ${MOST_ENTRIES} places at most`
      : '',
  );

  /** Makes an empty show for today, on the rig of the one that is open, else the first there is, and opens it. */
  newShow(today: string): string | null {
    const { shows, rigs, devices } = this.things();
    const rigId = this.show()?.rigId ?? Object.keys(rigs).at(0);
    if (rigId === undefined) {
      this.status.say(
        'There is no rig to play a show on. Nothing was made; look into the backups.',
      );
      return null;
    }
    const names = Object.values(shows).map(({ name }) => name);
    // Pads and pedals do on every night what they did on the last one.
    const before = this.show() ?? Object.values(shows).find((show) => show.rigId === rigId);
    const show: Show = {
      ...newShow(crypto.randomUUID(), freeName('New show', names), today, rigId),
      controls: before?.controls ?? usualControls(devicesOf(devices, rigId)),
      middleC: before?.middleC ?? 4,
    };
    this.door.do(showEdits.showAdded({ show }));
    this.open(show.id);
    return show.id;
  }

  /** What a copy of a show is called when nobody says otherwise. */
  nameOfCopy(show: Show): string {
    return nextName(
      show.name,
      Object.values(this.things().shows).map(({ name }) => name),
    );
  }

  /** Makes a copy for another night; the show that is open stays open. */
  copyShow(show: Show, { name, date }: Pick<Show, 'name' | 'date'>): void {
    const copy = copyOfShow(show, { id: crypto.randomUUID(), name, date }, () =>
      crypto.randomUUID(),
    );
    this.door.do(showEdits.showAdded({ show: copy }));
    const open = this.show();
    const stays = open ? ` ${open.name} stays open.` : '';
    this.status.say(
      `“${copy.name}” has the songs of ${show.name}, and nothing of that one night.${stays}`,
    );
  }

  open(showId: string): void {
    this.store.dispatch(session.showOpened({ showId }));
  }

  change(showId: string, changes: ShowSettings, gesture?: string): void {
    this.door.do(showEdits.showChanged({ showId, changes, gesture }));
  }

  /** Puts a show out of the way, or brings it back. The open one gives way to another. */
  putAway(show: Show, putAway: boolean): void {
    this.change(show.id, { putAway });
    this.status.say(putAway ? `“${show.name}” is put away.` : `“${show.name}” is back.`);
    if (putAway && show.id === this.show()?.id) this.openAnother(show.id);
  }

  /** Removes a show; its songs stay in the repertoire. */
  remove(show: Show): void {
    const wasOpen = show.id === this.show()?.id;
    this.door.do(showEdits.showRemoved({ showId: show.id }));
    this.status.say(`“${show.name}” is removed. Its songs stay in the repertoire.`);
    if (wasOpen) this.openAnother(show.id);
  }

  /** Puts a song of the repertoire before an entry (null: at the end), and goes there. */
  addSong(song: Song, before: string | null = null): void {
    this.insert(songEntry(crypto.randomUUID(), song.id), before, `“${song.name}” added`);
  }

  /** Writes a song of which no more is known than a line says, before an entry (null: at the end). */
  writeSong(line: SongLine, before: string | null = null): void {
    const song = songOfLine(crypto.randomUUID(), {
      ...line,
      name: cutText(line.name, LONGEST_NAME),
    });
    const entry = songEntry(crypto.randomUUID(), song.id);
    this.insert(entry, before, `“${song.name}” written`, song);
  }

  /** Puts talk or a break before an entry (null: at the end); gives its id, null where nothing more goes in. */
  addGap(kind: GapEntry['kind'], before: string | null = null): string | null {
    if (this.full()) {
      this.sayFull();
      return null;
    }
    const entry: GapEntry = {
      ...{ kind, id: crypto.randomUUID(), name: kind },
      lengthSeconds: USUAL_SECONDS[kind],
    };
    this.insert(entry, before, `${kind} added`);
    return entry.id;
  }

  /** Moves entries together before another one (null: to the end). */
  move(ids: ReadonlySet<string>, before: string | null, gesture?: string): void {
    this.reorder((order) => movedTogether(order, ids, before), wordsOf(ids, 'moved'), gesture);
  }

  moveByOne(ids: ReadonlySet<string>, by: 1 | -1): void {
    this.reorder((order) => movedByOne(order, ids, by), wordsOf(ids, 'moved'));
  }

  /** Takes entries out of the night; songs stay in the repertoire. */
  removeEntries(ids: ReadonlySet<string>): void {
    this.reorder((order) => order.filter(({ id }) => !ids.has(id)), wordsOf(ids, 'taken out'));
  }

  /** Changes name or length of what stands between songs. */
  changeGap(
    entryId: string,
    changes: Partial<Pick<GapEntry, 'name' | 'lengthSeconds' | 'kind'>>,
    gesture?: string,
  ): void {
    this.reorder(
      (order) =>
        order.map((e) => (e.id === entryId && e.kind !== 'song' ? { ...e, ...changes } : e)),
      'length or name changed',
      gesture,
    );
  }

  setEncore(entryId: string, encore: boolean): void {
    this.reorder(
      (order) => order.map((e) => (e.id === entryId && e.kind === 'song' ? { ...e, encore } : e)),
      encore ? 'made an encore' : 'counted again',
    );
  }

  /** Has something of a song otherwise this night alone; undefined for as it is written. */
  changeTonight(entryId: string, changes: Partial<Tonight>, gesture?: string): void {
    const show = this.show();
    const entry = show && songEntryOf(show, entryId);
    const song = entry && (this.things().songs[entry.songId] as Song | undefined);
    if (!show || !entry || !song) return;
    this.door.do(
      showEdits.tonightChanged({
        showId: show.id,
        entryId,
        tonight: changedTonight(song, entry.tonight, changes),
        words: `tonight’s ${song.name} changed`,
        gesture,
      }),
    );
  }

  /** What is otherwise tonight holds for good, in every show of the song. */
  keepTonight(entryId: string): void {
    const show = this.show();
    const entry = show && songEntryOf(show, entryId);
    if (!show || !entry) return;
    this.door.do(showEdits.tonightKept({ showId: show.id, entryId }));
    const others = showsWith(entry.songId, Object.values(this.things().shows)).filter(
      ({ id }) => id !== show.id,
    );
    const where = others.length > 0 ? `, also in ${others.map(({ name }) => name).join(', ')}` : '';
    this.status.say(`Tonight’s changes hold for good now${where}.`);
  }

  /** What is otherwise tonight is forgotten. */
  dropTonight(entryId: string): void {
    const show = this.show();
    if (!show) return;
    this.door.do(
      showEdits.tonightChanged({
        showId: show.id,
        entryId,
        tonight: null,
        words: 'tonight dropped',
      }),
    );
  }

  /** Takes a song out of the repertoire; where other shows need it, out of the open one alone, and says which these are. */
  removeSong(song: Song): void {
    const show = this.show();
    const others = showsWith(song.id, Object.values(this.things().shows)).filter(
      ({ id }) => id !== show?.id,
    );
    this.door.do(showEdits.songRemoved({ songId: song.id, showId: show?.id ?? null }));
    this.status.say(
      others.length > 0
        ? `“${song.name}” is out of this show. It stays in the repertoire: ${others.map(({ name }) => name).join(', ')} ${others.length > 1 ? 'need' : 'needs'} it.`
        : `“${song.name}” is removed from the repertoire, with its patches and cues.`,
    );
  }

  /** Goes to a place in the running order, or to a song outside of it (null): its first cue. */
  goTo(entryId: string | null, songId: string): void {
    this.store.dispatch(session.cueReached(placeInSong(this.things(), songId, entryId)));
  }

  private insert(entry: OrderEntry, before: string | null, words: string, song?: Song): void {
    const show = this.show();
    if (!show) return;
    if (this.full()) {
      this.sayFull();
      return;
    }
    const at = before === null ? -1 : show.order.findIndex(({ id }) => id === before);
    const order = at < 0 ? [...show.order, entry] : show.order.toSpliced(at, 0, entry);
    const songs = song ? [{ song, patches: [], cues: [] }] : undefined;
    this.door.do(showEdits.orderChanged({ showId: show.id, order, words, songs }));
    // Where nothing is current yet, this is.
    if (entry.kind === 'song' && this.session().songId === null) this.goTo(entry.id, entry.songId);
  }

  private sayFull(): void {
    this.status.say(`Nothing was added: ${this.full()}.`);
  }

  private reorder(
    change: (order: readonly OrderEntry[]) => OrderEntry[],
    words: string,
    gesture?: string,
  ): void {
    const show = this.show();
    if (!show) return;
    const order = change(show.order);
    const isSame = order.length === show.order.length && order.every((e, i) => e === show.order[i]);
    if (!isSame) this.door.do(showEdits.orderChanged({ showId: show.id, order, words, gesture }));
  }

  private openAnother(closed: string): void {
    const others = Object.values(this.things().shows).filter(({ id }) => id !== closed);
    this.store.dispatch(session.showOpened({ showId: showToOpen(others, null) }));
  }
}

function wordsOf(ids: ReadonlySet<string>, done: string): string {
  return ids.size === 1 ? `one place ${done}` : `${ids.size} places ${done}`;
}
