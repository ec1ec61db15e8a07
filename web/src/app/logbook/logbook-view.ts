import { formatDate } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatIconModule } from '@angular/material/icon';
import { MatInputModule } from '@angular/material/input';
import { MatTableModule } from '@angular/material/table';
import { midiAsItCameIn, midiAsItSounded } from '@pentachord/core/exchange';
import { standingAt, stretchOf, type Stroke, type WholeTake } from '@pentachord/core/logbook';
import { MOST_STRETCHES, placeInWords, type Stretch } from '@pentachord/core/model';
import { noteName } from '@pentachord/core/pitch';
import { clockTime } from '@pentachord/core/units';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { HeardAgain } from '../live/logbook/heard-again';
import { Logbook } from '../live/logbook/logbook';
import type { AppState } from '../state/reducers';
import { selectMiddleC, selectShow } from '../state/selectors';
import { StatusLine } from '../state/session/status-line';
import { saveFile } from '../ui/files/save-file';
import { registerIcons } from '../ui/icons';
import { DropFiles } from '../ui/recordings/drop-files';
import { pickFiles } from '../ui/recordings/pick-files';
import type { FileToBring } from '../state/recordings/bringing-in';
import { NameField } from '../ui/names/name-field';
import { Dialogs } from '../ui/dialogs/dialogs';
import type { BounceOf } from './bounce-dialog';
import { MidiIn } from './midi-in';
import { RollDrawing, type Span } from './roll-drawing';
import { lanesOf } from './roll-lanes';
import { TakeShelf, type ShelvedTake } from './take-shelf';

/** Keys that are named before the rest is only counted. */
const MOST_HELD = 8;
/** Songs of a take that are named in the list. */
const MOST_SONGS = 3;

/** What was played: a record to read, hear and take out. */
@Component({
  selector: 'pc-logbook-view',
  imports: [
    DropFiles,
    MatButtonModule,
    MatFormFieldModule,
    MatIconModule,
    MatInputModule,
    MatTableModule,
    NameField,
    RollDrawing,
  ],
  providers: [TakeShelf],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './logbook-view.html',
  styleUrl: './logbook-view.scss',
})
export class LogbookView {
  protected readonly shelf = inject(TakeShelf);
  protected readonly logbook = inject(Logbook);
  protected readonly again = inject(HeardAgain);
  private readonly live = inject(Live);
  private readonly status = inject(StatusLine);
  private readonly dialogs = inject(Dialogs);
  private readonly midiIn = inject(MidiIn);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly show = this.store.selectSignal(selectShow);

  protected readonly columns = ['when', 'what', 'length', 'kept', 'deeds'];
  protected readonly whole = signal<WholeTake | null>(null);
  /** Where one is in it, seconds. */
  protected readonly at = signal(0);
  /** The stretch that is chosen. */
  protected readonly span = signal<Span | null>(null);
  protected readonly stretchName = signal('');

  protected readonly lanes = computed(() => {
    const whole = this.whole();
    return whole && lanesOf(whole);
  });
  protected readonly shelved = computed(() => {
    const id = this.whole()?.take.id;
    return this.shelf.takes()?.find((one) => one.id === id) ?? null;
  });
  protected readonly heading = computed(() => {
    const whole = this.whole();
    if (!whole) return '';
    const { began, seconds, keys, cues } = whole.take;
    const time = (at: number) => formatDate(began + at * 1000, 'HH:mm', 'en-US');
    const day = formatDate(began, 'EEE d MMM', 'en-US');
    return `${day}, ${time(0)}–${time(seconds)} · ${keys.toLocaleString('en')} keys · ${cues} cues`;
  });
  protected readonly standing = computed(() => {
    const whole = this.whole();
    const lanes = this.lanes();
    if (!whole || !lanes) return null;
    const { take } = whole;
    const { step, tempo, bar, held } = standingAt(take, lanes.strokes, this.at());
    return {
      time: formatDate(take.began + this.at() * 1000, 'HH:mm:ss', 'en-US'),
      song: step?.song || step?.patch || 'Before the first song',
      cue: step?.cue ?? '',
      patch: step?.patch ?? '',
      tempo: tempo ? `${Math.round(tempo.tempo * 10) / 10}` : '',
      bar: bar ? `bar ${bar.bar}, beat ${bar.beat}` : '',
      held: this.heldInWords(held, whole),
    };
  });
  protected readonly placeWords = computed(() => {
    const now = this.standing();
    return now ? [now.time, now.song, now.cue].filter((part) => part).join(', ') : '';
  });
  /** Says that it was played in another show than the one that is open. */
  protected readonly elsewhere = computed(() => {
    const { showId, show } = this.whole()?.take ?? {};
    const open = this.show();
    return showId && open && open.id !== showId
      ? `It was played in ${show}. Open that show to hear it as it was.`
      : '';
  });
  /** What goes out: the stretch that is chosen, or all of it. */
  protected readonly outWords = computed(() => {
    const span = this.span();
    return span ? `the stretch of ${clockTime(span.until - span.from)}` : 'all of it';
  });

