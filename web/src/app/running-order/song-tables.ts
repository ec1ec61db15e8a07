import { inject, Injectable } from '@angular/core';
import { orderTable, repertoireTable } from '@pentachord/core/exchange';
import { compareNames } from '@pentachord/core/model';
import { songTonight } from '@pentachord/core/setlist';
import { Store } from '@ngrx/store';
import Papa from 'papaparse';
import { ShowEditing } from '../state/editing/show-editing';
import type { AppState } from '../state/reducers';
import { selectShow, selectThings } from '../state/selectors';
import { StatusLine } from '../state/session/status-line';
import { Dialogs } from '../ui/dialogs/dialogs';
import { saveFile } from '../ui/files/save-file';
import { TableDialog, type TakenTable } from './table-dialog';

/** Running orders and the repertoire as tables, both ways. */
@Injectable({ providedIn: 'root' })
export class SongTables {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly editing = inject(ShowEditing);
  private readonly dialogs = inject(Dialogs);
  private readonly status = inject(StatusLine);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly show = this.store.selectSignal(selectShow);

  /** Has songs of a table shown, and takes them if the player wants it. */
  async bringIn(): Promise<void> {
    const taken = await this.dialogs.open<undefined, TakenTable>(TableDialog, {
      ...{ width: '860px', maxWidth: '96vw' },
    });
    if (taken) this.editing.takeTable(taken);
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

  private save(name: string, rows: string[][]): void {
    // Spreadsheets know by the mark at its beginning that it is UTF-8.
    saveFile(`${name}.csv`, `\uFEFF${Papa.unparse(rows, { newline: '\r\n' })}\r\n`, 'text/csv');
    this.status.say(`${rows.length - 1} lines were saved as “${name}.csv”.`);
  }
}
