import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatAutocompleteModule } from '@angular/material/autocomplete';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { EVERYTHING, searchShelf, shelf, type ShelfItem } from '@pentachord/core/library';
import type { Layer } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import type { AppState } from '../../state/reducers';
import { selectKeepsakes, selectSounds, selectUses } from '../../state/selectors';
import { RangeActions } from '../range-actions';
import { PatchActions } from '../patch-actions';

/** Where a second layer begins before any key was played. */
const USUAL_SPLIT = 60;

/** What the field of a patch asks for first: a sound, searched in place; then a second layer, over the first or beside it. */
@Component({
  selector: 'pc-first-sounds',
  imports: [MatAutocompleteModule, MatButtonModule, MatFormFieldModule, MatInputModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (layers().length === 0) {
      <div class="ask">
        <b>Which sound first?</b>
        <mat-form-field appearance="outline" subscriptSizing="dynamic">
          <input
            #box
            matInput
            aria-label="First sound"
            placeholder="Type a few letters: piano, pad, bells …"
            [matAutocomplete]="found"
            (input)="words.set(box.value)"
            (keydown)="$event.stopPropagation()"
          />
          <mat-autocomplete
            #found="matAutocomplete"
            autoActiveFirstOption
            [displayWith]="nameOf"
            (optionSelected)="take($event.option.value)"
          >
            @for (item of items(); track item.id) {
              <mat-option [value]="item">{{ item.name }}</mat-option>
            }
          </mat-autocomplete>
        </mat-form-field>
        <span>It will lie over all keys; narrow it afterwards.</span>
      </div>
    } @else if (layers().length === 1) {
      <div class="then">
        <span>A second layer?</span>
        <button type="button" matButton="outlined" (click)="actions.add()">over it</button>
        <button type="button" matButton="outlined" (click)="actions.addBeside(split())">
          beside it, split at {{ splitName() }}
        </button>
      </div>
    }
  `,
  styles: `
    :host {
      position: absolute;
      inset: 0;
      display: grid;
      pointer-events: none;
    }
    .ask,
    .then {
      pointer-events: auto;
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-radius: 6px;
    }
    .ask {
      place-self: center;
      display: grid;
      gap: 8px;
      padding: 18px 22px;
      width: 380px;

      b {
        font-size: 18px;
      }
      span {
        color: var(--ink-soft);
        font-size: 13px;
      }
    }
    .then {
      place-self: end center;
      display: flex;
      align-items: center;
      gap: 8px;
      padding: 5px 8px 5px 12px;
      margin-bottom: 8px;
    }
  `,
})
export class FirstSounds {
  readonly layers = input.required<readonly Layer[]>();
  readonly middleC = input<NoteNaming>(4);
  /** Rises with every note, so that the split follows the last key played. */
  readonly played = input<unknown>(null);
  private readonly store = inject<Store<AppState>>(Store);
  private readonly ranges = inject(RangeActions);
  protected readonly actions = inject(PatchActions);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly keepsakes = this.store.selectSignal(selectKeepsakes);
  private readonly uses = this.store.selectSignal(selectUses);
  protected readonly words = signal('');
  protected readonly items = computed(() => {
    const all = shelf(this.sounds(), this.keepsakes(), this.uses());
    const takeable = all.filter(({ keepsake }) => keepsake?.content.kind !== 'patch');
    return searchShelf(takeable, { ...EVERYTHING, words: this.words() });
  });
  protected readonly split = computed(() => {
    this.played();
    const key = this.ranges.lastKey() ?? USUAL_SPLIT;
    const keys = this.layers().at(0)?.keys;
    return keys ? Math.min(keys.high, Math.max(keys.low + 1, key)) : key;
  });
  protected readonly splitName = computed(() => noteName(this.split(), this.middleC()));

  protected readonly nameOf = (item: ShelfItem | string | null) =>
    typeof item === 'string' ? item : (item?.name ?? '');

  protected take(item: ShelfItem): void {
    void this.actions.take(item);
  }
}
