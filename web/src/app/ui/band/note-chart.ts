import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  model,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { Metre, PatternNote } from '@pentachord/core/model';
import {
  lengthenedNotes,
  movedNotes,
  strengthenedNotes,
  withNote,
  withoutNotes,
} from '@pentachord/core/patterns';
import {
  noteName,
  scaleOf,
  withoutNumbers,
  type MusicalKey,
  type NoteNaming,
} from '@pentachord/core/pitch';
import { PenStrokes, type PenStroke } from './pen-strokes';

const WIDTH = 1000;
const LINE = 14;
/** Bars that are named, at most. */
const BARS_NAMED = 16;
/** Keys above and below the notes that are shown too. */
const ROOM = 2;
/** Pixels of a note’s end by which it is made longer, at most. */
const END = 9;
/** How much harder a step makes a note. */
const HARDER = 5;

/** What a hand has changed of a pattern’s notes. */
export interface NotesMended {
  notes: PatternNote[];
  words: string;
  /** What comes with one is one step of undo. */
  gesture: string;
  /** Those that are chosen then, where they are others. */
  chosen?: ReadonlySet<number>;
}

interface Hold {
  kind: 'move' | 'lengthen' | 'frame';
  x: number;
  y: number;
  /** The row of the note that was taken hold of. */
  row: number;
  before: ReadonlySet<number>;
}

interface Frame {
  x: number;
  y: number;
  width: number;
  height: number;
}

/**
 * A pattern drawn: time east, pitch north. A note is a stroke of the pen that tapers as it dies, as tall as it is strong; the
 * notes of the key have lines, its tonic a bold one, and what is out of the key stands between them. Where it can be mended,
 * notes are dragged, made longer by their end, added by a double click, and all of it by keys too.
 */
@Component({
  selector: 'pc-note-chart',
  imports: [PenStrokes],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './note-chart.html',
  styleUrl: './note-chart.scss',
})
export class NoteChart {
  readonly notes = input.required<readonly PatternNote[]>();
  /** Beats of a round. */
  readonly length = input.required<number>();
  readonly metre = input.required<Metre>();
  /** The key that sounds; null for drums. */
  readonly musical = input.required<MusicalKey | null>();
  /** What pieces of a kit are called, by key. */
  readonly pieces = input<ReadonlyMap<number, string>>(new Map());
  readonly colour = input('var(--sea)');
  readonly middleC = input<NoteNaming>(4);
  /** How far it is in its round while it plays, 0 … 1; null while it does not. */
  readonly place = input<number | null>(null);
  /** Keys, as they are drawn, that the sound is made for; null where that is not known. */
  readonly range = input<{ low: number; high: number } | null>(null);
  readonly mendable = input(false);
  /** Beats to which what is moved is held. */
  readonly step = input(0.25);
  /** The chosen notes, by their place in the list. */
  readonly chosen = model<ReadonlySet<number>>(new Set());
  readonly mended = output<NotesMended>();
  protected readonly width = WIDTH;

  private readonly paper = viewChild.required<ElementRef<SVGSVGElement>>('paper');
  private hold: Hold | null = null;
  private readonly moved = signal<{ beats: number; rows: number } | null>(null);
  private readonly lengthened = signal(0);
  protected readonly frame = signal<Frame | null>(null);

  protected readonly label = computed(() => {
    const count = `${this.notes().length} notes over ${this.length()} beats`;
    if (!this.mendable()) return count;
    return `${count}, ${this.chosen().size} chosen. Arrow keys move them, Shift farther; Control with arrow keys makes them longer; plus and minus harder; Insert adds one, Delete removes; Alt with arrow keys chooses the next.`;
  });
  /** The keys that are drawn, the highest first: all between the outermost, of drums those that are struck, or could be. */
  private readonly keys = computed(() => {
    const struck = this.notes().map(({ key }) => key);
    const isKit = !this.musical();
    if (isKit && this.mendable()) struck.push(...this.pieces().keys());
    const used = [...new Set(struck)].sort((a, b) => b - a);
    if (used.length === 0) used.push(60);
    if (isKit) return used;
    const room = this.mendable() ? ROOM + 3 : ROOM;
    const from = used[0] + room;
    return Array.from({ length: from - used[used.length - 1] + room + 1 }, (_, i) => from - i);
  });
  private readonly rowOf = computed(() => new Map(this.keys().map((key, row) => [key, row])));
  protected readonly height = computed(() => this.keys().length * LINE);

