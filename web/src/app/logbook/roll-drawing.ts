import { formatDate } from '@angular/common';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import type { Stretch } from '@pentachord/core/model';
import type { WholeTake } from '@pentachord/core/logbook';
import { hasKeys, type RollLanes } from './roll-lanes';

/** Seconds between numbers on the axis, such that there are few enough. */
const STEPS = [1, 2, 5, 10, 30, 60, 120, 300, 600, 900, 1800, 3600];
const MOST_NUMBERS = 12;
/** Pixels that a hand moves before it draws a stretch. */
const DRAWN_FROM = 5;
/** Share of the whole from which on a song has room for its name. */
const LEAST_SHARE = 0.035;

/** A stretch that is chosen, seconds. */
export interface Span {
  from: number;
  until: number;
}

/** The roll of what was played: the night's own scale from left to right, a lane a keyboard, the strength of a key as ink. */
@Component({
  selector: 'pc-roll-drawing',
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './roll-drawing.html',
  styleUrl: './roll-drawing.scss',
})
export class RollDrawing {
  readonly whole = input.required<WholeTake>();
  readonly lanes = input.required<RollLanes>();
  /** Where one is, seconds. */
  readonly at = input.required<number>();
  readonly span = input.required<Span | null>();
  /** How that is said. */
  readonly words = input.required<string>();
  readonly moved = output<number>();
  readonly drawn = output<Span | null>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  private readonly held = signal<{ x: number; from: number } | null>(null);

  protected readonly seconds = computed(() => Math.max(0.5, this.whole().take.seconds));
  protected readonly board = computed(() => {
    const { take } = this.whole();
    return this.lanes().lanes.map((lane) => ({
      ...lane,
      grows: hasKeys(take, lane.sender) ? 3 : 1,
      box: `0 ${-lane.high} ${this.seconds()} ${lane.high - lane.low}`,
    }));
  });
  protected readonly legs = computed(() =>
    this.lanes().legs.map(({ from, until, name }) => ({
      left: this.share(from),
      width: this.share(until - from),
      name: (until - from) / this.seconds() < LEAST_SHARE ? '' : name,
    })),
  );
  protected readonly cues = computed(() =>
    this.lanes().cues.map(({ at, name }) => ({ left: this.share(at), name })),
  );
  protected readonly numbers = computed(() => {
    const seconds = this.seconds();
    const step = STEPS.find((one) => seconds / one <= MOST_NUMBERS) ?? 7200;
    const { began } = this.whole().take;
    const begin = new Date(began);
    const format = step < 60 ? 'HH:mm:ss' : 'HH:mm';
    const clock = begin.getHours() * 3600 + begin.getMinutes() * 60 + begin.getSeconds();
    const found: { left: number; words: string }[] = [];
    for (let at = (step - (clock % step)) % step; at <= seconds; at += step)
      found.push({ left: this.share(at), words: formatDate(began + at * 1000, format, 'en-US') });
    return found;
  });
  protected readonly place = computed(() => this.share(Math.min(this.at(), this.seconds())));
  protected readonly chosen = computed(() => {
    const span = this.span();
    return span && { left: this.share(span.from), width: this.share(span.until - span.from) };
  });
  protected readonly stretches = computed(() =>
    this.whole().take.stretches.map((stretch: Stretch) => ({
      ...stretch,
      left: this.share(stretch.from),
      width: this.share(stretch.until - stretch.from),
    })),
  );

  private share(seconds: number): number {
    return (seconds / this.seconds()) * 100;
  }

  private secondsAt(event: PointerEvent): number {
    const { left, width } = this.host.getBoundingClientRect();
    const share = width > 0 ? (event.clientX - left) / width : 0;
    return Math.max(0, Math.min(1, share)) * this.seconds();
  }

  protected down(event: PointerEvent): void {
    if (event.button !== 0) return;
    (event.currentTarget as HTMLElement).setPointerCapture(event.pointerId);
    const from = this.secondsAt(event);
    this.held.set({ x: event.clientX, from });
    this.moved.emit(from);
    this.drawn.emit(null);
  }

  protected move(event: PointerEvent): void {
    const held = this.held();
    if (!held || Math.abs(event.clientX - held.x) < DRAWN_FROM) return;
    const now = this.secondsAt(event);
    this.drawn.emit({ from: Math.min(held.from, now), until: Math.max(held.from, now) });
  }

  protected up(): void {
    this.held.set(null);
  }

  /** Gives nothing back: what a listener gives back as false takes the key, Tab included, from the browser. */
  protected key(event: KeyboardEvent): void {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const by = event.shiftKey ? 10 : 1;
    const places = this.lanes().legs.map(({ from }) => from);
    const at = this.at();
    const to: Record<string, number | undefined> = {
      ArrowLeft: at - by,
      ArrowRight: at + by,
      Home: 0,
      End: this.seconds(),
      PageUp: places.findLast((from) => from < at - 0.01) ?? 0,
      PageDown: places.find((from) => from > at + 0.01) ?? this.seconds(),
    };
    const next = to[event.key];
    if (next === undefined) return;
    event.preventDefault();
    this.moved.emit(Math.max(0, Math.min(this.seconds(), next)));
  }
}
