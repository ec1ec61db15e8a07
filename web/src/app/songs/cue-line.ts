import { CdkDrag, type CdkDragEnd } from '@angular/cdk/drag-drop';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
  viewChildren,
} from '@angular/core';
import type { Cue } from '@pentachord/core/model';
import { clockTime } from '@pentachord/core/units';
import { gridOf, loudnessLine, scaleOf, ticksOf } from '../ui/cues/loudness-line';

/** A cue with what its line needs to know of it. */
export interface LinedCue {
  cue: Cue;
  /** LUFS; −∞ while it is not known. */
  loudness: number;
  /** Seconds over which it arrives. */
  fade: number;
  /** False when it is left out tonight. */
  played: boolean;
}

/** The cues of a song on its own time: a mark each, under them how loud they are, glides as the slopes that they are. */
@Component({
  selector: 'pc-cue-line',
  imports: [CdkDrag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './cue-line.html',
  styleUrl: './cue-line.scss',
})
export class CueLine {
  readonly cues = input.required<readonly LinedCue[]>();
  readonly lengthSeconds = input.required<number>();
  readonly current = input<string | null>(null);
  readonly chosen = output<Cue>();
  readonly placed = output<{ cueId: string; atSeconds: number; gesture?: string }>();

  private readonly host = inject<ElementRef<HTMLElement>>(ElementRef).nativeElement;
  /** The cue under the hand. */
  protected readonly carried = signal<string | null>(null);
  private readonly drags = viewChildren(CdkDrag);
  private readonly reading = viewChild<ElementRef<HTMLElement>>('reading');
  private begun = { left: 0, width: 1, at: 0 };

  /** The time that the line shows: the song’s, and longer when a cue lies beyond. */
  protected readonly span = computed(() =>
    Math.max(1, this.lengthSeconds(), ...this.cues().map(({ cue }) => cue.atSeconds)),
  );
  protected readonly ticks = computed(() => ticksOf(this.span()));
  private readonly scale = computed(() => scaleOf(this.cues().map(({ loudness }) => loudness)));
  protected readonly grid = computed(() => gridOf(this.scale()));
  protected readonly line = computed(() =>
    loudnessLine(
      this.cues()
        .filter(({ played }) => played)
        .map(({ cue, loudness, fade }) => ({ at: cue.atSeconds, loudness, fade })),
      this.span(),
      this.scale(),
    ),
  );
  protected readonly marks = computed(() => {
    const all = this.cues();
    return all.map(({ cue, loudness, played }, i) => ({
      cue,
      played,
      left: (cue.atSeconds / this.span()) * 100,
      // Its name ends where the next mark begins.
      room: (((all.at(i + 1)?.cue.atSeconds ?? this.span()) - cue.atSeconds) / this.span()) * 100,
      words: `${cue.name}, at ${clockTime(cue.atSeconds)}${
        Number.isFinite(loudness) ? `, ${inLufs(loudness)}` : ''
      }${played ? '' : ', left out tonight'}`,
    }));
  });

  protected time(seconds: number): string {
    return clockTime(seconds);
  }

  constructor() {
    // With every move of the hand only the reading is written: nothing else on the page has to be looked at.
    effect((onCleanup) => {
      const moves = this.drags().map((drag) =>
        drag._dragRef.moved.subscribe(({ distance }) => this.read(distance.x)),
      );
      onCleanup(() => moves.forEach((move) => move.unsubscribe()));
    });
  }

  protected begin(cue: Cue): void {
    const { left, width } = this.host.getBoundingClientRect();
    this.begun = { left, width, at: cue.atSeconds };
    this.carried.set(cue.id);
  }

  protected put(cue: Cue, { distance, source }: CdkDragEnd): void {
    const atSeconds = this.timeAt(distance.x);
    source.reset();
    this.carried.set(null);
    if (atSeconds !== cue.atSeconds) this.placed.emit({ cueId: cue.id, atSeconds });
  }

  protected key(event: KeyboardEvent, cue: Cue): void {
    const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
    if (way === 0 || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    event.stopPropagation();
    const atSeconds = cue.atSeconds + way * (event.shiftKey ? 10 : 1);
    this.placed.emit({
      cueId: cue.id,
      atSeconds: Math.min(Math.max(0, atSeconds), this.lengthSeconds()),
      gesture: `place ${cue.id}`,
    });
  }

  private read(moved: number): void {
    const reading = this.reading()?.nativeElement;
    if (reading) reading.textContent = clockTime(this.timeAt(moved));
  }

  private timeAt(moved: number): number {
    const { width, at } = this.begun;
    const seconds = at + (moved / width) * this.span();
    return Math.round(Math.min(Math.max(0, seconds), this.lengthSeconds()));
  }
}

function inLufs(loudness: number): string {
  return `${loudness.toFixed(1).replace('-', '−')} LUFS`;
}
