import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  inject,
  input,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { NOTE_ON } from '@pentachord/core/midi';
import type { Keyboard } from '@pentachord/core/model';
import {
  fittedTouch,
  median,
  STROKE_KINDS,
  STROKES_ASKED,
  touchInWords,
  type Stroke,
  type StrokeKind,
} from '@pentachord/core/touch';
import { Live } from '../../live/live';
import { RigEditing } from '../../state/editing/rig-editing';
import { StrokesChart } from './strokes-chart';

/** Fits a keyboard’s touch to its player: soft, medium and hard strokes are asked for, and each is shown as it lands. */
@Component({
  selector: 'pc-keyboard-touch-tab',
  imports: [MatButtonModule, StrokesChart],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="ask">
      <p>
        The touch of this keyboard is <b>{{ now() }}</b>. Play any keys as you would on stage,
        {{ asked }} strokes of each kind; one slip does no harm.
      </p>
      <ol>
        @for (row of rows(); track row.kind) {
          <li>
            <button
              type="button"
              matButton="outlined"
              [class.waiting]="listening() === row.kind"
              [attr.aria-pressed]="listening() === row.kind"
              (click)="listen(row.kind)"
            >
              {{ listening() === row.kind ? 'play ' + row.kind : row.kind }}
            </button>
            <span class="mono" role="status">{{ row.words }}</span>
          </li>
        }
      </ol>
      <p class="told" role="status">{{ told() }}</p>
      <div class="deeds">
        <button type="button" matButton="filled" [disabled]="!fitted()" (click)="take()">
          Take the fitted touch
        </button>
        <button type="button" matButton="outlined" (click)="begin()">Begin anew</button>
      </div>
    </div>
    <pc-strokes-chart
      [before]="device().touch"
      [after]="fitted()"
      [strokes]="strokes()"
      [label]="words()"
    />
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: minmax(300px, 1fr) minmax(380px, 1.2fr);
      gap: 20px;
      padding-top: 8px;
    }
    ol {
      margin: 8px 0;
      padding: 0;
      list-style: none;
      display: grid;
      gap: 6px;
    }
    li {
      display: grid;
      grid-template-columns: 130px 1fr;
      align-items: center;
      gap: 12px;
    }
    .waiting {
      --mat-button-outlined-outline-color: var(--lamp);
      background: var(--lamp);
    }
    .told {
      min-height: 19px;
    }
    .deeds {
      display: flex;
      gap: 8px;
      margin-top: 6px;
    }
  `,
})
export class KeyboardTouchTab {
  readonly device = input.required<Keyboard>();
  /** Index of the keyboard in the rig that plays. */
  readonly index = input(-1);

  private readonly editing = inject(RigEditing);
  protected readonly asked = STROKES_ASKED;
  protected readonly listening = signal<StrokeKind | null>(null);
  protected readonly strokes = signal<readonly Stroke[]>([]);
  protected readonly fitted = computed(() => fittedTouch(this.strokes()));
  protected readonly now = computed(() => touchInWords(this.device().touch));
  protected readonly rows = computed(() =>
    STROKE_KINDS.map((kind) => {
      const landed = this.strokes().filter(({ meant }) => meant === kind);
      const velocities = landed.map(({ velocity }) => velocity);
      const words =
        landed.length === 0
          ? 'none yet'
          : `${velocities.join(' ')} · middle ${Math.round(median(velocities))}`;
      return { kind, words };
    }),
  );
  protected readonly told = computed(() => {
    const complete = this.rows().every(({ words }) => words !== 'none yet');
    if (this.listening()) return '';
    if (!complete) return 'Choose a kind and play.';
    return this.fitted()
      ? `Fitted: ${touchInWords(this.fitted() ?? this.device().touch)}.`
      : 'The kinds are not told apart: play soft softer, and hard harder.';
  });
  protected readonly words = computed(() => {
    const fitted = this.fitted();
    return `Touch now: ${this.now()}${fitted ? `; fitted: ${touchInWords(fitted)}` : ''}`;
  });

  constructor() {
    const untap = inject(Live).host.tap((_time, _port, device, status, _note, velocity) => {
      const kind = this.listening();
      if (kind === null || device !== this.index()) return;
      if ((status & 0xf0) !== NOTE_ON || velocity === 0) return;
      this.strokes.update((strokes) => [...strokes, { meant: kind, velocity }]);
      const landed = this.strokes().filter(({ meant }) => meant === kind).length;
      if (landed >= STROKES_ASKED) this.listening.set(next(kind));
    });
    inject(DestroyRef).onDestroy(untap);
  }

  /** Listens for strokes of a kind, from the first. */
  protected listen(kind: StrokeKind): void {
    this.strokes.update((strokes) => strokes.filter(({ meant }) => meant !== kind));
    this.listening.set(this.listening() === kind ? null : kind);
  }

  protected begin(): void {
    this.strokes.set([]);
    this.listening.set('soft');
  }

  protected take(): void {
    const touch = this.fitted();
    if (!touch) return;
    this.editing.change(this.device().id, { touch }, 'touch fitted');
    this.strokes.set([]);
    this.listening.set(null);
  }
}

/** The kind that is asked for after another; null after the last. */
function next(kind: StrokeKind): StrokeKind | null {
  return STROKE_KINDS.at(STROKE_KINDS.indexOf(kind) + 1) ?? null;
}
