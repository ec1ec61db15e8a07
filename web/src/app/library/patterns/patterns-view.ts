import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  linkedSignal,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatChipsModule } from '@angular/material/chips';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { midiOfPattern } from '@pentachord/core/exchange';
import { cutText, LONGEST_NAME, PATTERN_CATEGORIES, type Pattern } from '@pentachord/core/model';
import { guessKey, inKey, STEPS } from '@pentachord/core/patterns';
import { musicalKeyName } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { URGENCY } from '../../live/audio/recording-workers';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { BandEditing } from '../../state/editing/band-editing';
import { Editing } from '../../state/editing/editing';
import { libraryEdits } from '../../state/editing/library-edits';
import type { FileToBring } from '../../state/recordings/bringing-in';
import type { AppState } from '../../state/reducers';
import { selectMiddleC, selectPatchesById, selectPatchSong } from '../../state/selectors';
import { PatternAuditioning } from '../../state/session/pattern-auditioning';
import { StatusLine } from '../../state/session/status-line';
import { BandSound } from '../../ui/band/band-sound';
import { ChosenNotes } from '../../ui/band/chosen-notes';
import { NoteChart, type NotesMended } from '../../ui/band/note-chart';
import { PatternSearch } from '../../ui/band/pattern-search';
import { Dialogs } from '../../ui/dialogs/dialogs';
import { saveFile } from '../../ui/files/save-file';
import { KeySelect } from '../../ui/music/key-select';
import { NameField } from '../../ui/names/name-field';
import { NumberField } from '../../ui/numbers/number-field';
import { DropFiles } from '../../ui/recordings/drop-files';
import { pickFiles } from '../../ui/recordings/pick-files';
import type { MidiOffer } from './midi-dialog';

/** Tags that a pattern has at most, and letters of one. */
const MOST_TAGS = 12;
const LONGEST_TAG = 30;

const WIDE = { width: '880px', maxWidth: '96vw' };