  protected readonly lines = computed(() => {
    const musical = this.musical();
    const scale = musical ? scaleOf(musical) : null;
    return this.keys().flatMap((key, row) => {
      if (scale && scale[((key % 12) + 12) % 12] === 0) return [];
      const isTonic = musical !== null && (key - musical.tonic) % 12 === 0;
      const name = musical
        ? isTonic
          ? noteName(key, withoutNumbers(this.middleC()))
          : ''
        : (this.pieces().get(key) ?? noteName(key, withoutNumbers(this.middleC())));
      return [{ key, y: (row + 0.5) * LINE, isTonic, name }];
    });
  });
  protected readonly bars = computed(() => {
    const { beats, unit } = this.metre();
    const bar = (beats * 4) / unit;
    const count = Math.ceil(this.length() / bar);
    // So many that they do not run into one another.
    const every = Math.ceil(count / BARS_NAMED);
    return Array.from({ length: count }, (_, i) => ({
      x: ((i * bar) / this.length()) * WIDTH,
      name: i % every === 0 ? `bar ${i + 1}` : '',
    }));
  });
  private readonly strokes = computed(() =>
    this.notes().map((note, at) => this.strokeOf(note, at)),
  );
  protected readonly below = computed(() =>
    this.chosen().size === 0
      ? this.strokes()
      : this.strokes().filter(({ at }) => !this.chosen().has(at)),
  );
  /** The chosen ones, as long as a hand is about to make them. */
  protected readonly above = computed(() => {
    const chosen = this.chosen();
    const by = this.lengthened();
    if (by === 0) return this.strokes().filter(({ at }) => chosen.has(at));
    const longer = lengthenedNotes({ length: this.length(), notes: [...this.notes()] }, chosen, by);
    return longer.flatMap((note, at) => (chosen.has(at) ? [this.strokeOf(note, at)] : []));
  });
  /** While they are dragged the chosen ones are moved as they are, however many. */
  protected readonly shift = computed(() => {
    const moved = this.moved();
    if (!moved) return null;
    const [x, y] = [moved.beats / this.length(), moved.rows / this.keys().length];
    return `translate(${x * 100}%, ${y * 100}%)`;
  });

  private strokeOf({ beat, length, key, velocity }: PatternNote, at: number): PenStroke {
    const musical = this.musical();
    const range = this.range();
    const x = (beat / this.length()) * WIDTH;
    const end = Math.min(WIDTH, x + Math.max(4, (length / this.length()) * WIDTH));
    const y = ((this.rowOf().get(key) ?? 0) + 0.5) * LINE;
    const half = 1.5 + (velocity / 127) * (LINE / 2 - 1);
    return {
      at,
      path: `M${x} ${y - half}L${end} ${y - 1}L${end} ${y + 1}L${x} ${y + half}Z`,
      isOut: musical !== null && scaleOf(musical)[((key % 12) + 12) % 12] === 0,
      isBeyond: range !== null && (key < range.low || key > range.high),
    };
  }

  protected grabNote(event: PointerEvent): void {
    if (!this.mendable()) return;
    const at = Number((event.target as SVGElement).dataset['note']);
    if (!Number.isInteger(at)) return;
    event.stopPropagation();
    const before = this.chosen();
    if (event.ctrlKey || event.metaKey || event.shiftKey) {
      const after = new Set(before);
      if (!after.delete(at)) after.add(at);
      this.chosen.set(after);
      return;
    }
    if (!before.has(at)) this.chosen.set(new Set([at]));
    const { right, width } = (event.target as SVGElement).getBoundingClientRect();
    // A short note is moved too.
    const end = Math.min(END, width / 3);
    const row = this.rowOf().get(this.notes()[at].key) ?? 0;
    this.take(event, right - event.clientX < end ? 'lengthen' : 'move', row);
  }

