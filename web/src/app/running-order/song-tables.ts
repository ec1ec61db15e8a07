import { inject, Injectable } from '@angular/core';
import { orderTable, repertoireTable } from '@pentachord/core/exchange';
import {
  compareNames,
  MOST_ENTRIES,
  songEntry,
  type OrderEntry,
  type Song,
} from '@pentachord/core/model';
import { songOfRow, songTonight } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import Papa from 'papaparse';
import { Editing } from '../state/editing/editing';
import { showEdits, type SongSettings } from '../state/editing/show-edits';
import { ShowEditing, USUAL_SECONDS } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectSession, selectShow, selectThings } from '../state/selectors';
import { StatusLine } from '../state/session/status-line';
import { Dialogs } from '../ui/dialogs/dialogs';
import { saveFile } from '../ui/files/save-file';
import { TableDialog, type TakenTable } from './table-dialog';

/** Running orders and the repertoire as tables, both ways. */
@Injectable({ providedIn: 'root' })
export class SongTables {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly editing = inject(ShowEditing);
  private readonly session = this.store.selectSignal(selectSession);
  private readonly dialogs = inject(Dialogs);
  private readonly status = inject(StatusLine);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly show = this.store.selectSignal(selectShow);

  /** Has songs of a table shown, and takes them if the player wants it. */
  async bringIn(): Promise<void> {
    const taken = await this.dialogs.open<undefined, TakenTable>(TableDialog, {
      ...{ width: '860px', maxWidth: '96vw' },
    });
    if (taken) this.take(taken);
  }

  /** Saves the running order, with songs as they are that night. */
  saveOrder(): void {
    const show = this.show();
    if (!show) return;
    const { songs } = this.things();
    const rows = orderTable(show.order, ({ songId, tonight }) =>
      songId in songs ? songTonight(songs[songId], tonight) : null,
    );
    this.save(`${show.name} ${show.date}`, rows);
  }

  /** Saves all songs, by name. */
  saveRepertoire(): void {
    const songs = Object.values(this.things().songs);
    this.save('Repertoire', repertoireTable(songs.sort((a, b) => compareNames(a.name, b.name))));
  }

  /** Takes the lines of a table: songs that are not there are written, all of it in one step. */
  private take({ rows, into, changesKnown }: TakenTable): void {
    const show = this.show();
    if (!show) return;
    const room = MOST_ENTRIES - show.order.length;
    const taken = into === 'night' ? rows.slice(0, room) : rows;
    const left = rows.length - taken.length;
    if (left > 0)
      this.status.say(`${left} lines are left out: a night has ${MOST_ENTRIES} places.`);
    const songs: Song[] = [];
    const changes: Record<string, SongSettings> = {};
    const byName = new Map<string, Song>();
    const entries = taken.map(({ row, known, changes: said }): OrderEntry => {
      const id = crypto.randomUUID();
      if (row.kind !== 'song')
        return {
          ...{ kind: row.kind, id, name: row.name },
          lengthSeconds: row.lengthSeconds ?? USUAL_SECONDS[row.kind],
        };
      // A song that stands there twice is one.
      const name = row.name.toLowerCase();
      const song = known ?? byName.get(name) ?? songOfRow(crypto.randomUUID(), row);
      if (known && changesKnown) changes[known.id] = { ...changes[known.id], ...said };
      if (!known && !byName.has(name)) songs.push(song);
      byName.set(name, song);
      return { ...songEntry(id, song.id), encore: row.encore };
    });
    const isNothing = songs.length === 0 && Object.keys(changes).length === 0;
    if (taken.length === 0) return;
    if (into === 'repertoire' && isNothing) {
      this.status.say('All of these songs are there already.');
      return;
    }
    this.door.do(
      showEdits.orderChanged({
        showId: show.id,
        order: into === 'night' ? [...show.order, ...entries] : show.order,
        words: taken.length === 1 ? 'a line taken' : `${taken.length} lines taken`,
        songs: songs.map((song) => ({ song, patches: [], cues: [] })),
        changes,
      }),
    );
    const first = entries.find((entry) => entry.kind === 'song');
    if (into === 'night' && first && this.session().songId === null)
      this.editing.goTo(first.id, first.songId);
  }

  private save(name: string, rows: string[][]): void {
    // Spreadsheets know by the mark at its beginning that it is UTF-8.
    saveFile(`${name}.csv`, `\uFEFF${Papa.unparse(rows, { newline: '\r\n' })}\r\n`, 'text/csv');
    this.status.say(`${rows.length - 1} lines were saved as “${name}.csv”.`);
  }
}
