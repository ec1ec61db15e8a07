import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { noteName, withoutNumbers, type NoteNaming } from '@pentachord/core/pitch';
import { eachFrame } from '../../live/frames';
import { BLACK_DEPTH, keyAt, keyShapes, type KeyShape } from './key-geometry';

/** A colour under some keys. */
export interface KeyTint {
  key: number;
  colour: string;
}

/**
 * A keyboard that can be played: where on the key it is touched makes the velocity, soft at the back and strong in front.
 * Keys that sound light up; it reads them once a frame and touches nothing else.
 */
@Component({
  selector: 'pc-keyboard',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <svg
      #board
      role="img"
      [attr.viewBox]="'0 0 ' + span() + ' 10'"
      preserveAspectRatio="none"
      [attr.aria-label]="label()"
      (pointerdown)="press($event)"
      (pointermove)="slide($event)"
      (pointerup)="lift($event)"
      (pointercancel)="lift($event)"
    >
      @for (shape of shapes(); track shape.key) {
        <rect
          [attr.x]="shape.left"
          y="0"
          [attr.width]="shape.right - shape.left"
          [attr.height]="shape.black ? blackDepth : 10"
          [class.black]="shape.black"
          [class.white]="!shape.black"
          [class.down]="down().has(shape.key)"
          [class.dim]="dimmed().has(shape.key)"
          [attr.data-key]="shape.key"
        />
      }
      @for (tint of tints(); track tint.key) {
        <rect
          [attr.x]="tint.x"
          y="9.2"
          [attr.width]="tint.width"
          height="0.8"
          [attr.fill]="tint.colour"
        />
      }
    </svg>
    @for (name of names(); track name.key) {
      <span
        class="name mono"
        [class.sounding]="sounding()"
        [class.on-black]="name.black"
        aria-hidden="true"
        [style.left.%]="name.left"
        [style.width.%]="name.width"
        >{{ name.text }}</span
      >
    }
  `,
  styles: `
    :host {
      position: relative;
      display: block;
      height: 100%;
      touch-action: none;
      user-select: none;
    }
    svg {
      display: block;
      width: 100%;
      height: 100%;
    }
    rect {
      vector-effect: non-scaling-stroke;
    }
    .white {
      fill: var(--key-white, #fff);
      stroke: var(--key-line, #16243a);
      stroke-width: 1px;
    }
    .black {
      fill: var(--key-black, #16243a);
    }
    .dim.white {
      fill: var(--key-dim, #f6dcd8);
    }
    .dim.black {
      fill: var(--key-dim-black, #8d4239);
    }
    .down.white,
    .down.black {
      fill: var(--lamp);
      stroke: var(--key-line, #16243a);
      stroke-width: 1px;
    }
    .name.sounding {
      font-size: 11px;
      line-height: 1.05;
      color: var(--sea);
      font-weight: 700;
    }
    .name.on-black {
      bottom: 40%;
      font-size: 10px;
      color: #fff;
    }
    .name {
      position: absolute;
      white-space: pre-line;
      bottom: 7%;
      text-align: center;
      font-size: 12px;
      pointer-events: none;
      color: var(--key-name, #16243a);
    }
  `,
})
export class PlayableKeyboard {
  readonly lowestKey = input.required<number>();
  readonly highestKey = input.required<number>();
  readonly label = input('Keyboard');
  readonly middleC = input<NoteNaming>(4);
  /** Velocity of a key that is down, 0 when it is up; asked once a frame. */
  readonly velocityOf = input<(key: number) => number>(() => 0);
  /** Keys that nobody answers. */
  readonly dimmed = input<ReadonlySet<number>>(new Set());
  /** What keys sound, by key, to be told on them in place of their names; null to show their names. */
  readonly sounding = input<ReadonlyMap<number, number> | null>(null);
  readonly tinted = input<readonly KeyTint[]>([]);
  readonly struck = output<{ key: number; velocity: number }>();
  readonly released = output<number>();

  protected readonly blackDepth = BLACK_DEPTH * 10;
  private readonly board = viewChild.required<ElementRef<SVGSVGElement>>('board');
  private readonly held = new Map<number, number>();
  protected readonly down = signal<ReadonlySet<number>>(new Set());
  protected readonly span = computed(() => this.highestKey() - this.lowestKey() + 1);
  protected readonly shapes = computed(() => keyShapes(this.lowestKey(), this.highestKey()));
  private readonly shapeOf = computed(() => new Map(this.shapes().map((s) => [s.key, s])));
  protected readonly tints = computed(() =>
    this.tinted().flatMap(({ key, colour }) => {
      const shape = this.shapeOf().get(key);
      return shape && !shape.black
        ? [{ key, colour, x: shape.left, width: shape.right - shape.left }]
        : [];
    }),
  );
  protected readonly names = computed(() => {
    const sounding = this.sounding();
    return this.shapes().flatMap(({ key, left, right, black }) => {
      const note = sounding ? sounding.get(key) : key % 12 === 0 ? key : undefined;
      if (note === undefined) return [];
      const name = noteName(note, withoutNumbers(this.middleC()));
      // On a narrow key the octave stands under the letter.
      const text = sounding ? name.replace(/(-?\d+)$/, '\n$1') : name;
      const span = this.span();
      return { key, text, black, left: (left / span) * 100, width: ((right - left) / span) * 100 };
    });
  });

  constructor() {
    eachFrame(() => this.lightUp());
  }

  protected press(event: PointerEvent): void {
    this.board().nativeElement.setPointerCapture(event.pointerId);
    this.strike(event);
  }

  protected slide(event: PointerEvent): void {
    const before = this.held.get(event.pointerId);
    if (before === undefined) return;
    const place = this.placeOf(event);
    if (place.key === null || place.key === before) return;
    this.released.emit(before);
    this.strike(event);
  }

  protected lift(event: PointerEvent): void {
    const key = this.held.get(event.pointerId);
    this.held.delete(event.pointerId);
    if (key !== undefined) this.released.emit(key);
  }

  private strike(event: PointerEvent): void {
    const { key, depth } = this.placeOf(event);
    if (key === null) return;
    this.held.set(event.pointerId, key);
    const reach = this.shapeOf().get(key)?.black ? BLACK_DEPTH : 1;
    const velocity = Math.round(12 + 115 * Math.min(1, depth / (reach * 0.95)));
    this.struck.emit({ key, velocity: Math.min(127, Math.max(1, velocity)) });
  }

  private placeOf(event: PointerEvent): { key: KeyShape['key'] | null; depth: number } {
    const box = this.board().nativeElement.getBoundingClientRect();
    const x = ((event.clientX - box.left) / box.width) * this.span();
    const depth = (event.clientY - box.top) / box.height;
    return { key: keyAt(this.lowestKey(), this.highestKey(), x, depth), depth };
  }

  private lightUp(): void {
    const velocityOf = this.velocityOf();
    const before = this.down();
    let changed = false;
    for (let key = this.lowestKey(); key <= this.highestKey() && !changed; key++)
      changed = velocityOf(key) > 0 !== before.has(key);
    if (!changed) return;
    const now = new Set<number>();
    for (let key = this.lowestKey(); key <= this.highestKey(); key++)
      if (velocityOf(key) > 0) now.add(key);
    this.down.set(now);
  }
}