  protected grabPaper(event: PointerEvent): void {
    if (this.mendable() && event.button === 0) this.take(event, 'frame', 0);
  }

  private take(event: PointerEvent, kind: Hold['kind'], row: number): void {
    const paper = this.paper().nativeElement;
    paper.setPointerCapture(event.pointerId);
    paper.focus();
    const adds = event.ctrlKey || event.metaKey || event.shiftKey;
    const before = kind === 'frame' && !adds ? new Set<number>() : this.chosen();
    this.hold = { kind, x: event.clientX, y: event.clientY, row, before };
    if (kind === 'frame' && this.chosen() !== before) this.chosen.set(before);
  }

  protected move(event: PointerEvent): void {
    const { hold } = this;
    if (!hold) return;
    const box = this.paper().nativeElement.getBoundingClientRect();
    const beats = ((event.clientX - hold.x) / box.width) * this.length();
    const rows = ((event.clientY - hold.y) / box.height) * this.keys().length;
    const step = event.altKey ? 1 / 96 : this.step();
    if (hold.kind === 'move') {
      const to = Math.max(0, Math.min(this.keys().length - 1, hold.row + Math.round(rows)));
      this.moved.set({ beats: Math.round(beats / step) * step, rows: to - hold.row });
    } else if (hold.kind === 'lengthen') this.lengthened.set(Math.round(beats / step) * step);
    else this.drawFrame(event, hold, box);
  }

  protected letGo(): void {
    const { hold } = this;
    this.hold = null;
    const moved = this.moved();
    const longer = this.lengthened();
    this.moved.set(null);
    this.lengthened.set(0);
    this.frame.set(null);
    if (moved && hold && (moved.beats !== 0 || moved.rows !== 0)) {
      const keys = this.keys();
      const by = { beats: moved.beats, keys: keys[hold.row + moved.rows] - keys[hold.row] };
      this.mend(movedNotes(this.pattern(), this.chosen(), by), 'notes moved');
    } else if (longer !== 0)
      this.mend(lengthenedNotes(this.pattern(), this.chosen(), longer), 'length of notes');
  }

  protected add(event: MouseEvent): void {
    if (!this.mendable() || (event.target as SVGElement).dataset['note']) return;
    const box = this.paper().nativeElement.getBoundingClientRect();
    const step = this.step();
    const beat =
      Math.floor((((event.clientX - box.left) / box.width) * this.length()) / step) * step;
    const row = Math.floor(((event.clientY - box.top) / box.height) * this.keys().length);
    const key = this.keys().at(Math.min(row, this.keys().length - 1));
    if (key !== undefined) this.addAt({ beat, length: step, key, velocity: 90 });
  }

  protected press(event: KeyboardEvent): void {
    if (!this.mendable()) return;
    const done = this.pressed(event);
    if (!done) return;
    event.preventDefault();
    event.stopPropagation();
  }