/** The shelf of patterns: to search, to hear with one’s own layers, to take onto keys, to mend, to record and to bring in. */
@Component({
  selector: 'pc-patterns-view',
  imports: [
    ChosenNotes,
    DropFiles,
    KeySelect,
    MatButtonModule,
    MatCheckboxModule,
    MatChipsModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    NameField,
    NoteChart,
    NumberField,
  ],
  providers: [BandSound, PatternSearch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './patterns-view.html',
  styleUrl: './patterns-view.scss',
})
export class PatternsView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly door = inject(Editing);
  private readonly dialogs = inject(Dialogs);
  private readonly status = inject(StatusLine);
  private readonly sound = inject(BandSound);
  protected readonly band = inject(BandEditing);
  protected readonly search = inject(PatternSearch);
  protected readonly auditioning = inject(PatternAuditioning);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  private readonly song = this.store.selectSignal(selectPatchSong);
  private readonly patches = this.store.selectSignal(selectPatchesById);
  protected readonly categories = PATTERN_CATEGORIES;
  protected readonly steps = STEPS;
  protected readonly pieces = this.sound.pieces;

  private readonly chosenId = signal<string | null>(null);
  protected readonly chosen = computed(
    () => this.band.patterns().get(this.chosenId() ?? '') ?? null,
  );
  /** The chosen notes of the chosen pattern. */
  protected readonly notes = linkedSignal<string | null, ReadonlySet<number>>({
    source: this.chosenId,
    computation: () => new Set<number>(),
  });
  protected readonly place = signal<number | null>(null);
  protected readonly rows = computed(() =>
    this.search.found().map((pattern) => {
      const { category, tags, length, metre, key } = pattern;
      const bars = (length * metre.unit) / 4 / metre.beats;
      return {
        pattern,
        isHeard: this.auditioning.heard().has(pattern.id),
        about: [category, ...tags].join(' · '),
        bars: `${Number(bars.toFixed(2))} ${bars === 1 ? 'bar' : 'bars'} of ${metre.beats}/${metre.unit}`,
        key: key ? musicalKeyName(key) : '',
      };
    }),
  );
  protected readonly uses = computed(() => {
    const id = this.chosenId();
    return Object.values(this.patches()).filter(({ accompanists }) =>
      accompanists.some(({ patterns }) => patterns.some(({ patternId }) => patternId === id)),
    ).length;
  });
  protected readonly usedIn = computed(() => {
    const uses = this.uses();
    if (uses === 0) return 'In no patch yet.';
    const where = uses === 1 ? 'one patch' : `${uses} patches`;
    return `In ${where}: mended here, it is mended there.`;
  });
  /** A pattern ends after its last note has begun. */
  protected readonly shortest = computed(() => {
    const { notes = [] } = this.chosen() ?? {};
    return Math.max(
      1,
      notes.reduce((last, { beat }) => Math.max(last, Math.floor(beat) + 1), 1),
    );
  });
  /** The keys, as they are written, that the sound makes heard in this song. */
  protected readonly range = computed(() => {
    const pattern = this.chosen();
    const song = this.song();
    if (!pattern || !song) return null;
    const written = pattern.notes.at(0);
    const moved = pattern.key && written ? inKey([written], pattern.key, song.sounding)[0] : null;
    const into = moved && written ? moved.key - written.key : 0;
    return this.sound.rangeBefore(into + this.auditioning.octaves() * 12);
  });
  protected readonly octaves = computed(() => {
    const octaves = this.auditioning.octaves();
    return octaves > 0 ? `+${octaves}` : String(octaves).replace('-', '−');
  });
  protected readonly heardIn = computed(() => {
    const song = this.song();
    return song
      ? `heard in ${musicalKeyName(song.sounding)}, ${song.name}`
      : 'open a song to hear them';
  });

  constructor() {
    eachFrame(() => {
      this.auditioning.look();
      this.place.set(this.auditioning.placeOf(this.chosenId() ?? ''));
    });
    inject(DestroyRef).onDestroy(() => this.auditioning.stop());
  }

  protected percent(share: number): number {
    return Math.round(share * 100);
  }

  /** It would go to who plays such ones already, if there is one. */
  protected choose({ id, category }: Pattern): void {
    this.chosenId.set(id);
    const suits = this.band.playerOf(category);
    if (suits) this.band.choose(suits.id);
  }

  /** Arrow keys go through the list, the space bar makes heard, Enter takes. */
  protected step(event: KeyboardEvent): void {
    const isBox = event.target instanceof HTMLInputElement;
    if (event.key !== 'Escape') event.stopPropagation();
    const by = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    const found = this.search.found();
    const chosen = this.chosen();
    if (by && found.length > 0) {
      event.preventDefault();
      const at = found.findIndex(({ id }) => id === chosen?.id);
      this.choose(found[Math.min(found.length - 1, Math.max(0, at + by))]);
    } else if (event.key === ' ' && !isBox && chosen) {
      event.preventDefault();
      this.auditioning.toggle(chosen);
    } else if (event.key === 'Enter') {
      event.preventDefault();
      // Nothing was pointed at: the first found is meant.
      const meant = found.find(({ id }) => id === chosen?.id) ?? found.at(0);
      if (meant) this.take(meant);
    }
  }

  protected takeChosen(): void {
    const chosen = this.chosen();
    if (chosen) this.take(chosen);
  }

  /** Onto the next key of the accompanist it goes to; the first one is made for it where there is none. */
  protected take(pattern: Pattern): void {
    this.choose(pattern);
    if (!this.band.patch()) {
      this.status.say('No song is open, so there is no key to take it to.');
      return;
    }
    if (!this.band.chosen()) this.band.add();
    this.band.place(pattern);
  }

  protected change(
    pattern: Pattern,
    changes: Partial<Pattern>,
    words: string,
    gesture?: string,
  ): void {
    this.door.do(
      libraryEdits.patternSaved({ pattern: { ...pattern, ...changes }, words, gesture }),
    );
  }

  protected mend(pattern: Pattern, { notes, words, gesture, chosen }: NotesMended): void {
    this.change(pattern, { notes }, words, gesture);
    if (chosen) this.notes.set(chosen);
  }

  /** A pattern that gets a key gets the one that its notes speak of. */
  protected setKeyed(pattern: Pattern, isKeyed: boolean): void {
    const key = isKeyed && pattern.notes.length > 0 ? (guessKey(pattern.notes)?.key ?? null) : null;
    this.change(pattern, { key }, 'key of the pattern');
  }

  protected setTags(pattern: Pattern, text: string): void {
    const tags = [...new Set(text.split(',').map((tag) => cutText(tag, LONGEST_TAG)))]
      .filter(Boolean)
      .slice(0, MOST_TAGS);
    this.change(pattern, { tags }, 'tags');
  }

  protected quantise(pattern: Pattern, step: number, strength: number, gesture?: string): void {
    const quantise = step === 0 ? null : { step, strength };
    this.change(pattern, { quantise }, 'pattern quantised', gesture);
  }

  protected copy(pattern: Pattern): void {
    const name = cutText(`${pattern.name} copy`, LONGEST_NAME);
    const copy = { ...pattern, id: crypto.randomUUID(), name, favourite: false };
    this.door.do(libraryEdits.patternSaved({ pattern: copy, words: 'pattern copied' }));
    this.choose(copy);
  }

  protected remove({ id }: Pattern): void {
    this.auditioning.stop(id);
    this.door.do(libraryEdits.patternRemoved({ patternId: id }));
    this.chosenId.set(null);
  }

  protected writeMidi(pattern: Pattern): void {
    saveFile(`${pattern.name}.mid`, midiOfPattern(pattern), 'audio/midi');
  }

  protected async pick(): Promise<void> {
    await this.bringIn(await pickFiles('files', '.mid,.midi,.smf,audio/midi'));
  }

  /** Offers the tracks of MIDI files, one file after the other. */
  protected async bringIn(files: readonly FileToBring[]): Promise<void> {
    for (const { name, file } of files) {
      const title = name.replace(/^.*\//, '').replace(/\.[^.]*$/, '');
      try {
        const { midi } = await this.live.sounds.recorded.workers.ask(
          { kind: 'readMidi', file },
          URGENCY.wanted,
        );
        await this.offer({ title, midi, middleC: this.middleC() });
      } catch (error) {
        const why = error instanceof Error ? error.message : String(error);
        this.status.say(`${name} was not taken: ${why}.`);
      }
    }
  }

  private async offer(data: MidiOffer): Promise<void> {
    if (data.midi.tracks.every(({ notes }) => notes.length === 0)) {
      this.status.say(`${data.title} has no notes: nothing was taken.`);
      return;
    }
    const { MidiDialog } = await import('./midi-dialog');
    const patterns = await this.dialogs.open<MidiOffer, Pattern[]>(MidiDialog, {
      ...{ data, ...WIDE },
    });
    if (!patterns) return;
    const words = patterns.length === 1 ? 'pattern brought in' : 'patterns brought in';
    this.door.do(libraryEdits.patternsAdded({ patterns, words }));
    this.choose(patterns[0]);
  }

  protected async record(): Promise<void> {
    const { RecordPatternDialog } = await import('./record-pattern-dialog');
    const pattern = await this.dialogs.open<undefined, Pattern>(RecordPatternDialog, {
      ...WIDE,
    });
    if (!pattern) return;
    this.door.do(libraryEdits.patternSaved({ pattern, words: 'pattern recorded' }));
    this.choose(pattern);
  }
}
