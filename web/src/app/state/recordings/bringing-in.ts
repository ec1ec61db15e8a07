import { computed, inject, Injectable, signal } from '@angular/core';
import { isArchive } from '@pentachord/core/exchange';
import type { Recording } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { Live } from '../../live/live';
import { URGENCY } from '../../live/audio/recording-workers';
import type { AppState } from '../reducers';
import { selectDatabase } from '../selectors';
import { Outlines } from './outlines';
import { recordings } from './recordings';
import { selectRecordingKeeping } from './selectors';
import { RecordingsApi } from './recordings-api';

/** A file that is brought in. */
export interface FileToBring {
  /** With the folders it lies in. */
  name: string;
  file: Blob | Uint8Array<ArrayBuffer>;
}

/** How one file is doing. */
export interface BroughtLine {
  id: number;
  name: string;
  state: 'waiting' | 'reading' | 'taken' | 'already' | 'refused';
  /** Why it was refused, or what is worth knowing of it; empty for nothing. */
  why: string;
}

/** Files that are read at one time; the workers take them one by one. */
const AT_ONCE = 6;
/** Milliseconds between two times of telling how it goes. */
const TOLD_EVERY = 150;

/** Brings audio files in: each is read and listened to by a worker, sent to the server, and told about in a line. */
@Injectable({ providedIn: 'root' })
export class BringingIn {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly api = inject(RecordingsApi);
  private readonly outlines = inject(Outlines);
  private readonly database = this.store.selectSignal(selectDatabase);
  private readonly keeping = this.store.selectSignal(selectRecordingKeeping);
  private readonly all = signal<readonly BroughtLine[]>([]);
  private stop = new AbortController();
  private count = 0;
  /** What has come since it was told last: a list of hundreds is not drawn anew for each of them. */
  private readonly news = new Map<number, Pick<BroughtLine, 'state' | 'why'>>();
  private readonly come: Recording[] = [];
  private telling: ReturnType<typeof setTimeout> | null = null;

  /** One line a file, those of the last time until it is done again. */
  readonly lines = this.all.asReadonly();
  readonly done = computed(
    () => this.all().filter(({ state }) => state !== 'waiting' && state !== 'reading').length,
  );
  readonly isBusy = computed(() => this.done() < this.all().length);

  /** Forgets the lines. */
  forget(): void {
    if (!this.isBusy()) this.all.set([]);
  }

  /** Leaves out what has not been taken yet. */
  cancel(): void {
    this.stop.abort();
  }

  /** Brings files in, archives with all that lies in them; gives back what is on the shelf then, in their order. */
  async bring(files: readonly FileToBring[]): Promise<Recording[]> {
    if (!this.isBusy()) this.all.set([]);
    // What comes behind a stop is none of what was stopped.
    if (this.stop.signal.aborted) this.stop = new AbortController();
    const { signal: stopped } = this.stop;
    const waiting = this.enter(files);
    const found: { at: number; recording: Recording }[] = [];
    let next = 0;
    const one = async (): Promise<void> => {
      while (next < waiting.length) {
        const at = next++;
        const { line, file } = waiting[at];
        if (file.file instanceof Blob && (await isPacked(file.file)))
          waiting.push(...(await this.unpacked(line, file.name, file.file)));
        else {
          const recording = await this.bringOne(line, file, stopped);
          if (recording) found.push({ at, recording });
        }
      }
    };
    await Promise.all(Array.from({ length: AT_ONCE }, one));
    this.tellNow();
    this.store.dispatch(recordings.keepingAsked());
    return found.sort((a, b) => a.at - b.at).map(({ recording }) => recording);
  }

  private enter(files: readonly FileToBring[]) {
    const entered = files.map((file) => ({ line: ++this.count, file }));
    const lines = entered.map(({ line, file }): BroughtLine => ({
      ...{ id: line, name: file.name, state: 'waiting', why: '' },
    }));
    this.all.update((all) => [...all, ...lines]);
    return entered;
  }

  private tell(line: number, state: BroughtLine['state'], why = ''): void {
    this.news.set(line, { state, why });
    this.telling ??= setTimeout(() => this.tellNow(), TOLD_EVERY);
  }

  private tellNow(): void {
    if (this.telling) clearTimeout(this.telling);
    this.telling = null;
    const { news } = this;
    if (news.size > 0)
      this.all.update((all) =>
        all.map((one) => {
          const told = news.get(one.id);
          return told ? { ...one, ...told } : one;
        }),
      );
    news.clear();
    const come = this.come.splice(0);
    if (come.length > 0) this.store.dispatch(recordings.came({ recordings: come }));
  }

  private async unpacked(line: number, name: string, file: Blob) {
    this.tell(line, 'reading');
    try {
      const { files } = await this.live.sounds.recorded.workers.ask(
        { kind: 'unpack', file },
        URGENCY.coming,
      );
      this.all.update((all) => all.filter(({ id }) => id !== line));
      const entered = this.enter(
        files.map((one) => ({ name: `${name}/${one.name}`, file: one.bytes ?? new Uint8Array() })),
      );
      files.forEach(({ problem }, i) => {
        if (problem) this.tell(entered[i].line, 'refused', problem);
      });
      if (files.length === 0) {
        this.enter([{ name, file }]).forEach((one) =>
          this.tell(one.line, 'refused', 'it holds no audio file'),
        );
      }
      return entered.filter((_one, i) => !files[i].problem);
    } catch (error) {
      this.tell(line, 'refused', wordsOf(error));
      return [];
    }
  }

  private async bringOne(
    line: number,
    { name, file }: FileToBring,
    stopped: AbortSignal,
  ): Promise<Recording | null> {
    try {
      stopped.throwIfAborted();
      this.tell(line, 'reading');
      const { recording, bytes, word, outline } = await this.live.sounds.recorded.workers.ask(
        { kind: 'listen', name, file },
        URGENCY.coming,
      );
      stopped.throwIfAborted();
      const isWanting = this.keeping()?.missing.some(({ id }) => id === recording.id) ?? false;
      const result = await this.api.take(recording, bytes, this.database(), stopped, isWanting);
      this.outlines.know(recording.id, outline);
      if (result === 'taken') this.come.push(recording);
      // What wanted it can be made now.
      this.live.sounds.recorded.again(recording.id);
      this.tell(line, result, word ?? '');
      return recording;
    } catch (error) {
      this.tell(line, 'refused', stopped.aborted ? 'left out: you stopped' : wordsOf(error));
      return null;
    }
  }
}

/** Known by its first bytes, whatever it is called. A file that cannot be read is told of where it is listened to. */
async function isPacked(file: Blob): Promise<boolean> {
  const begins = file.slice(0, 4).arrayBuffer();
  return begins.then(
    (bytes) => isArchive(new Uint8Array(bytes)),
    () => false,
  );
}

function wordsOf(error: unknown): string {
  if (error instanceof TypeError) return 'the server does not answer; nothing was changed';
  return error instanceof Error ? error.message : String(error);
}
