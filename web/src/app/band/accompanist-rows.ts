import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import type { BandState } from './band-state';
import { BandEditing } from '../state/editing/band-editing';

const WAVE = 240;

/** The accompanists as a tide table: one line each, with what plays drawn as a wave within its bar. */
@Component({
  selector: 'pc-accompanist-rows',
  imports: [MatButtonModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.id) {
      <div
        class="row"
        role="group"
        [attr.aria-label]="row.name"
        [class.chosen]="editing.chosen()?.id === row.id"
        (focusin)="editing.choose(row.id)"
        (pointerdown)="editing.choose(row.id)"
      >
        <b class="badge" [style.background]="row.colour">{{ row.letter }}</b>
        <button type="button" matButton class="name">{{ row.name }}</button>
        <span class="sound">{{ row.sound }}</span>
        <span class="manner">{{ row.manner }}</span>
        <span class="mono">{{ row.keys }}</span>
        <b class="now" [attr.data-playing]="row.name">{{ row.playing }}</b>
        <span class="next">{{ row.next }}</span>
        <svg [attr.viewBox]="'0 0 ' + wave + ' 30'" preserveAspectRatio="none" aria-hidden="true">
          @for (x of row.bars; track x) {
            <line [attr.x1]="x * wave" [attr.x2]="x * wave" y1="4" y2="26" />
          }
          <path
            [attr.d]="row.wave"
            [attr.stroke]="row.colour"
            [class.rests]="row.playing === 'rests'"
          />
          @if (row.place !== null) {
            <line
              class="at"
              [attr.x1]="row.place * wave"
              [attr.x2]="row.place * wave"
              y1="0"
              y2="30"
            />
          }
        </svg>
      </div>
    } @empty {
      <p>
        No accompanist yet. Add one, give it layers, and put patterns on its keys: then single keys
        start bass lines, drums and chords while you play over them.
      </p>
    }
  `,
  styles: `
    :host {
      display: block;
      background: var(--sheet);
      border: 1px solid var(--hairline);
    }
    .row {
      display: grid;
      grid-template-columns:
        26px 120px minmax(0, 140px) minmax(0, 1fr) 84px 116px minmax(0, 190px)
        minmax(90px, 240px);
      gap: 10px;
      align-items: center;
      height: 36px;
      padding: 0 12px;
      border-bottom: 1px solid var(--hairline);
      white-space: nowrap;
    }
    .row > * {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .chosen {
      background: #fbe9c6;
      box-shadow: inset 3px 0 0 var(--sea);
    }
    .badge {
      display: grid;
      place-items: center;
      width: 22px;
      height: 22px;
      border-radius: 4px;
      color: #fff;
      font-size: 13px;
    }
    .name {
      --mat-button-text-label-text-color: var(--ink);
      --mat-button-text-label-text-weight: 700;
      --mat-button-text-container-height: 28px;
      --mat-button-text-horizontal-padding: 4px;
      justify-content: flex-start;
    }
    .sound,
    .manner,
    .next {
      color: var(--ink-soft);
    }
    svg {
      width: 100%;
      height: 30px;
    }
    line {
      stroke: var(--hairline);
      vector-effect: non-scaling-stroke;
    }
    path {
      fill: none;
      stroke-width: 2px;
      vector-effect: non-scaling-stroke;
    }
    .rests {
      stroke-dasharray: 2 5;
    }
    .at {
      stroke: var(--lamp);
      stroke-width: 3px;
    }
    p {
      margin: 0;
      padding: 14px;
      color: var(--ink-soft);
    }
  `,
})
export class AccompanistRows {
  protected readonly editing = inject(BandEditing);
  protected readonly wave = WAVE;
  readonly rows = input.required<readonly BandState[]>();
}
