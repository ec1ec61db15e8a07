import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  linkedSignal,
  output,
  signal,
} from '@angular/core';
import type { PlayableAudio } from '@pentachord/core/mapping';
import type { SampleZone } from '@pentachord/core/model';
import { outlineOf } from '../live/audio/outline';
import { eachFrame } from '../live/frames';

/** What of a zone is drawn on its wave. */
type Edge = 'start' | 'end' | 'loop start' | 'loop end';

/** What of a zone was moved on its wave, with the gesture that it belongs to. */
export interface WaveMoved {
  changes: Partial<Pick<SampleZone, 'start' | 'end' | 'loop'>>;
  gesture: string;
}

/** Shortest stretch that is looked at, seconds. */
const CLOSEST = 0.005;
const ZOOM = 1.3;
/** Seconds that an arrow key moves an edge by, and with Shift. */
const FINE = 0.001;
const COARSE = 0.02;

/** The wave of a recording: what is played of it and its loop to be dragged, zoomed by wheel and keys, and where it plays now. */
@Component({
  selector: 'pc-wave',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './wave.html',
  styleUrl: './wave.scss',
})
export class Wave {
  readonly zone = input.required<SampleZone>();
  readonly audio = input.required<PlayableAudio | null>();
  /** Where in the recording it plays now, seconds; asked once a frame. */
  readonly playing = input<() => number | null>(() => null);
  readonly moved = output<WaveMoved>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef);
  private readonly width = signal(600);
  private readonly height = signal(100);
  protected readonly place = signal<number | null>(null);
  private hold: { edge: Edge; gesture: string } | null = null;

  private readonly seconds = computed(() => {
    const audio = this.audio();
    return audio ? audio.left.length / audio.sampleRate : 1;
  });
  /** Another recording is looked at whole. */
  private readonly recordingId = computed(() => this.zone().recordingId);
  protected readonly view = linkedSignal<string | number, { from: number; to: number }>({
    source: () => `${this.recordingId()} ${this.seconds()}`,
    computation: () => ({ from: 0, to: this.seconds() }),
  });

  protected readonly path = computed(() => {
    const audio = this.audio();
    if (!audio) return '';
    const { from, to } = this.view();
    const count = Math.max(2, Math.round(this.width()));
    const rate = audio.sampleRate;
    const outline = outlineOf(audio.left, Math.floor(from * rate), Math.ceil(to * rate), count);
    const y = (level: number) => ((1 - level / 128) * this.height()) / 2;
    let path = '';
    for (let i = 0; i < count; i++)
      path += `M${i} ${y(outline[2 * i + 1]) - 0.5}V${y(outline[2 * i]) + 0.5}`;
    return path;
  });
  protected readonly loop = computed(() => {
    const { loop } = this.zone();
    if (!loop) return null;
    const x = this.xOf(loop.start);
    return {
      x,
      width: this.xOf(loop.end) - x,
      fade: this.xOf(loop.end) - this.xOf(loop.end - loop.crossfade),
    };
  });
  protected readonly played = computed(() => {
    const { start, end } = this.zone();
    return { from: this.xOf(start), to: this.xOf(end ?? this.seconds()) };
  });
  protected readonly edges = computed(() => {
    const { start, end, loop } = this.zone();
    const edges: { edge: Edge; at: number }[] = [
      { edge: 'start', at: start },
      { edge: 'end', at: end ?? this.seconds() },
    ];
    if (loop)
      edges.push({ edge: 'loop start', at: loop.start }, { edge: 'loop end', at: loop.end });
    return edges.map(({ edge, at }) => ({
      ...{ edge, at, x: this.xOf(at), isLoop: edge.startsWith('loop') },
      label: edge.charAt(0).toUpperCase() + edge.slice(1),
      text: `${at.toFixed(3)} s`,
    }));
  });
  protected readonly placeX = computed(() => {
    const place = this.place();
    return place === null ? null : this.xOf(place);
  });
  protected readonly ruler = computed(() => {
    const { from, to } = this.view();
    const step = niceStep((to - from) / 6);
    const first = Math.ceil(from / step) * step;
    const count = Math.max(0, Math.floor((to - first) / step) + 1);
    return Array.from({ length: count }, (_, i) => first + i * step).map((at) => ({
      x: this.xOf(at),
      text: `${at.toFixed(step < 0.01 ? 3 : step < 0.1 ? 2 : 1)} s`,
    }));
  });

  constructor() {
    const observer = new ResizeObserver(([entry]) => {
      const { width, height } = entry.contentRect;
      if (width > 0 && height > 0) {
        this.width.set(width);
        this.height.set(Math.max(20, height - 16));
      }
    });
    observer.observe(this.host.nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
    eachFrame(() => this.place.set(this.playing()()));
  }

  protected get size() {
    return { width: this.width(), height: this.height() };
  }

  private xOf(seconds: number): number {
    const { from, to } = this.view();
    return ((seconds - from) / (to - from)) * this.width();
  }

  private secondsAt(clientX: number): number {
    const { from, to } = this.view();
    const { left } = this.host.nativeElement.getBoundingClientRect();
    return from + ((clientX - left) / this.width()) * (to - from);
  }

  protected grab(event: PointerEvent, edge: Edge): void {
    const target = event.currentTarget as SVGElement;
    target.setPointerCapture(event.pointerId);
    target.focus();
    this.hold = { edge, gesture: crypto.randomUUID() };
  }

  protected drag(event: PointerEvent): void {
    if (this.hold) this.put(this.hold.edge, this.secondsAt(event.clientX), this.hold.gesture);
  }

  protected letGo(): void {
    this.hold = null;
  }

  protected nudge(event: KeyboardEvent, edge: Edge, at: number): void {
    const way = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    this.put(edge, at + way * (event.shiftKey ? COARSE : FINE), `wave ${edge} ${this.zone().id}`);
  }

  private put(edge: Edge, seconds: number, gesture: string): void {
    const whole = this.seconds();
    const { start, end, loop } = this.zone();
    const at = Math.min(whole, Math.max(0, seconds));
    const last = end ?? whole;
    const changes: WaveMoved['changes'] = {};
    if (edge === 'start') changes.start = Math.min(at, last - CLOSEST);
    else if (edge === 'end') changes.end = at >= whole ? null : Math.max(at, start + CLOSEST);
    else if (loop && edge === 'loop start')
      changes.loop = { ...loop, start: Math.min(at, loop.end - CLOSEST) };
    else if (loop) changes.loop = { ...loop, end: Math.max(at, loop.start + CLOSEST) };
    this.moved.emit({ changes, gesture });
  }

  protected turn(event: WheelEvent): void {
    event.preventDefault();
    if (event.deltaX !== 0)
      this.scroll((event.deltaX / this.width()) * (this.view().to - this.view().from));
    else this.zoom(event.deltaY > 0 ? ZOOM : 1 / ZOOM, this.secondsAt(event.clientX));
  }

  protected key(event: KeyboardEvent): void {
    const { from, to } = this.view();
    const middle = (from + to) / 2;
    if (event.key === '+' || event.key === '=') this.zoom(1 / ZOOM, middle);
    else if (event.key === '-') this.zoom(ZOOM, middle);
    else if (event.key === 'ArrowLeft') this.scroll(-(to - from) / 8);
    else if (event.key === 'ArrowRight') this.scroll((to - from) / 8);
    else if (event.key === '0') this.view.set({ from: 0, to: this.seconds() });
    else return;
    event.preventDefault();
    event.stopPropagation();
  }

  private zoom(factor: number, round: number): void {
    const { from, to } = this.view();
    const wide = Math.min(this.seconds(), Math.max(CLOSEST, (to - from) * factor));
    const share = (round - from) / (to - from);
    const begin = Math.max(0, Math.min(this.seconds() - wide, round - share * wide));
    this.view.set({ from: begin, to: begin + wide });
  }

  private scroll(by: number): void {
    const { from, to } = this.view();
    const begin = Math.max(0, Math.min(this.seconds() - (to - from), from + by));
    this.view.set({ from: begin, to: begin + to - from });
  }
}

/** A step of 1, 2 or 5 that is no smaller. */
function niceStep(least: number): number {
  const power = 10 ** Math.floor(Math.log10(least));
  const step = [1, 2, 5, 10].find((one) => one * power >= least) ?? 10;
  return step * power;
}
