import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatProgressBarModule } from '@angular/material/progress-bar';
import { BringingIn, type BroughtLine } from '../../state/recordings/bringing-in';

const WORDS: Record<BroughtLine['state'], string> = {
  waiting: 'waiting',
  reading: 'listening …',
  taken: 'taken',
  already: 'already there',
  refused: 'refused',
};

/** How bringing in goes: progress, and a line a file. */
@Component({
  selector: 'pc-brought-lines',
  imports: [MatButtonModule, MatProgressBarModule, ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <header>
      <b role="status">{{ summary() }}</b>
      @if (bringing.isBusy()) {
        <button type="button" matButton="outlined" (click)="bringing.cancel()">Stop</button>
      } @else {
        <button type="button" matButton="outlined" (click)="bringing.forget()">Done</button>
      }
    </header>
    @if (bringing.isBusy()) {
      <mat-progress-bar
        aria-label="Bringing in"
        [value]="(100 * bringing.done()) / bringing.lines().length"
      />
    }
    <cdk-virtual-scroll-viewport
      itemSize="26"
      tabindex="0"
      role="list"
      aria-label="Files brought in"
    >
      <div
        *cdkVirtualFor="let line of bringing.lines(); trackBy: idOf"
        class="line"
        role="listitem"
        [class.refused]="line.state === 'refused'"
      >
        <span class="name">{{ line.name }}</span>
        <span class="state">{{ words[line.state] }}{{ line.why ? ': ' + line.why : '' }}</span>
      </div>
    </cdk-virtual-scroll-viewport>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-rows: auto auto minmax(0, 1fr);
      gap: 4px;
      padding: 8px 12px;
      background: var(--sheet);
      border: 1px solid var(--hairline);
    }
    header {
      display: flex;
      align-items: center;
      justify-content: space-between;
      gap: 12px;
    }
    cdk-virtual-scroll-viewport {
      min-height: 104px;
      height: 100%;
    }
    .line {
      display: flex;
      gap: 12px;
      align-items: center;
      height: 26px;
      white-space: nowrap;
    }
    .name {
      flex: 0 1 auto;
      max-width: 45%;
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .state {
      color: var(--ink-soft);
      overflow: hidden;
      text-overflow: ellipsis;
    }
    .refused .state {
      color: var(--alarm);
    }
  `,
})
export class BroughtLines {
  protected readonly bringing = inject(BringingIn);
  protected readonly words = WORDS;
  protected readonly summary = computed(() => {
    const lines = this.bringing.lines();
    const of = (state: BroughtLine['state']) => lines.filter((one) => one.state === state).length;
    if (this.bringing.isBusy()) return `${this.bringing.done()} of ${lines.length} files`;
    const parts = [
      `${of('taken')} taken`,
      `${of('already')} already there`,
      `${of('refused')} refused`,
    ];
    return parts.filter((part) => !part.startsWith('0 ')).join(' · ') || 'nothing to take';
  });

  protected idOf(_index: number, line: BroughtLine): number {
    return line.id;
  }
}
