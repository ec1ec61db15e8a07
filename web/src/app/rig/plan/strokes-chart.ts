import {
  afterNextRender,
  ChangeDetectionStrategy,
  Component,
  CSP_NONCE,
  DestroyRef,
  effect,
  ElementRef,
  inject,
  input,
  viewChild,
} from '@angular/core';
import { touchOut, type Stroke, type Touch } from '@pentachord/core/touch';
import type ApexCharts from 'apexcharts';

/** The touch of a keyboard as it is and as it was fitted, with the strokes on the fitted one. */
@Component({
  selector: 'pc-strokes-chart',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `<div #chart class="chart" role="img" [attr.aria-label]="label()"></div>`,
  styles: `
    :host,
    .chart {
      display: block;
      height: 220px;
    }
  `,
})
export class StrokesChart {
  readonly before = input.required<Touch>();
  readonly after = input<Touch | null>(null);
  readonly strokes = input<readonly Stroke[]>([]);
  readonly label = input('');

  private readonly box = viewChild.required<ElementRef<HTMLElement>>('chart');
  private readonly nonce = inject(CSP_NONCE);
  private chart: ApexCharts | null = null;

  constructor() {
    afterNextRender(() => void this.draw());
    effect(() => {
      const series = this.series();
      void this.chart?.updateSeries(series, false);
    });
    inject(DestroyRef).onDestroy(() => this.chart?.destroy());
  }

  private series() {
    const [before, after] = [this.before(), this.after()];
    const curve = (touch: Touch) =>
      Array.from({ length: 127 }, (_, at) => ({ x: at + 1, y: touchOut(touch, at + 1) || null }));
    const shown = after ?? before;
    return [
      { name: 'before', type: 'line', data: curve(before) },
      { name: 'after', type: 'line', data: after ? curve(after) : [] },
      {
        name: 'strokes',
        type: 'scatter',
        data: this.strokes().map(({ velocity }) => ({
          x: velocity,
          y: touchOut(shown, velocity) || null,
        })),
      },
    ];
  }

  private async draw(): Promise<void> {
    const { default: Chart } = await import('apexcharts');
    const axis = {
      min: 1,
      max: 127,
      tickAmount: 6,
      labels: { formatter: (value: string | number) => String(Math.round(Number(value))) },
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
      },
      series: this.series(),
      colors: ['#8792a5', '#0b6e8a', '#16243a'],
      stroke: { width: [2, 3, 0], dashArray: [5, 0, 0], curve: 'straight' },
      markers: { size: [0, 0, 5], strokeWidth: 0 },
      legend: { show: true, position: 'top', horizontalAlign: 'left' },
      tooltip: { enabled: false },
      dataLabels: { enabled: false },
      grid: { borderColor: '#d9dce3', padding: { top: -10, right: 12, bottom: -4, left: 4 } },
      xaxis: { ...axis, type: 'numeric', title: { text: 'velocity as it is struck' } },
      yaxis: { ...axis, title: { text: 'velocity out' } },
    });
    this.chart = chart;
    await chart.render();
  }
}
