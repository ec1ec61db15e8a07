import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  untracked,
  viewChild,
} from '@angular/core';
import type { NoteNaming } from '@pentachord/core/pitch';
import { Live } from '../../live/live';
import { StatusLine } from '../../state/session/status-line';
import { NumberFieldControl } from './number-field-control';
import { isEverything, readNumber, writeNumber, type NumberKind } from './number-text';
import { Tip } from '../tips/tip';

/** Pixels that the hand moves before it drags the number and does not just click. */
const SLACK = 4;
/** Pixels for one step while the number is dragged. */
const PIXELS_A_STEP = 5;

/**
 * A number that can be typed, stepped with the arrow keys, dragged up and down, and, for keys, set by playing: with the caret
 * in the field, the next key struck is taken. It stands bare in a table cell, or in a Material form field.
 */
@Component({
  selector: 'pc-number-field',
  imports: [Tip],
  hostDirectives: [NumberFieldControl],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      type="text"
      autocomplete="off"
      spellcheck="false"
      role="spinbutton"
      [id]="control.id"
      [class.bad]="problem()"
      [style.width.ch]="wide()"
      [value]="shown()"
      [pcTip]="problem() === '' ? hint() : ''"
      [attr.aria-label]="label()"
      [attr.aria-valuenow]="value()"
      [attr.aria-valuemin]="min()"
      [attr.aria-valuemax]="max()"
      [attr.aria-valuetext]="shownAs() || written()"
      [attr.aria-invalid]="problem() ? true : null"
      [attr.aria-describedby]="control.describedBy() || null"
      (pointerdown)="takeHold($event)"
      (pointermove)="pull($event)"
      (pointerup)="letGo()"
      (pointercancel)="letGo()"
      (focus)="begin()"
      (blur)="finish()"
      (input)="type(box.value)"
      (keydown)="key($event)"
    />
    @if (problem(); as words) {
      <span class="problem" role="alert">{{ words }}</span>
    }
  `,
  styles: `
    :host {
      position: relative;
      display: inline-block;
      vertical-align: middle;
    }
    /* As large as it is whatever it reads, so that a table of numbers need not be laid out again when one of them changes. */
    input {
      contain: size layout;
      height: 17px;
      vertical-align: middle;
      font: 400 13px/1 var(--mono);
      font-variant-numeric: tabular-nums;
      color: inherit;
      background: transparent;
      border: 1px solid transparent;
      border-radius: 4px;
      padding: 4px 3px;
      text-align: inherit;
      box-sizing: content-box;
      touch-action: none;
    }
    input:hover {
      border-color: #8792a5;
      background: var(--sheet);
    }
    input:focus {
      outline: 2px solid var(--sea);
      outline-offset: -1px;
      background: var(--sheet);
    }
    input.bad {
      outline-color: var(--alarm);
    }
    .problem {
      position: absolute;
      z-index: 5;
      bottom: 100%;
      left: 0;
      width: max-content;
      max-width: 260px;
      background: var(--alarm);
      color: #fff;
      padding: 4px 8px;
      border-radius: 4px;
      font: 400 13px/1.3 var(--words);
      white-space: normal;
    }
  `,
})
export class NumberField {
  readonly value = input.required<number>();
  readonly kind = input<NumberKind>('plain');
  readonly label = input.required<string>();
  readonly min = input(0);
  readonly max = input(127);
  /** How far an arrow key goes; with Shift ten times as far, or an octave. */
  readonly step = input(1);
  readonly chars = input(4);
  readonly middleC = input<NoteNaming>(4);
  /** What the number does, told on hovering. */
  readonly explain = input('');
  /** What is shown in place of the number while nobody types, such as “all” for a range without limits. */
  readonly shownAs = input<string | null>(null);
  /** A new value, with the gesture it belongs to. */
  readonly changed = output<{ value: number; gesture: string }>();
  /** “all” was typed, with the gesture. */
  readonly allAsked = output<string>();

  private readonly live = inject(Live);
  private readonly status = inject(StatusLine);
  protected readonly control = inject(NumberFieldControl);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly typed = signal<string | null>(null);
  protected readonly problem = signal('');
  /** Counts how often the hand was done with the text. */
  private readonly settled = signal(0);
  private gesture = '';
  private stopListening: (() => void) | null = null;
  private hold: { y: number; from: number; drags: boolean } | null = null;

  /** Room for the number beside the name of a note. */
  protected readonly wide = computed(() => {
    const naming = this.middleC();
    const isNumbered = this.kind() === 'key' && typeof naming !== 'number' && naming.numbers;
    return this.chars() + (isNumbered ? 4 : 0);
  });

  protected readonly written = computed(() =>
    writeNumber(this.value(), this.kind(), this.middleC()),
  );
  private readonly limits = computed(() => ({
    min: this.min(),
    max: this.max(),
    middleC: this.middleC(),
  }));
  protected readonly shown = computed(() => this.typed() ?? this.shownAs() ?? this.written());
  protected readonly hint = computed(() =>
    this.kind() === 'key'
      ? `${this.value()} · type it, arrow keys, drag, or play the key`
      : this.explain(),
  );

  constructor() {
    // The text is the hand's while it types; then it reads what was made of it, which is known with the next turn only, and
    // may be what stood there before.
    effect(() => {
      this.settled();
      untracked(() => (this.box().nativeElement.value = this.shown()));
    });
    this.control.focusField = () => this.focus();
  }

  /** Puts the caret into it, its number selected. */
  focus(): void {
    this.box().nativeElement.focus();
  }

  protected begin(): void {
    this.gesture = crypto.randomUUID();
    this.control.tell({ focused: true });
    this.box().nativeElement.select();
    if (this.kind() === 'key')
      this.stopListening = this.live.host.listenToKeys((key) => {
        this.typed.set(null);
        this.take(key);
        queueMicrotask(() => this.box().nativeElement.select());
      });
  }

  /** What is wrong goes as soon as it is right. */
  protected type(text: string): void {
    this.typed.set(text);
    if (this.problem() && (isEverything(text) || readNumber(text, this.kind(), this.limits()).ok))
      this.setProblem('');
  }

  protected finish(): void {
    this.stopListening?.();
    this.stopListening = null;
    this.commit();
    // What could not be taken is told even when the hand is elsewhere already.
    if (this.problem()) this.status.say(`${this.label()} stays as it was: ${this.problem()}`);
    this.typed.set(null);
    this.setProblem('');
    this.control.tell({ focused: false });
    this.settle();
  }

  protected takeHold(event: PointerEvent): void {
    if (event.button !== 0 || document.activeElement === this.box().nativeElement) return;
    this.hold = { y: event.clientY, from: this.value(), drags: false };
  }

  protected pull(event: PointerEvent): void {
    const { hold } = this;
    if (!hold) return;
    const up = hold.y - event.clientY;
    if (!hold.drags) {
      if (Math.abs(up) < SLACK) return;
      hold.drags = true;
      this.gesture = crypto.randomUUID();
      this.box().nativeElement.setPointerCapture(event.pointerId);
      this.box().nativeElement.blur();
    }
    this.take(rounded(hold.from + Math.round(up / PIXELS_A_STEP) * this.step()));
  }

  protected letGo(): void {
    this.hold = null;
  }

  protected key(event: KeyboardEvent): void {
    // With nothing to take back here, Escape is meant for what is around.
    if (event.key === 'Escape' && this.typed() === null && !this.problem()) return;
    // With Ctrl an arrow key goes to the row above or below.
    if ((event.ctrlKey || event.metaKey) && event.key.startsWith('Arrow')) return;
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      this.commit();
      const far = this.kind() === 'key' || this.kind() === 'signed' ? 12 : 10;
      const by = this.step() * (event.shiftKey ? far : 1) * (event.key === 'ArrowUp' ? 1 : -1);
      this.take(rounded(this.value() + by));
    } else if (event.key === 'Enter') {
      this.commit();
      if (!this.problem()) this.box().nativeElement.select();
    } else if (event.key === 'Escape') {
      this.typed.set(null);
      this.setProblem('');
      this.settle();
    }
    // Single letters are shortcuts elsewhere, but here they are text.
    event.stopPropagation();
  }

  private commit(): void {
    const text = this.typed();
    if (text === null || text.trim() === this.written() || text.trim() === this.shownAs()) {
      this.typed.set(null);
      return;
    }
    if (isEverything(text)) {
      this.typed.set(null);
      this.setProblem('');
      this.allAsked.emit(this.gesture);
      return;
    }
    const read = readNumber(text, this.kind(), this.limits());
    if (!read.ok) {
      this.setProblem(read.problem);
      return;
    }
    this.typed.set(null);
    this.take(read.value);
  }

  private take(value: number): void {
    this.setProblem('');
    const taken = Math.min(this.max(), Math.max(this.min(), value));
    if (taken !== this.value()) this.changed.emit({ value: taken, gesture: this.gesture });
    this.box().nativeElement.value = writeNumber(taken, this.kind(), this.middleC());
    this.settle();
  }

  private settle(): void {
    this.settled.update((count) => count + 1);
  }

  private setProblem(words: string): void {
    this.problem.set(words);
    this.control.tell({ errorState: words !== '' });
  }
}

function rounded(value: number): number {
  return Math.round(value * 1000) / 1000;
}
