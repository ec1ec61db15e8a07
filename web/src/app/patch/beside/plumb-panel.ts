import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  signal,
  viewChild,
} from '@angular/core';
import { plumbLine, unevenness, type Responses } from '@pentachord/core/loudness';
import { heardChannel, layerLetter, type Keyboard } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import type { CompiledPatch, LevelNow } from '@pentachord/core/routing';
import { layerMark } from '../../ui/layer-colours';

/** Width of the drawing in its own units; its height is the 127 velocities. */
const WIDTH = 100;
/** dB shown below the loudest. */
const SPAN_DB = 42;
/** dB shown above the loudest. */
const HEADROOM_DB = 2;
/** dB between two lines of the scale. */
const TICK_DB = 12;

/** The plumb line: at one key, every layer’s loudness against velocity, and the sum; dips and leaps are marked. */
@Component({
  selector: 'pc-plumb-panel',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (reading(); as line) {
      <p class="title">
        <b>{{ line.name }}</b>
        @if (line.now) {
          <span class="mono" data-testid="plumb-now">{{ line.now }}</span>
        } @else {
          what you hear
        }
      </p>
      <div class="chart">
        <svg
          #drawing
          [attr.viewBox]="'0 0 ' + width + ' 127'"
          preserveAspectRatio="none"
          role="img"
          [attr.aria-label]="line.words"
          (pointermove)="read($event)"
          (pointerleave)="under.set(null)"
        >
          @for (tick of line.ticks; track tick.at) {
            <line class="grid" [attr.x1]="tick.x" [attr.x2]="tick.x" y1="0" y2="127" />
          }
          @for (mark of line.uneven; track mark.from) {
            <rect
              class="uneven"
              x="0"
              [attr.width]="width"
              [attr.y]="127 - mark.to"
              [attr.height]="mark.to - mark.from + 1"
            />
          }
          @for (curve of line.curves; track curve.id) {
            <path class="curve" [attr.d]="curve.path" [attr.stroke]="curve.colour" />
          }
          <path class="sum" [attr.d]="line.sum" />
          @if (velocity(); as v) {
            <line
              class="now"
              x1="0"
              [attr.x2]="width"
              [attr.y1]="127.5 - v"
              [attr.y2]="127.5 - v"
            />
          }
          @if (under(); as v) {
            <line
              class="hand"
              x1="0"
              [attr.x2]="width"
              [attr.y1]="127.5 - v"
              [attr.y2]="127.5 - v"
            />
          }
        </svg>
        @if (underHand(); as told) {
          <output class="mono" [style.top.%]="told.top" [class.above]="told.top > 55">
            @for (text of told.lines; track $index) {
              <span>{{ text }}</span>
            }
          </output>
        }
      </div>
      <div class="axis mono" aria-hidden="true">
        @for (tick of line.ticks; track tick.at) {
          <span [style.left.%]="tick.x">{{ tick.words }}</span>
        }
        <em>LUFS</em>
      </div>
      <ul>
        @for (mark of line.uneven; track mark.from) {
          <li>{{ mark.words }}</li>
        } @empty {
          <li class="even">
            {{ line.silent ? 'no layer answers this key' : 'no dips, no leaps' }}
          </li>
        }
      </ul>
    } @else {
      <p class="empty">
        Point at a key, or play one, and read here how loud each layer is at every velocity.
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template: auto minmax(0, 1fr) auto auto / minmax(0, 1fr);
      height: 100%;
      font-size: 13px;
    }
    .title {
      display: flex;
      gap: 5px;
      padding: 0 0 4px;
      white-space: nowrap;

      .mono {
        margin-left: auto;
      }
    }
    .chart {
      position: relative;
      min-height: 0;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
      border: 1px solid var(--hairline);
    }
    .grid {
      stroke: var(--hairline);
      vector-effect: non-scaling-stroke;
    }
    .hand {
      stroke: var(--ink-soft);
      stroke-dasharray: 3 3;
      vector-effect: non-scaling-stroke;
    }
    output {
      position: absolute;
      z-index: 1;
      left: 4px;
      display: grid;
      gap: 1px;
      margin-top: 4px;
      padding: 3px 6px;
      border-radius: 4px;
      background: var(--ink);
      color: #fff;
      font-size: 12px;
      pointer-events: none;
    }
    .above {
      transform: translateY(calc(-100% - 8px));
    }
    .axis {
      position: relative;
      height: 16px;
      font-size: 11px;
      color: var(--ink-soft);

      span {
        position: absolute;
        transform: translateX(-50%);
      }
      em {
        position: absolute;
        right: 0;
        font-style: normal;
        background: var(--sheet);
        padding-left: 4px;
      }
    }
    path {
      fill: none;
      vector-effect: non-scaling-stroke;
    }
    .curve {
      stroke-width: 1.75px;
    }
    .sum {
      stroke: var(--ink);
      stroke-width: 3px;
    }
    .now {
      stroke: var(--lamp);
      stroke-width: 2px;
      vector-effect: non-scaling-stroke;
    }
    .uneven {
      fill: #c8382b26;
    }
    ul {
      list-style: none;
      margin: 4px 0 0;
      padding: 0;
      color: var(--alarm);
      font-weight: 600;
    }
    .even,
    .empty {
      color: var(--ink-soft);
      font-weight: 400;
    }
  `,
})
export class PlumbPanel {
  readonly patch = input.required<CompiledPatch | null>();
  readonly keyboard = input.required<Keyboard>();
  readonly responses = input.required<Responses>();
  /** The key read, as the layers hear it. */
  readonly key = input.required<number | null>();
  /** Velocity of the last note on that key, if there was one. */
  readonly velocity = input<number | null>(null);
  /** Where layers stand that hands have moved since. */
  readonly levels = input<Readonly<Record<string, LevelNow | undefined>>>({});
  readonly middleC = input<NoteNaming>(4);
  protected readonly width = WIDTH;
  private readonly drawing = viewChild<ElementRef<SVGSVGElement>>('drawing');
  /** The strength under the hand. */
  protected readonly under = signal<number | null>(null);
  protected readonly underHand = computed(() => {
    const line = this.reading();
    const v = this.under();
    if (!line || v === null) return null;
    const { sum, layers } = line.at(v);
    const heard = Number.isFinite(sum) ? `${lufs(sum)} LUFS` : 'silent';
    return { top: ((127 - v) / 127) * 100, lines: [`v${v}  ${heard}`, ...layers] };
  });

  protected readonly reading = computed(() => {
    const patch = this.patch();
    const key = this.key();
    const keyboard = this.keyboard();
    if (!patch || key === null) return null;
    const device = patch.rig.ids.indexOf(keyboard.id);
    if (device < 0) return null;
    const { layers, sum } = plumbLine(
      patch,
      this.responses(),
      device,
      heardChannel(keyboard),
      key,
      (id) => this.levels()[id]?.level,
    );
    const loudest = sum.reduce((most, value) => Math.max(most, value), -Infinity);
    const silent = !Number.isFinite(loudest);
    const path = (values: Float64Array) => pathOf(values, silent ? 0 : loudest);
    const uneven = unevenness(sum).map((mark) => ({
      ...mark,
      words: `${mark.kind} of ${mark.size.toFixed(1)} dB, velocities ${mark.from}–${mark.to}`,
    }));
    const velocity = this.velocity();
    const heard = velocity ? sum[velocity - 1] : -Infinity;
    const name = noteName(key, this.middleC());
    return {
      name,
      silent,
      uneven,
      now: velocity && Number.isFinite(heard) ? `v${velocity} ${lufs(heard)} LUFS` : '',
      ticks: silent ? [] : ticksBelow(loudest),
      at: (v: number) => ({
        sum: sum[v - 1],
        layers: layers
          .filter(({ loudness }) => Number.isFinite(loudness[v - 1]))
          .map(({ layer, loudness }) => `${layerLetter(layer.index)} ${lufs(loudness[v - 1])}`),
      }),
      curves: layers.map(({ layer, loudness }) => ({
        id: layer.id,
        colour: layerMark(layer.index).day,
        path: path(loudness),
      })),
      sum: path(sum),
      words: `Loudness at ${name}: ${layers
        .filter(({ loudness }) => loudness.some(Number.isFinite))
        .map(({ layer }) => `${layerLetter(layer.index)} ${layer.name}`)
        .join(', ')}; ${uneven.map((mark) => mark.words).join(', ') || 'even'}`,
    };
  });

  /** Reads the strength under the hand. */
  protected read(event: PointerEvent): void {
    const box = this.drawing()?.nativeElement.getBoundingClientRect();
    if (!box) return;
    const up = 1 - (event.clientY - box.top) / box.height;
    this.under.set(Math.min(127, Math.max(1, Math.round(1 + up * 126))));
  }
}

/** Where a loudness is drawn, 0 to {@link WIDTH}. */
function xOf(value: number, loudest: number): number {
  return Math.max(0, 1 - (loudest + HEADROOM_DB - value) / SPAN_DB) * WIDTH;
}

function ticksBelow(loudest: number): { at: number; x: number; words: string }[] {
  const ticks = [];
  const highest = Math.floor((loudest + HEADROOM_DB) / TICK_DB) * TICK_DB;
  for (let at = highest; at > loudest + HEADROOM_DB - SPAN_DB; at -= TICK_DB) {
    const x = xOf(at, loudest);
    // The unit stands at the right end.
    if (x > 6 && x < 78) ticks.push({ at, x, words: String(at).replace('-', '−') });
  }
  return ticks;
}

function lufs(value: number): string {
  return value.toFixed(1).replace('-', '−');
}

/** Loudness to the right, velocity upwards; the line breaks where nothing sounds. */
function pathOf(values: Float64Array, loudest: number): string {
  let path = '';
  let down = false;
  values.forEach((value, index) => {
    const x = xOf(value, loudest);
    if (!Number.isFinite(value)) down = false;
    else {
      path += `${down ? 'L' : 'M'}${x.toFixed(2)} ${(126.5 - index).toFixed(1)}`;
      down = true;
    }
  });
  return path;
}
