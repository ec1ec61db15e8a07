import {
  ChangeDetectionStrategy,
  Component,
  computed,
  inject,
  input,
  output,
  signal,
} from '@angular/core';
import { MatChipsModule } from '@angular/material/chips';
import { picksOf, type Chooser } from '@pentachord/core/model';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';

/** What each chooser has picked, as it is at this moment; another choice is picked by its chip. */
@Component({
  selector: 'pc-choice-bar',
  imports: [MatChipsModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (row of rows(); track row.chooser.id) {
      <span class="name">{{ row.chooser.name }}</span>
      <mat-chip-listbox
        [attr.aria-label]="row.chooser.name"
        [hideSingleSelectionIndicator]="true"
        [value]="row.chosen"
        (change)="pick(row.chooser, $event.value)"
      >
        @for (choice of row.chooser.choices; track $index; let at = $index) {
          <mat-chip-option [value]="at" [selectable]="true">{{ choice.name }}</mat-chip-option>
        }
      </mat-chip-listbox>
    }
  `,
  styles: `
    :host {
      display: flex;
      flex-wrap: wrap;
      align-items: center;
      gap: 4px 10px;
    }
    :host:empty {
      display: none;
    }
    .name {
      font-weight: 600;
    }
  `,
})
export class ChoiceBar {
  readonly choosers = input<readonly Chooser[]>([]);
  readonly picked = output<{ chooser: Chooser; choice: number }>();
  private readonly live = inject(Live);
  /** What is picked while playing, by chooser. */
  private readonly now = signal<ReadonlyMap<string, number>>(new Map(), { equal: dequal });
  /** Rises when a chip has let go of itself and is to be put back. */
  private readonly letGo = signal(0);

  protected readonly rows = computed(() => {
    const picked = this.now();
    this.letGo();
    return this.choosers().map((chooser) => ({
      chooser,
      chosen: picked.get(chooser.id) ?? chooser.chosen,
    }));
  });

  constructor() {
    eachFrame(() => {
      const { player } = this.live;
      this.now.set(picksOf(this.choosers(), (id) => player.pickedBy(id)));
    });
  }

  protected pick(chooser: Chooser, choice: number | undefined): void {
    // Pressed again a chip lets go of itself; a chooser has always picked something.
    if (choice === undefined) this.letGo.update((times) => times + 1);
    else this.picked.emit({ chooser, choice });
  }
}