  private pressed(event: KeyboardEvent): boolean {
    const { key, shiftKey: far, ctrlKey, metaKey, altKey } = event;
    const command = ctrlKey || metaKey;
    const chosen = this.chosen();
    const pattern = this.pattern();
    const sign = { ArrowLeft: -1, ArrowDown: -1, ArrowRight: 1, ArrowUp: 1 }[key];
    if (key.toLowerCase() === 'a' && command) this.chosen.set(new Set(pattern.notes.keys()));
    else if (key === 'Delete' || key === 'Backspace')
      this.mend(withoutNotes(pattern, chosen), 'notes removed', new Set());
    else if (key === 'Insert' || key === 'Enter') this.addBehind();
    else if (key === '+' || key === '-')
      this.mend(
        strengthenedNotes(pattern, chosen, key === '+' ? HARDER : -HARDER),
        'strength of notes',
      );
    else if (sign === undefined) return false;
    else if (altKey) this.chooseNext(sign);
    else if (key === 'ArrowUp' || key === 'ArrowDown') {
      const keys = this.musical() ? sign * (far ? 12 : 1) : this.pieceFrom(sign);
      this.mend(movedNotes(pattern, chosen, { beats: 0, keys }), 'notes moved');
    } else {
      const beats = sign * (far ? 1 : this.step());
      if (command) this.mend(lengthenedNotes(pattern, chosen, beats), 'length of notes');
      else this.mend(movedNotes(pattern, chosen, { beats, keys: 0 }), 'notes moved');
    }
    return true;
  }

  private pattern() {
    return { length: this.length(), notes: [...this.notes()] };
  }

  private mend(notes: PatternNote[], words: string, chosen?: ReadonlySet<number>): void {
    if (this.chosen().size === 0) return;
    const gesture = `${words} ${[...this.chosen()].join()}`;
    this.mended.emit({ notes, words, gesture: chosen ? crypto.randomUUID() : gesture, chosen });
  }

  /** Semitones to the piece of the kit over the chosen one, or under it. */
  private pieceFrom(sign: number): number {
    const first = this.notes().at(Math.min(...this.chosen()));
    const row = first && this.rowOf().get(first.key);
    const to = row === undefined ? undefined : this.keys()[row - sign];
    return first && to !== undefined ? to - first.key : 0;
  }

  private chooseNext(by: number): void {
    const inTurn = this.notes()
      .map(({ beat, key }, at) => ({ beat, key, at }))
      .sort((a, b) => a.beat - b.beat || a.key - b.key);
    if (inTurn.length === 0) return;
    const last = [...this.chosen()].at(-1);
    const here = inTurn.findIndex(({ at }) => at === last);
    const next = inTurn.at((here + by + inTurn.length) % inTurn.length);
    this.chosen.set(new Set(next ? [next.at] : []));
  }

  /** One more like the chosen one, right behind it; the first of all at the beginning. */
  private addBehind(): void {
    const at = [...this.chosen()].at(-1);
    const last = at === undefined ? undefined : this.notes()[at];
    const { length, velocity } = last ?? { length: this.step(), velocity: 90 };
    const key = last?.key ?? (this.musical() ? 60 + (this.musical()?.tonic ?? 0) : this.keys()[0]);
    const beat = last ? (last.beat + Math.max(this.step(), last.length)) % this.length() : 0;
    this.addAt({ beat, length, key, velocity });
  }

  private addAt(note: PatternNote): void {
    const notes = withNote(this.pattern(), note);
    if (!notes) return;
    const chosen = new Set([notes.length - 1]);
    this.mended.emit({ notes, words: 'note added', gesture: crypto.randomUUID(), chosen });
  }

  private drawFrame(event: PointerEvent, hold: Hold, box: DOMRect): void {
    const [scaleX, scaleY] = [WIDTH / box.width, this.height() / box.height];
    const frame = {
      x: (Math.min(event.clientX, hold.x) - box.left) * scaleX,
      y: (Math.min(event.clientY, hold.y) - box.top) * scaleY,
      width: Math.abs(event.clientX - hold.x) * scaleX,
      height: Math.abs(event.clientY - hold.y) * scaleY,
    };
    this.frame.set(frame);
    const within = new Set(hold.before);
    this.notes().forEach(({ beat, key }, at) => {
      const x = (beat / this.length()) * WIDTH;
      const y = ((this.rowOf().get(key) ?? 0) + 0.5) * LINE;
      if (x >= frame.x && x <= frame.x + frame.width && y >= frame.y && y <= frame.y + frame.height)
        within.add(at);
    });
    this.chosen.set(within);
  }
}
