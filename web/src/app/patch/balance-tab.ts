import { ChangeDetectionStrategy, Component, inject, input } from '@angular/core';
import {
  EFFECT_NAMES,
  MOST_SHELF_DB,
  OBEYABLES,
  type ControlTarget,
  type EffectName,
  type Effects,
  type Layer,
  type LayerParameter,
  type Obeyable,
  type Patch,
} from '@pentachord/core/model';
import { PatchEditing } from '../state/patch-editing';
import { Amount } from '../ui/amount';
import { TieButton } from './tie-button';

interface Moved {
  value: number;
  gesture: string;
}

const OBEYED: Record<Obeyable, string> = {
  sustain: 'sustain pedal',
  expression: 'expression pedal',
  pitchBend: 'pitch bend',
  modulation: 'modulation wheel (vibrato)',
};

/** Level, pan, tone and sends of a layer, what it obeys, and the effects that all layers of the patch share. */
@Component({
  selector: 'pc-balance-tab',
  imports: [Amount, TieButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <div class="tied">
      <h3>This layer</h3>
      <pc-amount
        name="level"
        kind="level"
        unit="dB"
        [label]="'Level, dB'"
        [value]="layer().level"
        [min]="-60"
        [max]="12"
        [step]="0.5"
        (changed)="editing.changeLayer(layer().id, { level: $event.value }, $event.gesture)"
      >
        <pc-tie-button [target]="target('level')" [what]="'level of ' + layer().name" />
      </pc-amount>
      <pc-amount
        name="pan"
        kind="pan"
        label="Pan"
        [value]="layer().pan"
        [min]="-1"
        [max]="1"
        [step]="0.05"
        (changed)="editing.changeLayer(layer().id, { pan: $event.value }, $event.gesture)"
      >
        <pc-tie-button [target]="target('pan')" [what]="'pan of ' + layer().name" />
      </pc-amount>
      <pc-amount
        name="lows"
        unit="dB"
        kind="decimal"
        label="Low shelf, dB"
        [value]="layer().tone.low"
        [min]="-mostShelf"
        [max]="mostShelf"
        [step]="0.5"
        (changed)="tone({ low: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="highs"
        unit="dB"
        kind="decimal"
        label="High shelf, dB"
        [value]="layer().tone.high"
        [min]="-mostShelf"
        [max]="mostShelf"
        [step]="0.5"
        (changed)="tone({ high: $event.value }, $event.gesture)"
      />
    </div>
    <div class="tied">
      <h3>Sends, and what it obeys</h3>
      @for (name of effectNames; track name) {
        <pc-amount
          kind="level"
          unit="dB"
          [name]="name"
          [label]="'Send to the ' + name + ', dB'"
          [value]="layer().sends[name]"
          [min]="-60"
          [max]="12"
          [step]="1"
          (changed)="send(name, $event)"
        >
          <pc-tie-button [target]="target(name)" [what]="name + ' send of ' + layer().name" />
        </pc-amount>
      }
      <div class="obeys" role="group" [attr.aria-label]="layer().name + ' obeys'">
        @for (what of obeyables; track what) {
          <label>
            <input type="checkbox" [checked]="layer().obeys.includes(what)" (change)="obey(what)" />
            {{ obeyed[what] }}
          </label>
        }
        <label>
          <input
            type="checkbox"
            [checked]="layer().followsSong"
            (change)="editing.changeLayer(layer().id, { followsSong: !layer().followsSong })"
          />
          the song’s key
        </label>
      </div>
    </div>
    <div>
      <h3>Effects of the whole patch</h3>
      <pc-amount
        name="reverb"
        kind="level"
        unit="dB"
        label="Reverb comes back at, dB"
        [value]="effects().reverb.level"
        [min]="-60"
        [max]="12"
        (changed)="effect('reverb', { level: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="delay"
        kind="level"
        unit="dB"
        label="Delay comes back at, dB"
        [value]="effects().delay.level"
        [min]="-60"
        [max]="12"
        (changed)="effect('delay', { level: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="delay every"
        kind="decimal"
        unit="beats"
        label="Beats between echoes"
        [value]="effects().delay.beats"
        [min]="0.125"
        [max]="4"
        [step]="0.125"
        (changed)="effect('delay', { beats: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="delay again"
        kind="percent"
        unit="%"
        label="How much of an echo comes again, percent"
        [value]="effects().delay.feedback"
        [min]="0"
        [max]="0.9"
        [step]="0.05"
        (changed)="effect('delay', { feedback: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="chorus"
        kind="level"
        unit="dB"
        label="Chorus comes back at, dB"
        [value]="effects().chorus.level"
        [min]="-60"
        [max]="12"
        (changed)="effect('chorus', { level: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="chorus speed"
        kind="decimal"
        unit="Hz"
        label="Speed of the chorus, Hz"
        [value]="effects().chorus.rate"
        [min]="0.05"
        [max]="8"
        [step]="0.05"
        (changed)="effect('chorus', { rate: $event.value }, $event.gesture)"
      />
      <pc-amount
        name="chorus depth"
        kind="percent"
        unit="%"
        label="Depth of the chorus, percent"
        [value]="effects().chorus.depth"
        [min]="0"
        [max]="1"
        [step]="0.05"
        (changed)="effect('chorus', { depth: $event.value }, $event.gesture)"
      />
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 22px;
    }
    .tied {
      --amount-end: 104px;
    }
    h3 {
      font: 600 13px/1 var(--words);
      color: var(--ink-soft);
      margin-bottom: 5px;
    }
    .obeys {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 3px 10px;
      margin-top: 6px;
      font-size: 13px;
    }
    label {
      display: flex;
      gap: 6px;
      align-items: center;
      min-height: 24px;
    }
  `,
})
export class BalanceTab {
  readonly patch = input.required<Patch>();
  readonly layer = input.required<Layer>();
  protected readonly editing = inject(PatchEditing);
  protected readonly effectNames = EFFECT_NAMES;
  protected readonly obeyables = OBEYABLES;
  protected readonly obeyed = OBEYED;
  protected readonly mostShelf = MOST_SHELF_DB;
  protected readonly effects = () => this.patch().effects;

  protected target(parameter: LayerParameter): ControlTarget {
    return { kind: 'layer', layerId: this.layer().id, parameter };
  }

  protected tone(changes: Partial<Layer['tone']>, gesture: string): void {
    const { id, tone } = this.layer();
    this.editing.changeLayer(id, { tone: { ...tone, ...changes } }, gesture);
  }

  protected send(name: EffectName, { value, gesture }: Moved): void {
    const { id, sends } = this.layer();
    this.editing.changeLayer(id, { sends: { ...sends, [name]: value } }, `${gesture} ${name}`);
  }

  protected obey(what: Obeyable): void {
    const { id, obeys } = this.layer();
    const after = obeys.includes(what) ? obeys.filter((o) => o !== what) : [...obeys, what];
    this.editing.changeLayer(id, { obeys: after });
  }

  protected effect<N extends EffectName>(
    name: N,
    changes: Partial<Effects[N]>,
    gesture: string,
  ): void {
    const effects = { [name]: { ...this.effects()[name], ...changes } };
    this.editing.changeEffects(effects, `${gesture} ${name} ${Object.keys(changes).join()}`);
  }
}
