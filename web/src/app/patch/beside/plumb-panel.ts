import { ChangeDetectionStrategy, Component, computed, input } from '@angular/core';
import { plumbLine, unevenness, type Responses } from '@pentachord/core/loudness';
import { layerLetter, type Keyboard } from '@pentachord/core/model';
import { noteName, type MiddleC } from '@pentachord/core/pitch';
import type { CompiledPatch } from '@pentachord/core/routing';
import { layerMark } from '../../ui/layer-colours';

/** Width of the drawing in its own units; its height is the 127 velocities. */
const WIDTH = 100;
/** dB shown below the loudest. */
const SPAN_DB = 42;

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
      <svg
        [attr.viewBox]="'0 0 ' + width + ' 127'"
        preserveAspectRatio="none"
        role="img"
        [attr.aria-label]="line.words"
      >
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
          <line class="now" x1="0" [attr.x2]="width" [attr.y1]="127.5 - v" [attr.y2]="127.5 - v" />
        }
      </svg>
      <ul>
        @for (mark of line.uneven; track mark.from) {
          <li>{{ mark.words }}</li>
        } @empty {
          <li class="even">{{ line.silent ? 'nobody answers this key' : 'no dips, no leaps' }}</li>
        }
      </ul>
    } @else {
      <p class="empty">
        Point at a key, or play one, and read here how loud each layer is at every strength.
      </p>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template: auto minmax(0, 1fr) auto / minmax(0, 1fr);
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
    svg {
      width: 100%;
      height: 100%;
      min-height: 0;
      border: 1px solid var(--hairline);
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
  readonly middleC = input<MiddleC>(4);
  protected readonly width = WIDTH;

  protected readonly reading = computed(() => {
    const patch = this.patch();
    const key = this.key();
    const keyboard = this.keyboard();
    if (!patch || key === null) return null;
    const device = patch.rig.ids.indexOf(keyboard.id);
    if (device < 0) return null;
    const { layers, sum } = plumbLine(patch, this.responses(), device, keyboard.channel, key);
    const loudest = sum.reduce((most, value) => Math.max(most, value), -Infinity);
    const silent = !Number.isFinite(loudest);
    const path = (values: Float64Array) => pathOf(values, silent ? 0 : loudest);
    const uneven = unevenness(sum).map((mark) => ({
      ...mark,
      words: `${mark.kind} of ${mark.size.toFixed(1)} dB, strengths ${mark.from}–${mark.to}`,
    }));
    const velocity = this.velocity();
    const heard = velocity ? sum[velocity - 1] : -Infinity;
    const name = noteName(key, this.middleC());
    return {
      name,
      silent,
      uneven,
      now:
        velocity && Number.isFinite(heard)
          ? `v${velocity} ${heard.toFixed(1).replace('-', '−')} LUFS`
          : '',
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
}

/** Loudness to the right, velocity upwards; the line breaks where nothing sounds. */
function pathOf(values: Float64Array, loudest: number): string {
  let path = '';
  let down = false;
  values.forEach((value, index) => {
    const x = Math.max(0, 1 - (loudest + 2 - value) / SPAN_DB) * WIDTH;
    if (!Number.isFinite(value)) down = false;
    else {
      path += `${down ? 'L' : 'M'}${x.toFixed(2)} ${(126.5 - index).toFixed(1)}`;
      down = true;
    }
  });
  return path;
}
