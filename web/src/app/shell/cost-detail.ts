import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { A11yModule } from '@angular/cdk/a11y';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { EFFECT_NAMES } from '@pentachord/core/model';
import { Store } from '@ngrx/store';
import { PatchEditing } from '../state/editing/patch-editing';
import { machine } from '../state/machine/machine';
import type { AppState } from '../state/reducers';
import { selectBudget, selectCost, selectMachine, selectSharing } from '../state/machine/selectors';
import { selectPatch, selectSounds } from '../state/selectors';
import { NumberField } from '../ui/numbers/number-field';

/** Of what the cost of the patch is made up, what sharing would save, and the budget of this machine. */
@Component({
  selector: 'pc-cost-detail',
  imports: [A11yModule, MatButtonModule, MatFormFieldModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @if (cost(); as told) {
      <section
        class="detail"
        role="dialog"
        aria-label="What the patch costs"
        cdkTrapFocus
        [cdkTrapFocusAutoCapture]="true"
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
          <button type="button" matButton="outlined" (click)="share(advice.keep, advice.drop)">
            {{ advice.words }}
          </button>
        }
        <div class="budget">
          <mat-form-field appearance="outline" subscriptSizing="dynamic">
            <mat-label>Budget</mat-label>
            <pc-number-field
              label="Budget: percent of one core that sound may use"
              [value]="budgetPercent()"
              [min]="1"
              [max]="400"
              [chars]="4"
              (changed)="choose($event.value)"
            />
            <span matTextSuffix>% of one core</span>
          </mat-form-field>
          <span>measured here: {{ measuredPercent() }} %</span>
        </div>
        <div class="budget">
          <button type="button" matButton="outlined" (click)="measureAgain()">Measure again</button>
          @if (machineState().chosen !== null) {
            <button type="button" matButton="outlined" (click)="choose(null)">Go by that</button>
          }
        </div>
      </section>
    }
  `,
  styles: `
    .detail {
      display: grid;
      gap: 10px;
      padding: 12px 16px;
      width: 360px;
      background: var(--sheet);
      border: 1px solid var(--hairline);
      border-radius: 6px;
      box-shadow: 0 6px 24px #16243a33;
    }
    .budget {
      display: flex;
      align-items: center;
      gap: 10px;
    }
    mat-form-field {
      width: 190px;
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
export class CostDetail {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly patch = this.store.selectSignal(selectPatch);
  private readonly editing = inject(PatchEditing);
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
      words: `${Math.round((cost.total / this.budget()) * 100)} %`,
      lines: [...soundLines, ...effectLines],
      advice: this.sharing().map(({ keep, drop, layerNames, saves }) => ({
        keep,
        drop,
        words: `Share ${layerNames.join(' and ')}: saves ${percent(saves)}`,
      })),
    };
  });

  protected share(keep: string, drop: string): void {
    this.editing.joinSounds(keep, drop);
  }

  protected choose(percent: number | null): void {
    this.store.dispatch(machine.budgetChosen({ budget: percent === null ? null : percent / 100 }));
  }

  protected measureAgain(): void {
    this.store.dispatch(machine.measuringAsked());
  }
}
