import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  linkedSignal,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatMenuModule } from '@angular/material/menu';
import { RouterLink } from '@angular/router';
import { groundOf } from '@pentachord/core/coverage';
import { layerLetter, placeInWords } from '@pentachord/core/model';
import { categoriesOfBand, mannerInWords, shiftsOf } from '@pentachord/core/patterns';
import { noteName, withoutNumbers } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { ScreenHands } from '../live/hands/screen-hands';
import { Live } from '../live/live';
import { BandEditing } from '../state/editing/band-editing';
import { Editing } from '../state/editing/editing';
import { edits } from '../state/editing/edits';
import { libraryEdits } from '../state/editing/library-edits';
import type { AppState } from '../state/reducers';
import {
  selectCompiled,
  selectKeepsakes,
  selectMiddleC,
  selectPatchSong,
  selectSounds,
} from '../state/selectors';
import { Taking } from '../state/editing/taking';
import { BandSound } from '../ui/band/band-sound';
import { ChosenNotes } from '../ui/band/chosen-notes';
import { AT_REST, bandLooks, nextInWords } from '../ui/band/band-looks';
import { flagsOn, markOf } from '../ui/band/flags-on';
import { NoteChart, type NotesMended } from '../ui/band/note-chart';
import { PatternSearch } from '../ui/band/pattern-search';
import { KeyFlags, type KeyFlag } from '../ui/band/key-flags';
import { Dialogs } from '../ui/dialogs/dialogs';
import { keyAt } from '../ui/keyboard/key-geometry';
import { PlayableKeyboard, type KeyTint } from '../ui/keyboard/keyboard';
import { layerMark } from '../ui/layer-colours';
import { AccompanistRows } from './accompanist-rows';
import { runOf, waveOf, type BandState } from './band-state';
import { PlacedPanel, type DroppedPattern } from './placed-panel';

/** The part of the panel that tells of the chosen pattern. */
const OF_PATTERN = 1;

