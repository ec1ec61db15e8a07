import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatMenuModule } from '@angular/material/menu';
import { EFFECT_NAMES } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { edits } from '../state/editing/edits';
import { machine } from '../state/machine/machine';
import type { AppState } from '../state/reducers';
import {
  selectBudget,
  selectCost,
  selectMachine,
  selectPatch,
  selectSharing,
  selectSounds,
} from '../state/selectors';
import { NumberField } from '../ui/numbers/number-field';

/** What the patch on the desk costs against the budget of this machine, and what sharing would save. */
@Component({
  selector: 'pc-cost-state',
  imports: [MatMenuModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (cost(); as told) {
      <button
        type="button"
        class="cost"
        [class.much]="told.share > 1"
        [matMenuTriggerFor]="menu"
        [attr.aria-label]="'Cost of the patch: ' + told.words + ' of the budget'"
        data-testid="cost"
      >
        cost {{ told.words }}
      </button>
      <mat-menu #menu="matMenu">
        <!-- The menu holds a list and a number, not choices: keys and clicks in it must not close it. -->
        <div
          class="detail"
          role="group"
          aria-label="What the patch costs"
          tabindex="-1"
          (click)="$event.stopPropagation()"
          (keydown)="keepOpen($event)"
        >
          <p>While all ten fingers are down, of what this machine can bear:</p>
          <ul>
            @for (line of told.lines; track line.id) {
              <li>
                <span>{{ line.name }}</span><span class="mono">{{ line.share }}</span>
              </li>
            }
            <li class="sum">
              <span>the whole patch</span><span class="mono">{{ told.words }}</span>
            </li>
          </ul>
          @for (advice of told.advice; track advice.drop) {
            <button type="button" class="plain" (click)="share(advice.keep, advice.drop)">
              {{ advice.words }}
            </button>
          }
          <p>
            Budget
            <pc-number-field
              label="Budget: percent of one core that sound may use"
              [value]="budgetPercent()"
              [min]="1"
              [max]="400"
              [chars]="4"
              (changed)="choose($event.value)"
            />
            % of one core; measured here: {{ measuredPercent() }} %
            <button type="button" class="plain" (click)="measureAgain()">Measure again</button>
            @if (machineState().chosen !== null) {
              <button type="button" class="plain" (click)="choose(null)">Go by that</button>
            }
          </p>
        </div>
      </mat-menu>
    }
  `,
  styles: `
    .cost {
      font: 400 13px/1 var(--mono);
      color: #dfe6f0;
      background: none;
      border: 1px solid transparent;
      border-radius: 6px;
      padding: 5px 6px;
      white-space: nowrap;
      cursor: pointer;
    }
    .cost:hover {
      border-color: #a9b6ca;
    }
    .much {
      color: #ffb3a8;
    }
    .detail {
      display: grid;
      gap: 8px;
      padding: 8px 16px;
      font-size: 13px;
      outline: none;
      min-width: 300px;
    }
    ul {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: flex;
      justify-content: space-between;
      gap: 20px;
      padding: 2px 0;
    }
    .sum {
      border-top: 1px solid var(--hairline);
      font-weight: 600;
    }
  `,
})
export class CostState {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patch = this.store.selectSignal(selectPatch);
  private readonly patchCost = this.store.selectSignal(selectCost);
  private readonly sharing = this.store.selectSignal(selectSharing);
  private readonly sounds = this.store.selectSignal(selectSounds);
  private readonly budget = this.store.selectSignal(selectBudget);
  protected readonly machineState = this.store.selectSignal(selectMachine);
  protected readonly budgetPercent = computed(() => Math.round(this.budget() * 100));
  protected readonly measuredPercent = computed(() => Math.round(this.machineState().budget * 100));

  protected readonly cost = computed(() => {
    const patch = this.patch();
    const cost = this.patchCost();
    if (!patch || !cost) return null;
    const share = cost.total / this.budget();
    const percent = (part: number) => `${((part / this.budget()) * 100).toFixed(1)} %`;
    const soundLines = patch.sounds.map((sound) => {
      const players = patch.layers.filter((layer) => layer.soundId === sound.id);
      const name = this.sounds().get(sound.librarySoundId)?.name ?? 'a sound that is gone';
      const shared = players.length > 1 ? `, shared by ${players.length} layers` : '';
      return { id: sound.id, name: name + shared, share: percent(cost.sounds.get(sound.id) ?? 0) };
    });
    const effectLines = EFFECT_NAMES.filter((name) => cost.effects[name] > 0).map((name) => ({
      id: name,
      name: `${name} for all`,
      share: percent(cost.effects[name]),
    }));
    return {
      share,
      words: `${Math.round(share * 100)} %`,
      lines: [...soundLines, ...effectLines],
      advice: this.sharing().map(({ keep, drop, layerNames, saves }) => ({
        keep,
        drop,
        words: `Share ${layerNames.join(' and ')}: saves ${percent(saves)}`,
      })),
    };
  });

  protected share(keep: string, drop: string): void {
    const patchId = this.patch()?.id;
    if (patchId) this.store.dispatch(edits.soundsJoined({ patchId, keep, drop }));
  }

  protected choose(percent: number | null): void {
    this.store.dispatch(machine.budgetChosen({ budget: percent === null ? null : percent / 100 }));
  }

  protected measureAgain(): void {
    this.store.dispatch(machine.measuringAsked());
  }

  protected keepOpen(event: KeyboardEvent): void {
    if (event.key !== 'Escape') event.stopPropagation();
  }
}
