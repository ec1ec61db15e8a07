import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  computed,
  CSP_NONCE,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import {
  bent,
  lifted,
  pointOf,
  pulled,
  touchOut,
  TOUCH_POINTS,
  type Touch,
  type TouchPoint,
} from '@pentachord/core/touch';
import type ApexCharts from 'apexcharts';
import { DYNAMICS } from '../../ui/field/dynamics';
import { Tip } from '../../ui/tips/tip';

/** A velocity that was played, and how often. */
export interface PlayedVelocity {
  velocity: number;
  count: number;
}

/** The drawing area of the chart within this component, px. */
interface Area {
  left: number;
  top: number;
  width: number;
  height: number;
}

const LABELS: Record<TouchPoint, string> = {
  low: 'Where the curve begins',
  bend: 'How the curve bends',
  high: 'Where the curve ends',
};

/**
 * A touch as a curve: velocity in to the right, velocity out upwards, what was played today as dots on it. Both ends and the
 * bend can be dragged, or moved with the arrow keys.
 */
@Component({
  selector: 'pc-touch-curve',
  imports: [Tip],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div #chart class="chart" role="img" [attr.aria-label]="words()"></div>
    @for (mark of marks(); track mark.name) {
      <em aria-hidden="true" [style.left.px]="mark.x" [style.top.px]="mark.y">{{ mark.name }}</em>
    }
    @for (spot of spots(); track spot.hold) {
      <button
        type="button"
        class="hold"
        role="slider"
        aria-orientation="vertical"
        [attr.aria-label]="spot.label"
        [attr.aria-valuenow]="spot.out"
        aria-valuemin="1"
        aria-valuemax="127"
        [attr.aria-valuetext]="spot.text"
        [pcTip]="spot.text"
        [style.left.px]="spot.x"
        [style.top.px]="spot.y"
        (pointerdown)="grab($event)"
        (pointermove)="move($event, spot.hold)"
        (pointerup)="held = false"
        (keydown)="nudge($event, spot.hold)"
      ></button>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      min-height: 0;
      touch-action: none;
    }
    .chart {
      height: 100%;
    }
    em {
      position: absolute;
      transform: translate(-50%, -100%);
      font: italic 700 13px/1.3 var(--words);
      color: var(--ink-soft);
    }
    /* As large as a finger needs; what is seen of it is smaller. */
    .hold {
      position: absolute;
      width: 24px;
      height: 24px;
      margin: -12px 0 0 -12px;
      padding: 0;
      border: 0;
      border-radius: 50%;
      background: radial-gradient(
        circle,
        var(--sea) 0 6px,
        var(--sheet) 6.5px 8px,
        var(--sea) 8px 9px,
        transparent 9.5px
      );
      cursor: grab;
      z-index: 2;
    }
  `,
})
export class TouchCurve {
  readonly touch = input.required<Touch>();
  /** Floor of the lift while it is on, else null. */
  readonly lift = input<number | null>(null);
  readonly played = input<readonly PlayedVelocity[]>([]);
  readonly changed = output<{ touch: Touch; gesture: string }>();

  private readonly box = viewChild.required<ElementRef<HTMLElement>>('chart');
  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private chart: ApexCharts | null = null;
  protected held = false;
  private gesture = '';
  protected readonly words = signal('');
  protected readonly spots = signal<
    { hold: TouchPoint; label: string; x: number; y: number; out: number; text: string }[]
  >([]);
  private readonly area = signal<Area | null>(null);
  /** The musician’s dynamics over the strengths in. */
  protected readonly marks = computed(() => {
    const area = this.area();
    if (!area) return [];
    return DYNAMICS.map(({ name, velocity }) => ({
      name,
      x: area.left + ((velocity - 1) / 126) * area.width,
      y: area.top,
    }));
  });

  constructor() {
    afterNextRender(() => void this.draw());
    effect(() => {
      const series = seriesOf(this.touch(), this.lift(), this.played());
      this.words.set(curveInWords(this.touch()));
      void this.chart?.updateSeries(series, false);
    });
    effect(() => this.place(this.touch(), this.area()));
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }

  protected grab(event: PointerEvent): void {
    const target = event.currentTarget as HTMLElement;
    target.setPointerCapture(event.pointerId);
    this.held = true;
    this.gesture = crypto.randomUUID();
  }

  protected move(event: PointerEvent, hold: TouchPoint): void {
    const area = this.area();
    if (!this.held || !area) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const inV = 1 + ((event.clientX - box.left - area.left) / area.width) * 126;
    const out = 127 - ((event.clientY - box.top - area.top) / area.height) * 126;
    this.emit(hold, inV, out);
  }

  protected nudge(event: KeyboardEvent, hold: TouchPoint): void {
    const across = { ArrowRight: 1, ArrowLeft: -1 }[event.key] ?? 0;
    const up = { ArrowUp: 1, ArrowDown: -1 }[event.key] ?? 0;
    if (across === 0 && up === 0) return;
    event.preventDefault();
    event.stopPropagation();
    this.gesture = `nudge ${hold}`;
    const touch = this.touch();
    const far = event.shiftKey ? 10 : 1;
    if (hold === 'bend') {
      const bend = touch.bend + ((up || across) * far) / 20;
      this.changed.emit({ touch: bent(touch, bend), gesture: this.gesture });
      return;
    }
    const point = pointOf(touch, hold);
    this.emit(hold, point.in + across * far, point.out + up * far);
  }

  private emit(hold: TouchPoint, inV: number, out: number): void {
    const touch = pulled(this.touch(), hold, inV, out);
    this.changed.emit({ touch, gesture: this.gesture });
  }

  /** Lets the chart’s own style elements in. */
  private readonly nonce = inject(CSP_NONCE);

  private async draw(): Promise<void> {
    const { default: Chart } = await import('apexcharts');
    const axis = {
      min: 1,
      max: 127,
      tickAmount: 6,
      labels: { formatter: (value: string | number) => String(Math.round(Number(value))) },
      axisTicks: { show: false },
    };
    const chart = new Chart(this.box().nativeElement, {
      chart: {
        type: 'line',
        ...(this.nonce ? { nonce: this.nonce } : {}),
        height: '100%',
        parentHeightOffset: 0,
        fontFamily: 'Atkinson Hyperlegible Next',
        animations: { enabled: false },
        toolbar: { show: false },
        zoom: { enabled: false },
        events: { mounted: () => this.measure(), updated: () => this.measure() },
      },
      series: seriesOf(this.touch(), this.lift(), this.played()),
      colors: ['#0b6e8a', '#b8860b', '#16243a'],
      stroke: { width: [3, 2, 0], dashArray: [0, 5, 0], curve: 'straight' },
      markers: { size: [0, 0, 4], strokeWidth: 0 },
      legend: { show: false },
      tooltip: { enabled: false },
      dataLabels: { enabled: false },
      grid: { borderColor: '#d9dce3', padding: { top: 0, right: 12, bottom: -4, left: 4 } },
      xaxis: {
        ...axis,
        type: 'numeric',
        title: { text: 'velocity in', style: { fontWeight: 400 } },
        tooltip: { enabled: false },
      },
      yaxis: { ...axis, title: { text: 'out', style: { fontWeight: 400 } } },
    });
    this.chart = chart;
    await chart.render();
    this.measure();
  }

  /** The chart says nowhere where it draws; its grid does. */
  private measure(): void {
    const lines = this.host.nativeElement.querySelectorAll('.apexcharts-grid line');
    if (lines.length < 2) return;
    const box = this.host.nativeElement.getBoundingClientRect();
    const places = [...lines].map((line) => line.getBoundingClientRect());
    const left = Math.min(...places.map((p) => p.left)) - box.left;
    const right = Math.max(...places.map((p) => p.right)) - box.left;
    const top = Math.min(...places.map((p) => p.top)) - box.top;
    const bottom = Math.max(...places.map((p) => p.bottom)) - box.top;
    this.area.set({ left, top, width: right - left, height: bottom - top });
  }

  private place(touch: Touch, area: Area | null): void {
    if (!area) return;
    this.spots.set(
      TOUCH_POINTS.map((hold) => {
        const { in: inV, out } = pointOf(touch, hold);
        return {
          hold,
          label: LABELS[hold],
          out,
          x: area.left + ((inV - 1) / 126) * area.width,
          y: area.top + ((127 - out) / 126) * area.height,
          text:
            hold === 'bend'
              ? `bend ${Math.round(touch.bend * 100)} %`.replace('-', '−')
              : `${inV} in, ${out} out`,
        };
      }),
    );
  }
}

function seriesOf(touch: Touch, lift: number | null, played: readonly PlayedVelocity[]) {
  const curve = (shape: Touch) =>
    Array.from({ length: 127 }, (_, i) => i + 1).map((x) => ({ x, y: touchOut(shape, x) || null }));
  const heard = lift === null ? touch : lifted(touch, lift);
  return [
    { name: 'touch', type: 'line', data: curve(touch) },
    { name: 'lifted', type: 'line', data: lift === null ? [] : curve(heard) },
    {
      name: 'played today',
      type: 'scatter',
      data: played.map(({ velocity }) => ({ x: velocity, y: touchOut(heard, velocity) || null })),
    },
  ];
}

function curveInWords(touch: Touch): string {
  const marks = DYNAMICS.map(({ name, velocity }) => {
    const out = touchOut(touch, velocity);
    return `${name} ${out > 0 ? `gives ${out}` : 'is silent'}`;
  });
  return `Touch: ${marks.join(', ')}`;
}