  constructor() {
    registerIcons();
    void this.open();
    eachFrame(() => {
      const whole = this.whole();
      if (whole && this.again.hears() === whole.take.id) this.at.set(this.again.at);
    });
    inject(DestroyRef).onDestroy(() => this.again.stop());
  }

  private async open(): Promise<void> {
    await this.logbook.written();
    await this.shelf.look();
    const first = this.shelf.takes()?.at(0);
    if (first && !this.whole()) await this.choose(first);
  }

  protected whenOf({ began }: ShelvedTake): string {
    return formatDate(began, 'EEE d MMM, HH:mm', 'en-US');
  }

  protected songsOf({ songs }: ShelvedTake): string {
    const named = songs.slice(0, MOST_SONGS).join(', ');
    return songs.length > MOST_SONGS ? `${named} and ${songs.length - MOST_SONGS} more` : named;
  }

  protected lengthOf({ seconds }: ShelvedTake): string {
    return clockTime(seconds);
  }

  protected keptOf({ id, isKept, isBehind, until }: ShelvedTake): string {
    if (this.logbook.writing()?.id === id) return 'being written';
    if (isKept) return isBehind ? 'kept but for its end' : 'kept';
    return until === null ? '' : `here until ${formatDate(until, 'EEE d MMM', 'en-US')}`;
  }

  protected async choose(take: ShelvedTake): Promise<void> {
    this.again.stop();
    const found = await this.shelf.find(take);
    if (!found) return;
    this.span.set(null);
    this.at.set(0);
    this.whole.set(found);
  }

  /** A row of the list is chosen by Enter and by space as well. */
  protected rowKey(event: KeyboardEvent, take: ShelvedTake): void {
    if (event.target !== event.currentTarget || (event.key !== 'Enter' && event.key !== ' '))
      return;
    event.preventDefault();
    void this.choose(take);
  }

  protected go(to: number): void {
    const whole = this.whole();
    this.at.set(to);
    if (whole && this.again.hears() === whole.take.id) this.again.begin(whole, to);
  }

  protected async hear(): Promise<void> {
    const whole = this.whole();
    if (!whole) return;
    if (this.again.hears() !== null) {
      this.again.stop();
      return;
    }
    // What is heard again is not written down once more.
    this.logbook.end();
    await this.live.start();
    const span = this.span();
    const from = span ? span.from : this.at() >= whole.take.seconds - 0.05 ? 0 : this.at();
    if (!this.again.begin(whole, from, span?.until))
      this.status.say('Another window plays. Hear it there, or play here first.');
  }

  protected async keep(take: ShelvedTake): Promise<void> {
    const whole = await this.shelf.find(take);
    if (whole && (await this.shelf.keep(whole))) this.status.say(`${take.name} is kept for good.`);
  }

  protected async remove(take: ShelvedTake): Promise<void> {
    if (!(await this.shelf.remove(take))) return;
    if (this.whole()?.take.id === take.id) {
      this.again.stop();
      this.whole.set(null);
      const next = this.shelf.takes()?.at(0);
      if (next) await this.choose(next);
    }
    this.status.say(
      `${take.name} is removed. It can be brought back as long as this view is open.`,
    );
  }