/** The band of a patch: its accompanists, what is on their keys, and the pattern that is looked at. */
@Component({
  selector: 'pc-band-view',
  imports: [
    AccompanistRows,
    ChosenNotes,
    KeyFlags,
    MatButtonModule,
    MatButtonToggleModule,
    MatMenuModule,
    NoteChart,
    PlacedPanel,
    PlayableKeyboard,
    RouterLink,
  ],
  providers: [BandSound, PatternSearch],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './band-view.html',
  styleUrl: './band-view.scss',
})
export class BandView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly door = inject(Editing);
  private readonly dialogs = inject(Dialogs);
  private readonly taking = inject(Taking);
  private readonly sound = inject(BandSound);
  protected readonly hands = inject(ScreenHands);
  protected readonly editing = inject(BandEditing);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly song = this.store.selectSignal(selectPatchSong);
  private readonly compiled = this.store.selectSignal(selectCompiled);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly looked = bandLooks(this.compiled);

  protected readonly keys = computed(() => {
    const board = this.editing.board();
    return board ? groundOf(board).keys : { low: 36, high: 96 };
  });
  protected readonly velocityOf = computed(() => {
    const device = this.device();
    const shift = (this.editing.board()?.octaveShift ?? 0) * 12;
    return (key: number) => (device < 0 ? 0 : this.live.player.velocityOf(device, key - shift));
  });
  protected readonly rows = computed((): BandState[] => {
    const band = this.compiled()?.band.accompanists ?? [];
    const looked = this.looked();
    const patch = this.editing.patch();
    const compiled = this.compiled();
    const metre = this.song()?.metre ?? { beats: 4, unit: 4 };
    return band.map((one, i): BandState => {
      const mark = compiled ? markOf(compiled, i) : i;
      const now = looked.at(i) ?? AT_REST;
      const { playing } = now;
      const run = runOf(one);
      const name = (key: number) => noteName(key, withoutNumbers(this.middleC()));
      const layer = patch?.layers.find(({ id }) => one.layerIds.has(id));
      const sound = patch?.sounds.find(({ id }) => id === layer?.soundId);
      const round = playing?.round ?? (metre.beats * 4) / metre.unit;
      const bar = (metre.beats * 4) / metre.unit;
      return {
        ...{ id: one.id, letter: layerLetter(mark), name: one.source.name },
        colour: layerMark(mark).day,
        sound: this.sounds().get(sound?.librarySoundId ?? '')?.name ?? 'no layer',
        manner: mannerInWords(one.source),
        keys: run ? `${name(run[0])}–${name(run[1])}` : 'no keys',
        playing: playing?.name ?? 'rests',
        next: nextInWords(now),
        place: now.place,
        bars: Array.from({ length: Math.floor(round / bar) + 1 }, (_, at) => (at * bar) / round),
        wave: waveOf(playing),
      };
    });
  });
  private readonly device = computed(() => {
    const board = this.editing.board();
    return board ? (this.compiled()?.rig.ids.indexOf(board.id) ?? -1) : -1;
  });
  protected readonly flags = computed((): KeyFlag[] => {
    const patch = this.compiled();
    return patch ? flagsOn(patch, this.device(), this.looked()) : [];
  });
  protected readonly tints = computed((): KeyTint[] =>
    this.flags().map(({ key, colour }) => ({ key, colour })),
  );
  /** The chosen pattern as it plays: made ready, in the key that sounds. */
  private readonly ready = computed(() => {
    const chosen = this.editing.chosen();
    const placed = this.editing.placed();
    return (
      this.compiled()
        ?.band.accompanists.find(({ id }) => id === chosen?.id)
        ?.patterns.find(({ id }) => id === placed?.id) ?? null
    );
  });
  protected readonly drawn = computed(() => {
    const ready = this.ready();
    const pattern = this.editing.pattern();
    if (!ready || !pattern) return null;
    const at = this.editing.accompanists().findIndex(({ id }) => id === this.editing.chosen()?.id);
    const compiled = this.compiled();
    const mark = compiled && at >= 0 ? markOf(compiled, at) : at;
    const notes = Array.from({ length: ready.count }, (_, i) => ({
      ...{ beat: ready.beats[i], length: ready.lengths[i] },
      ...{ key: ready.keys[i], velocity: ready.velocities[i] },
    }));
    return {
      ...{ pattern, notes, length: ready.round, colour: layerMark(mark).day },
      musical: pattern.key ? (this.song()?.sounding ?? null) : null,
      isPlaying: this.looked().at(at)?.playing?.id === ready.id,
      place: this.looked().at(at)?.place ?? null,
    };
  });
  protected readonly nothing: ReadonlySet<number> = new Set();
  protected readonly pieces = this.sound.pieces;
  /** The pattern itself is on the desk, to be mended; else what becomes of it when it plays. */
  protected readonly isMended = signal(false);
  /** The chosen notes of the pattern that is mended. */
  protected readonly notes = linkedSignal<string | undefined, ReadonlySet<number>>({
    source: () => this.editing.pattern()?.id,
    computation: () => new Set<number>(),
  });
  /** The keys, as they are drawn, that the layer’s sound is made for. */
  protected readonly range = computed(() => {
    if (!this.isMended()) return this.sound.rangeBefore(0);
    const shifts = this.shifts();
    return shifts && this.sound.rangeBefore(shifts.pattern + shifts.key + shifts.accompanist);
  });
  /** The note that is looked at: the chosen one, else the first. */
  private readonly noteLookedAt = computed(() => {
    const { notes = [] } = this.editing.pattern() ?? {};
    const [at = 0] = this.isMended() ? this.notes() : [];
    return notes.at(at) ?? null;
  });
  private readonly shifts = computed(() => {
    const pattern = this.editing.pattern();
    const placed = this.editing.placed();
    const chosen = this.editing.chosen();
    const song = this.song();
    const note = this.noteLookedAt();
    if (!pattern || !placed || !chosen || !song || !note) return null;
    return shiftsOf(note.key, placed, pattern, chosen, song.sounding);
  });
  /** What adds up for the note that is looked at. */
  protected readonly sum = computed(() => {
    const shifts = this.shifts();
    const first = this.noteLookedAt();
    const chosen = this.editing.chosen();
    if (!shifts || !first || !chosen) return null;
    const layer = this.editing.patch()?.layers.find(({ id }) => chosen.layerIds.includes(id));
    const own = layer?.transpose ?? 0;
    const name = (key: number) => noteName(key, withoutNumbers(this.middleC()));
    const signed = (by: number) => (by < 0 ? `−${-by}` : `+${by}`);
    const sounds = first.key + shifts.pattern + shifts.key + shifts.accompanist + own;
    return [
      `${name(first.key)} as written`,
      `${signed(shifts.pattern)} pattern`,
      `${signed(shifts.key)} into the key`,
      `${signed(shifts.accompanist)} accompanist`,
      `${signed(own)} layer`,
      `${name(sounds)} sounds`,
    ];
  });

  /** The shelves from which patterns are on the keys. */
  protected readonly shelves = computed(() =>
    categoriesOfBand(this.editing.accompanists(), this.editing.patterns()),
  );
  private readonly keepsakes = this.store.selectSignal(selectKeepsakes);
  protected readonly keptBands = computed(() =>
    this.keepsakes().flatMap(({ id, name, content }) =>
      content.kind === 'band' ? [{ id, name, band: content }] : [],
    ),
  );
  /** Pads or buttons that the chosen accompanist is started by, with what is on them; null while it is started by keys. */
  protected readonly pads = computed(() => {
    const chosen = this.editing.chosen();
    if (!chosen || (chosen.starters === 'notes' && /^(keys|pedalboard)/.test(chosen.place)))
      return null;
    const pads = this.editing.startersOf(chosen).map((number) => {
      const placed = chosen.patterns.find(({ key }) => key === number);
      const pattern = this.editing.patterns().get(placed?.patternId ?? '')?.name;
      return {
        ...{ number, name: this.editing.starterName(chosen, number) },
        placedId: placed?.id ?? null,
        pattern: pattern ?? (chosen.stopKey === number ? 'off' : '—'),
      };
    });
    return { place: placeInWords(chosen.place), pads };
  });
  private readonly panel = viewChild(PlacedPanel);
  private readonly keyboard = viewChild<unknown, ElementRef<HTMLElement>>('keyboard', {
    read: ElementRef,
  });

  /** A pattern of the shelf was dropped: on a key it goes there. */
  protected drop({ pattern, x, y }: DroppedPattern): void {
    const key = this.keyUnder(x, y);
    if (key === null) return;
    if (!this.editing.chosen()) this.editing.add();
    this.editing.place(pattern, key);
  }

  protected moveFlag({ id, x, y }: { id: string; x: number; y: number }): void {
    const key = this.keyUnder(x, y);
    if (key !== null) this.editing.moveTo(id, key);
  }

  private keyUnder(x: number, y: number): number | null {
    const { low, high } = this.keys();
    const box = this.keyboard()?.nativeElement.getBoundingClientRect();
    if (!box) return null;
    const column = ((x - box.left) / box.width) * (high - low + 1);
    return keyAt(low, high, column, (y - box.top) / box.height);
  }

  protected async keep(): Promise<void> {
    const band = this.editing.kept();
    if (!band) return;
    const name = await this.dialogs.askName({
      title: 'Keep this band',
      name: this.taking.freeName(`Band of ${this.song()?.name ?? 'a song'}`),
      take: 'Keep',
    });
    if (name) this.taking.keep(name, band);
  }

  protected forget(keepsakeId: string): void {
    this.door.do(edits.keepsakeRemoved({ keepsakeId }));
  }

  protected chooseFlag(id: string): void {
    for (const one of this.editing.accompanists())
      if (one.patterns.some((placed) => placed.id === id)) {
        this.editing.choose(one.id, id);
        this.panel()?.tab.set(OF_PATTERN);
      }
  }

  protected mend({ notes, words, gesture, chosen }: NotesMended): void {
    const pattern = this.editing.pattern();
    if (pattern)
      this.door.do(libraryEdits.patternSaved({ pattern: { ...pattern, notes }, words, gesture }));
    if (chosen) this.notes.set(chosen);
  }

  protected removeChosen(): void {
    const chosen = this.editing.chosen();
    if (chosen) this.editing.remove(chosen);
  }

  protected stopAll(): void {
    this.live.band.stopNow();
  }
}
