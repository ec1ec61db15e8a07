import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatMenuModule } from '@angular/material/menu';
import { MatTooltipModule } from '@angular/material/tooltip';
import { lookAt, type Mend, type Remark } from '@pentachord/core/coverage';
import { Store } from '@ngrx/store';
import type { AppState } from '../../state/reducers';
import { PatchDesk } from '../patch-desk';
import { selectMendOf } from './mend-of';

/** Remarks shown in the heading at the most; the rest are counted. */
const MOST_SHOWN = 2;
/** Pixels below which no remark can be read where it stands: then all of them are in a list. */
const NARROW = 200;
/** Pixels below which one can be read, and the others are in the list. */
const ROOM_FOR_ONE = 260;
/** Pixels of a letter, and of what a button has around its words. */
const LETTER = 6.2;
const AROUND = 24;
/** How much of their words is read where they are cut: with less, fewer of them are shown. */
const READABLE = 0.75;
/** Remarks listed under “more”, the weightiest first. */
const MOST_LISTED = 30;

/** What was noticed about the patch, each with its mend, or with what to look at. */
@Component({
  selector: 'pc-remarks-list',
  imports: [MatButtonModule, MatMenuModule, MatTooltipModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ul aria-label="Remarks" aria-live="polite">
      @for (line of shown(); track line.remark.id) {
        <li>
          <button
            type="button"
            matButton="outlined"
            class="remark"
            [class.alarm]="line.remark.weight === 'alarm'"
            [matTooltip]="line.mend ? line.remark.text : line.remark.text + ': ' + line.look"
            (click)="chosen.emit(line.remark)"
            (pointerenter)="desk.pointed.set(line.remark.id)"
            (pointerleave)="desk.pointed.set(null)"
            (focus)="desk.pointed.set(line.remark.id)"
            (blur)="desk.pointed.set(null)"
          >
            {{ line.remark.text }}
          </button>
          @if (line.mend; as mend) {
            <button
              type="button"
              matButton
              class="mend"
              [matTooltip]="mend.words"
              [attr.aria-label]="mend.words + ' (' + line.remark.text + ')'"
              (click)="mendAsked.emit(mend)"
            >
              {{ mend.words }}
            </button>
          }
        </li>
      }
      @if (moreCount() > 0) {
        <li class="more">
          <button
            type="button"
            matButton="outlined"
            [class.alarm]="more()[0].remark.weight === 'alarm'"
            [matMenuTriggerFor]="remarkMenu"
          >
            {{ moreWords() }}
          </button>
          <mat-menu #remarkMenu="matMenu" class="broad"
            ><ng-template matMenuContent>
              @for (line of more(); track line.remark.id) {
                <button mat-menu-item (click)="chosen.emit(line.remark)">
                  {{ line.remark.text }}{{ line.mend ? '' : ': ' + line.look }}
                </button>
                @if (line.mend; as mend) {
                  <button mat-menu-item class="mend-item" (click)="mendAsked.emit(mend)">
                    {{ mend.words }}
                  </button>
                }
              }
            </ng-template></mat-menu
          >
        </li>
      }
    </ul>
  `,
  styles: `
    @use 'theme';

    :host {
      @include theme.notes;
      flex: 1;
      min-width: 0;
    }
    ul {
      display: flex;
      gap: 6px;
      list-style: none;
      margin: 0;
      padding: 0;
      min-width: 0;
      overflow: hidden;
    }
    li {
      display: flex;
      align-items: center;
      flex-shrink: 5;
      min-width: 60px;
    }
    li:first-child {
      /* The weightiest gives way last. */
      flex-shrink: 1;
    }
    .more {
      flex: none;
    }
    .remark {
      /* No flex box, so that words that find no room end in an ellipsis. */
      display: block;
      min-width: 0;
      background: var(--sheet);
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .alarm {
      --mat-button-outlined-label-text-color: var(--alarm);
      --mat-button-outlined-outline-color: var(--alarm);
      --mat-button-outlined-label-text-weight: 700;
    }
    .mend {
      --mat-button-text-label-text-color: var(--sea);
      display: block;
      /* What can be done gives way before what was noticed. */
      flex: 0 3 auto;
      min-width: 48px;
      overflow: hidden;
      text-overflow: ellipsis;
      text-decoration: underline;
      white-space: nowrap;
    }
    button:focus-visible {
      outline-offset: -3px;
    }
  `,
})
export class RemarksList {
  readonly remarks = input.required<readonly Remark[]>();
  readonly chosen = output<Remark>();
  readonly mendAsked = output<Mend>();
  protected readonly desk = inject(PatchDesk);
  /** What mends each, as of the last look: while an edge is dragged it waits. */
  private readonly mendOf = this.desk.calm.following(
    inject<Store<AppState>>(Store).selectSignal(selectMendOf),
  );

  /** Pixels that the heading leaves to the remarks. */
  private readonly width = signal(Infinity);

  private readonly fitting = computed(() => {
    const width = this.width();
    const most = Math.min(
      width < NARROW ? 0 : width < ROOM_FOR_ONE ? 1 : MOST_SHOWN,
      this.remarks().length,
    );
    const words = this.lines(0, most).flatMap(({ remark, mend }) =>
      mend ? [remark.text, mend.words] : [remark.text],
    );
    const wanted = words.reduce((sum, text) => sum + text.length * LETTER + AROUND, 0);
    return width < wanted * READABLE ? Math.min(most, 1) : most;
  });
  protected readonly shown = computed(() => this.lines(0, this.fitting()));
  protected readonly more = computed(() => this.lines(this.fitting(), MOST_LISTED));
  protected readonly moreCount = computed(() => this.remarks().length - this.fitting());
  protected readonly moreWords = computed(() => {
    const count = this.moreCount();
    if (this.fitting() > 0) return `${count} more`;
    return count === 1 ? '1 remark' : `${count} remarks`;
  });

  constructor() {
    const observer = new ResizeObserver(([entry]) => this.width.set(entry.contentRect.width));
    observer.observe(inject<ElementRef<HTMLElement>>(ElementRef).nativeElement);
    inject(DestroyRef).onDestroy(() => observer.disconnect());
  }

  private lines(from: number, to: number) {
    return this.remarks()
      .slice(from, to)
      .map((remark) => ({
        remark,
        mend: this.mendOf()(remark),
        look: lookAt(remark),
      }));
  }
}