  protected async bringBack(): Promise<void> {
    const { take } = this.shelf.removed()?.whole ?? {};
    await this.shelf.bringBack();
    const back = this.shelf.takes()?.find(({ id }) => id === take?.id);
    if (back && !this.whole()) await this.choose(back);
  }

  protected async pick(): Promise<void> {
    await this.bringIn(await pickFiles('files', '.mid,.midi,.smf,audio/midi'));
  }

  /** Takes MIDI files in, each as a take of the show that is open. */
  protected async bringIn(files: readonly FileToBring[]): Promise<void> {
    for (const file of files) {
      const read = await this.midiIn.read(file);
      if (typeof read === 'string') {
        this.shelf.refuse(read);
        continue;
      }
      const taken = await this.shelf.takeIn(read.whole);
      if (taken) await this.choose(taken);
      const { name, keys } = read.whole.take;
      this.status.say([`${name} is here: ${keys} keys.`, ...read.doubts].join(' '));
    }
  }

  protected rename(name: string): void {
    const whole = this.whole();
    if (whole) void this.say({ name, stretches: whole.take.stretches });
  }

  /** The stretch begins, or ends, where one is. */
  protected mark(which: keyof Span): void {
    const whole = this.whole();
    if (!whole) return;
    const before = this.span() ?? { from: 0, until: whole.take.seconds };
    const span = { ...before, [which]: this.at() };
    this.span.set(span.from < span.until ? span : null);
  }

  protected choosesStretch({ from, until }: Stretch): void {
    this.span.set({ from, until });
    this.go(from);
  }

  protected pencil(name: string): void {
    const whole = this.whole();
    const span = this.span();
    const { stretches } = whole?.take ?? { stretches: [] };
    if (!whole || !span || name.trim() === '' || stretches.length >= MOST_STRETCHES) return;
    const one: Stretch = { id: crypto.randomUUID(), name: name.trim(), ...span };
    this.stretchName.set('');
    this.span.set(null);
    void this.say({
      name: whole.take.name,
      stretches: [...stretches, one].sort((a, b) => a.from - b.from),
    });
  }

  protected rubOut(id: string): void {
    const { take } = this.whole() ?? {};
    if (take)
      void this.say({ name: take.name, stretches: take.stretches.filter((one) => one.id !== id) });
  }

  private async say(words: { name: string; stretches: Stretch[] }): Promise<void> {
    const take = this.shelved();
    if (!take || !(await this.shelf.say(take, words))) return;
    this.whole.update((whole) => whole && { ...whole, take: { ...whole.take, ...words } });
  }

  protected out(way: 'came in' | 'sounded'): void {
    const part = this.part();
    if (!part) return;
    const bytes = way === 'came in' ? midiAsItCameIn(part.whole) : midiAsItSounded(part.whole);
    saveFile(`${part.name} as it ${way}.mid`, bytes, 'audio/midi');
  }

  protected async asSound(): Promise<void> {
    const part = this.part();
    if (!part) return;
    this.again.stop();
    const { BounceDialog } = await import('./bounce-dialog');
    await this.dialogs.open<BounceOf>(BounceDialog, {
      data: part,
      width: '560px',
      maxWidth: '96vw',
    });
  }

  /** What goes out, and what its files are called. */
  private part(): BounceOf | null {
    const whole = this.whole();
    if (!whole) return null;
    const span = this.span();
    const name = `${whole.take.name} ${formatDate(whole.take.began, 'y-MM-dd HH.mm', 'en-US')}`;
    return { name, whole: span ? stretchOf(whole, span.from, span.until) : whole };
  }

  private heldInWords(held: readonly Stroke[], { take }: WholeTake): string {
    const bySender = new Map<number, string[]>();
    for (const { sender, key, velocity } of held.slice(0, MOST_HELD)) {
      const words = `${noteName(key, this.middleC())} v${velocity}`;
      bySender.set(sender, [...(bySender.get(sender) ?? []), words]);
    }
    const parts = [...bySender].map(([sender, notes]) => {
      const { place, name } = take.senders[sender];
      return `${place ? placeInWords(place) : name} ${notes.join(', ')}`;
    });
    if (held.length > MOST_HELD) parts.push(`and ${held.length - MOST_HELD} more`);
    return parts.join(' · ') || 'no key is held';
  }
}
