import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import type { Metre, PatternNote } from '@pentachord/core/model';
import {
  noteName,
  scaleOf,
  withoutNumbers,
  type MusicalKey,
  type NoteNaming,
} from '@pentachord/core/pitch';

const WIDTH = 1000;
const LINE = 14;
/** Keys above and below the notes that are shown too. */
const ROOM = 2;

/**
 * A pattern drawn: time east, pitch north. A note is a stroke of the pen that tapers as it dies, as tall as it is strong; the
 * notes of the key have lines, its tonic a bold one, and what is out of the key stands between them.
 */
@Component({
  selector: 'pc-note-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (line of lines(); track line.key) {
      <span class="name" [style.top.%]="(line.y / height()) * 100">{{ line.name }}</span>
    }
    <div class="paper">
      @for (bar of bars(); track bar.x) {
        <span class="bar-name" [style.left.%]="(bar.x / width) * 100">{{ bar.name }}</span>
      }
      <svg
        [attr.viewBox]="'0 0 ' + width + ' ' + height()"
        preserveAspectRatio="none"
        role="img"
        [attr.aria-label]="label()"
      >
        @for (line of lines(); track line.key) {
          <line
            x1="0"
            [attr.x2]="width"
            [attr.y1]="line.y"
            [attr.y2]="line.y"
            [class.tonic]="line.isTonic"
          />
        }
        @for (bar of bars(); track bar.x) {
          <line class="bar" [attr.x1]="bar.x" [attr.x2]="bar.x" y1="0" [attr.y2]="height()" />
        }
        @for (stroke of strokes(); track $index) {
          <path [attr.d]="stroke.path" [class.out]="stroke.isOut" [attr.fill]="colour()" />
        }
        @if (place() !== null) {
          <line
            class="now"
            [attr.x1]="place()! * width"
            [attr.x2]="place()! * width"
            y1="0"
            [attr.y2]="height()"
          />
        }
      </svg>
    </div>
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      min-height: 0;
      margin: 16px 0 0 84px;
    }
    .paper {
      position: relative;
      height: 100%;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    .name,
    .bar-name {
      position: absolute;
      font: 12px/1 var(--mono);
      color: var(--ink-soft);
    }
    .name {
      right: calc(100% + 8px);
      white-space: nowrap;
      transform: translateY(-50%);
    }
    .bar-name {
      bottom: calc(100% + 3px);
    }
    line {
      stroke: var(--hairline);
      vector-effect: non-scaling-stroke;
    }
    .tonic {
      stroke: var(--ink-soft);
    }
    .bar {
      stroke: var(--ink-soft);
      stroke-dasharray: 2 3;
    }
    .now {
      stroke: var(--lamp);
      stroke-width: 3px;
    }
    .out {
      stroke: var(--alarm);
      stroke-width: 1.5px;
      vector-effect: non-scaling-stroke;
    }
  `,
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
  protected readonly width = WIDTH;

  protected readonly label = computed(
    () => `${this.notes().length} notes over ${this.length()} beats`,
  );
  /** The keys that are drawn, the highest first: all between the outermost, of drums those that are struck. */
  private readonly keys = computed(() => {
    const used = [...new Set(this.notes().map(({ key }) => key))].sort((a, b) => b - a);
    if (used.length === 0) return [60];
    if (!this.musical()) return used;
    const from = used[0] + ROOM;
    return Array.from({ length: from - used[used.length - 1] + ROOM + 1 }, (_, i) => from - i);
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
    return Array.from({ length: Math.ceil(this.length() / bar) }, (_, i) => ({
      x: ((i * bar) / this.length()) * WIDTH,
      name: `bar ${i + 1}`,
    }));
  });
  protected readonly strokes = computed(() => {
    const musical = this.musical();
    const scale = musical ? scaleOf(musical) : null;
    return this.notes().map(({ beat, length, key, velocity }) => {
      const x = (beat / this.length()) * WIDTH;
      const end = Math.min(WIDTH, x + Math.max(4, (length / this.length()) * WIDTH));
      const y = ((this.rowOf().get(key) ?? 0) + 0.5) * LINE;
      const half = 1.5 + (velocity / 127) * (LINE / 2 - 1);
      return {
        path: `M${x} ${y - half}L${end} ${y - 1}L${end} ${y + 1}L${x} ${y + half}Z`,
        isOut: scale !== null && scale[((key % 12) + 12) % 12] === 0,
      };
    });
  });
}
