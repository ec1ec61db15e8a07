import {
  ChangeDetectionStrategy,
  Component,
  computed,
  type ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import type { MiddleC } from '@pentachord/core/pitch';
import { Live } from '../../live/live';
import { readNumber, writeNumber, type NumberKind } from './number-text';

/**
 * A number that can be typed, stepped with the arrow keys, and, for keys, set by playing: with the caret in the field,
 * the next key struck is taken.
 */
@Component({
  selector: 'pc-number-field',
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <input
      #box
      type="text"
      autocomplete="off"
      spellcheck="false"
      role="spinbutton"
      [class.bad]="problem()"
      [style.width.ch]="chars()"
      [value]="shown()"
      [disabled]="disabled()"
      [attr.aria-label]="label()"
      [attr.aria-valuenow]="value()"
      [attr.aria-valuemin]="min()"
      [attr.aria-valuemax]="max()"
      [attr.aria-valuetext]="written()"
      [attr.aria-invalid]="problem() ? true : null"
      [attr.title]="problem() || hint()"
      (focus)="begin()"
      (blur)="finish()"
      (input)="typed.set(box.value)"
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
    }
    input {
      font: 400 13px/1 var(--mono);
      font-variant-numeric: tabular-nums;
      color: inherit;
      background: transparent;
      border: 1px solid transparent;
      border-radius: 4px;
      padding: 4px 3px;
      text-align: inherit;
      box-sizing: content-box;
    }
    input:hover:not(:disabled) {
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
  readonly middleC = input<MiddleC>(4);
  readonly disabled = input(false);
  /** What the number does, told on hovering. */
  readonly explain = input('');
  /** A new value, with the gesture it belongs to. */
  readonly changed = output<{ value: number; gesture: string }>();

  private readonly live = inject(Live);
  private readonly box = viewChild.required<ElementRef<HTMLInputElement>>('box');
  protected readonly typed = signal<string | null>(null);
  protected readonly problem = signal('');
  private gesture = '';
  private stopListening: (() => void) | null = null;

  protected readonly written = computed(() =>
    writeNumber(this.value(), this.kind(), this.middleC()),
  );
  private readonly limits = computed(() => ({
    min: this.min(),
    max: this.max(),
    middleC: this.middleC(),
  }));
  protected readonly shown = computed(() => this.typed() ?? this.written());
  protected readonly hint = computed(() =>
    this.kind() === 'key'
      ? `${this.value()} · type it, arrow keys, or play the key`
      : this.explain(),
  );

  protected begin(): void {
    this.gesture = crypto.randomUUID();
    this.box().nativeElement.select();
    if (this.kind() === 'key')
      this.stopListening = this.live.host.listenToKeys((key) => {
        this.typed.set(null);
        this.take(key);
        queueMicrotask(() => this.box().nativeElement.select());
      });
  }

  protected finish(): void {
    this.stopListening?.();
    this.stopListening = null;
    this.commit();
    this.typed.set(null);
    this.problem.set('');
  }

  protected key(event: KeyboardEvent): void {
    // With nothing to take back here, Escape is meant for what is around.
    if (event.key === 'Escape' && this.typed() === null && !this.problem()) return;
    if (event.key === 'ArrowUp' || event.key === 'ArrowDown') {
      event.preventDefault();
      this.commit();
      const far = this.kind() === 'key' || this.kind() === 'signed' ? 12 : 10;
      const by = this.step() * (event.shiftKey ? far : 1) * (event.key === 'ArrowUp' ? 1 : -1);
      this.take(Math.round((this.value() + by) * 100) / 100);
    } else if (event.key === 'Enter') {
      this.commit();
      if (!this.problem()) this.box().nativeElement.select();
    } else if (event.key === 'Escape') {
      this.typed.set(null);
      this.problem.set('');
      this.box().nativeElement.value = this.written();
    }
    // Single letters are shortcuts elsewhere, but here they are text.
    event.stopPropagation();
  }

  private commit(): void {
    const text = this.typed();
    if (text === null || text.trim() === this.written()) {
      this.typed.set(null);
      return;
    }
    const read = readNumber(text, this.kind(), this.limits());
    if (!read.ok) {
      this.problem.set(read.problem);
      return;
    }
    this.typed.set(null);
    this.take(read.value);
  }

  private take(value: number): void {
    this.problem.set('');
    const taken = Math.min(this.max(), Math.max(this.min(), value));
    if (taken !== this.value()) this.changed.emit({ value: taken, gesture: this.gesture });
    this.box().nativeElement.value = writeNumber(taken, this.kind(), this.middleC());
  }
}
