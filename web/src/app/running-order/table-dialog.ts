import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatDialogModule, MatDialogRef } from '@angular/material/dialog';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatTableModule } from '@angular/material/table';
import {
  columnsOf,
  readSongTable,
  TABLE_COLUMNS,
  tableDoubtInWords,
  type TableColumn,
} from '@pentachord/core/exchange';
import { LONGEST_SONG_NOTES } from '@pentachord/core/model';
import { musicalKeyName } from '@pentachord/core/pitch';
import { meaningOf, type RowMeaning } from '@pentachord/core/setlist';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import Papa from 'papaparse';
import type { AppState } from '../state/reducers';
import { selectThings } from '../state/selectors';
import { PastedList } from '../ui/files/pasted-list';
import { pickFiles } from '../ui/recordings/pick-files';

/** Lines that are shown; the others are counted. */
const MOST_SHOWN = 200;
/** Lines that were not understood, of which as many are told. */
const MOST_DOUBTS = 20;
/** Letters of a line: one that is cut within a quotation would take the next ones with it. */
const LONGEST_LINE = 2 * LONGEST_SONG_NOTES;

/** What is to be taken of a table, and how. */
export interface TakenTable {
  rows: readonly RowMeaning[];
  /** Behind the others of this night, or into the repertoire alone. */
  into: 'night' | 'repertoire';
  /** Songs that are there take over what the table says of them. */
  changesKnown: boolean;
}

const COLUMN_NAMES: Readonly<Record<TableColumn, string>> = {
  name: 'name',
  number: 'number',
  key: 'key',
  fingered: 'hands in',
  sounding: 'sounds in',
  tempo: 'tempo',
  metre: 'metre',
  length: 'length',
  kind: 'kind',
  encore: 'encore',
  notes: 'notes',
};

/** Reads songs from a table or a list, and shows what they would become before anything is taken. */
@Component({
  selector: 'pc-table-dialog',
  imports: [
    MatButtonModule,
    MatCheckboxModule,
    MatDialogModule,
    MatFormFieldModule,
    MatSelectModule,
    MatTableModule,
    PastedList,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './table-dialog.html',
  styleUrl: './table-dialog.scss',
})
export class TableDialog {
  private readonly dialog = inject<MatDialogRef<TableDialog, TakenTable>>(MatDialogRef);
  private readonly things = inject<Store<AppState>>(Store).selectSignal(selectThings);
  protected readonly shown = ['line', 'name', 'key', 'tempo', 'length', 'becomes'];
  protected readonly columnNames = TABLE_COLUMNS.map((column) => ({
    column,
    name: COLUMN_NAMES[column],
  }));
  protected readonly text = signal('');
  protected readonly into = signal<TakenTable['into']>('night');
  protected readonly changesKnown = signal(false);
  /** Whether the first line says what stands below it; null for whatever it looks like. */
  private readonly isHeaded = signal<boolean | null>(null);
  /** Columns that were chosen otherwise than by their headings. */
  private readonly chosen = signal<ReadonlyMap<number, TableColumn | null>>(new Map());

  protected readonly longestLine = LONGEST_LINE;
  private readonly parsed = computed(() => {
    const text = this.text().trim();
    return text === '' ? null : Papa.parse<string[]>(text, { skipEmptyLines: false });
  });
  private readonly cells = computed(() => this.parsed()?.data ?? []);
  private readonly byHeadings = computed(() => columnsOf(this.cells()));
  protected readonly headed = computed(() => this.isHeaded() ?? this.byHeadings() !== null);
  private readonly columns = computed(() => {
    if (!this.headed()) return null;
    const first = this.cells().at(0) ?? [];
    const known = this.byHeadings();
    return first.map((_, at) =>
      this.chosen().has(at) ? (this.chosen().get(at) ?? null) : (known?.[at] ?? null),
    );
  });
  /** The headings, and what is understood by each. */
  protected readonly headings = computed(() => {
    const columns = this.columns();
    if (!columns) return [];
    return columns.map((column, at) => ({
      heading: this.cells()[0][at] || `column ${at + 1}`,
      column,
    }));
  });
  private readonly read = computed(() => readSongTable(this.cells(), this.columns()));
  protected readonly meanings = computed(() =>
    meaningOf(this.read().rows, Object.values(this.things().songs)),
  );
  protected readonly doubts = computed(() => {
    const quotes = this.parsed()?.errors.find(({ type }) => type === 'Quotes');
    const words = this.read().doubts.map(tableDoubtInWords);
    const more = words.length - MOST_DOUBTS;
    return [
      ...(quotes ? [`line ${(quotes.row ?? 0) + 1}: a quotation mark has no other one`] : []),
      ...words.slice(0, MOST_DOUBTS),
      ...(more > 0 ? [`and ${more} more`] : []),
    ];
  });
  protected readonly differing = computed(
    () => this.meanings().filter(({ changes }) => Object.keys(changes).length > 0).length,
  );
  protected readonly lines = computed(() =>
    this.meanings()
      .slice(0, MOST_SHOWN)
      .map(({ row, known, changes }) => {
        const key = row.fingered && musicalKeyName(row.fingered);
        const sounds = row.sounding && musicalKeyName(row.sounding);
        const differs = Object.keys(changes).map((one) => COLUMN_OF[one] ?? one);
        return {
          ...{ line: row.line, name: row.name, tempo: row.tempo ?? '', isNew: !known },
          key: key && key !== sounds ? `${key} → ${sounds ?? '–'}` : (sounds ?? ''),
          length: row.lengthSeconds === null ? '' : clockTime(row.lengthSeconds),
          becomes:
            row.kind !== 'song'
              ? row.kind
              : !known
                ? 'new song'
                : differs.length === 0
                  ? 'is there'
                  : `is there, with other ${differs.join(', ')}`,
        };
      }),
  );
  protected readonly more = computed(() => Math.max(0, this.meanings().length - MOST_SHOWN));
  protected readonly count = computed(() => {
    const songs = this.meanings().filter(({ row }) => row.kind === 'song');
    return this.into() === 'night' ? this.meanings().length : songs.length;
  });

  protected choose(at: number, column: TableColumn | null): void {
    this.chosen.update((chosen) => new Map([...chosen, [at, column]]));
  }

  protected head(isHeaded: boolean): void {
    this.isHeaded.set(isHeaded);
    this.chosen.set(new Map());
  }

  protected async pick(list: PastedList): Promise<void> {
    const file = (await pickFiles('files', '.csv,.tsv,.txt,text/*')).at(0);
    if (file) await list.read(new Blob([file.file]));
  }

  protected take(): void {
    const into = this.into();
    const rows = this.meanings().filter(({ row }) => into === 'night' || row.kind === 'song');
    this.dialog.close({ rows, into, changesKnown: this.changesKnown() });
  }

  protected set(text: string): void {
    this.text.set(text);
    this.isHeaded.set(null);
    this.chosen.set(new Map());
  }
}

/** What the parts of a song are called here. */
const COLUMN_OF: Readonly<Record<string, string | undefined>> = {
  fingered: 'key of the hands',
  sounding: 'sounding key',
  lengthSeconds: 'length',
};
