import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatChipsModule } from '@angular/material/chips';
import { Router } from '@angular/router';
import {
  MOST_ZONES,
  recordingsOfSound,
  secondsOf,
  shortName,
  type Recording,
} from '@pentachord/core/model';
import { rootOf } from '@pentachord/core/mapping';
import { noteName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { BringingIn, type FileToBring } from '../../state/recordings/bringing-in';
import { Outlines } from '../../state/recordings/outlines';
import { recordings } from '../../state/recordings/recordings';
import { selectRecordingKeeping, selectRecordingList } from '../../state/recordings/selectors';
import { RecordingsApi } from '../../state/recordings/recordings-api';
import { SoundMaking } from '../../state/recordings/sound-making';
import type { AppState } from '../../state/reducers';
import { selectDatabase, selectMiddleC, selectSounds } from '../../state/selectors';
import { StatusLine } from '../../state/session/status-line';
import { Dialogs } from '../../ui/dialogs/dialogs';
import { BroughtLines } from '../../ui/recordings/brought-lines';
import { DropFiles } from '../../ui/recordings/drop-files';
import { FileButtons } from '../../ui/recordings/file-buttons';
import { Outline } from '../../ui/recordings/outline';

/** The recordings: bringing them in, looking at what was heard in them, and making sounds of them. */
@Component({
  selector: 'pc-recordings-view',
  imports: [
    BroughtLines,
    DropFiles,
    FileButtons,
    MatButtonModule,
    MatCheckboxModule,
    MatChipsModule,
    MatFormFieldModule,
    MatInputModule,
    Outline,
    ScrollingModule,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './recordings-view.html',
  styleUrl: './recordings-view.scss',
})
export class RecordingsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly router = inject(Router);
  private readonly dialogs = inject(Dialogs);
  private readonly api = inject(RecordingsApi);
  private readonly status = inject(StatusLine);
  private readonly making = inject(SoundMaking);
  private readonly outlines = inject(Outlines);
  protected readonly bringing = inject(BringingIn);
  private readonly all = this.store.selectSignal(selectRecordingList);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly database = this.store.selectSignal(selectDatabase);
  protected readonly keeping = this.store.selectSignal(selectRecordingKeeping);
  protected readonly words = signal('');
  /** Only those that nothing needs are listed. */
  protected readonly onlyUnused = signal(false);
  private readonly marked = signal<ReadonlySet<string>>(new Set());

  /** Names of the sounds that need each recording. */
  private readonly users = computed(() => {
    const users = new Map<string, string[]>();
    for (const sound of this.sounds().values())
      for (const id of recordingsOfSound(sound))
        users.set(id, [...(users.get(id) ?? []), sound.name]);
    return users;
  });
  private readonly rows = computed(() => {
    const all = this.all();
    const named = this.making.middleC(all);
    const users = this.users();
    return all.map((recording) => ({
      recording,
      name: shortName(recording),
      about: this.aboutOf(recording),
      root: this.rootInWords(recording, rootOf(recording, named).key),
      used: users.get(recording.id)?.join(', ') ?? '',
    }));
  });
  protected readonly found = computed(() => {
    const words = this.words().trim().toLowerCase().split(/\s+/).filter(Boolean);
    const text = (row: { name: string; used: string }) => `${row.name} ${row.used}`.toLowerCase();
    const unused = new Set(this.keeping()?.unused.map(({ id }) => id));
    return this.rows().filter(
      (row) =>
        words.every((word) => text(row).includes(word)) &&
        (!this.onlyUnused() || unused.has(row.recording.id)),
    );
  });
  protected readonly chosen = computed(() => this.all().filter(({ id }) => this.marked().has(id)));
  protected readonly areAllMarked = computed(() => {
    const found = this.found();
    return found.length > 0 && found.every(({ recording }) => this.marked().has(recording.id));
  });
  protected readonly megabytes = computed(() => megabytesOf(this.keeping()?.bytes ?? 0));
  protected readonly unusedMegabytes = computed(() =>
    megabytesOf((this.keeping()?.unused ?? []).reduce((sum, { bytes }) => sum + bytes, 0)),
  );

  constructor() {
    this.store.dispatch(recordings.keepingAsked());
  }

  protected async take(files: readonly FileToBring[]): Promise<void> {
    const taken = await this.bringing.bring(files);
    this.marked.set(new Set(taken.map(({ id }) => id)));
  }

  protected isMarked(id: string): boolean {
    return this.marked().has(id);
  }

  protected mark(id: string, isMarked: boolean): void {
    this.marked.update((before) => {
      const after = new Set(before);
      if (isMarked) after.add(id);
      else after.delete(id);
      return after;
    });
  }

  protected markAll(areMarked: boolean): void {
    this.marked.set(new Set(areMarked ? this.found().map(({ recording }) => recording.id) : []));
  }

  protected outlineOf(id: string): Int8Array | null {
    return this.outlines.of(id);
  }

  protected async makeSound(): Promise<void> {
    const chosen = this.chosen();
    const soundId = this.making.make(chosen);
    if (chosen.length > MOST_ZONES)
      this.status.say(`A sound has ${MOST_ZONES} zones at most: the others were left out.`);
    await this.router.navigateByUrl(`/library/sounds/${soundId}/zones`);
  }

  protected async recordNote(): Promise<void> {
    const { RecordNoteDialog } = await import('./record-note-dialog');
    const file = await this.dialogs.open<undefined, FileToBring>(RecordNoteDialog, {
      width: '520px',
    });
    if (file) await this.take([file]);
  }

  /** Clears away what no sound and no backup needs; of what is marked where something is. */
  protected async clearUnused(): Promise<void> {
    const ids = (this.keeping()?.unused ?? []).map(({ id }) => id);
    try {
      const cleared = await this.api.clear(ids, this.database());
      this.onlyUnused.set(false);
      this.status.say(`${cleared} unused recordings are cleared away.`);
      this.store.dispatch(recordings.listed({ recordings: await this.api.list() }));
    } catch (error) {
      this.status.say(
        error instanceof TypeError
          ? 'The server does not answer. Nothing was cleared away.'
          : String((error as Error).message),
      );
    }
    this.store.dispatch(recordings.keepingAsked());
  }

  protected idOf(_index: number, { recording }: { recording: Recording }): string {
    return recording.id;
  }

  private rootInWords({ heard }: Recording, key: number | null): string {
    if (key === null) return 'no pitch';
    const cents = heard.pitch?.key === key ? Math.round(heard.pitch.cents) : 0;
    const off = cents === 0 ? '' : ` ${cents > 0 ? '+' : '−'}${Math.abs(cents)} ct`;
    return noteName(key, this.middleC()) + off;
  }

  private aboutOf(recording: Recording): string {
    const { sampleRate, channels, bits, heard } = recording;
    const loudness = `${heard.lufs.toFixed(1).replace('-', '−')} LUFS`;
    const depth = bits === 32 ? 'float' : `${bits} bit`;
    const sides = channels === 1 ? 'mono' : 'stereo';
    return `${loudness} · ${secondsOf(recording).toFixed(2)} s · ${sampleRate / 1000} kHz ${depth} ${sides}`;
  }
}

function megabytesOf(bytes: number): string {
  return `${(bytes / 1e6).toFixed(bytes < 1e7 ? 1 : 0)} MB`;
}
