import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import {
  EFFECT_NAMES,
  MOST_SHELF_DB,
  LAYER_OUTPUTS,
  OBEYABLES,
  targetInWords,
  type ControlTarget,
  type EffectName,
  type Effects,
  type Layer,
  type LayerParameter,
  type Obeyable,
  type Patch,
} from '@pentachord/core/model';
import { LOUDEST_DB, SILENCE_DB } from '@pentachord/core/units';
import type { LayerSettings } from '../../state/editing/edits';
import { PatchEditing } from '../../state/editing/patch-editing';
import { partByPart } from '../../ui/part-by-part';
import { Amount } from '../../ui/numbers/amount';
import type { NumberKind } from '../../ui/numbers/number-text';
import { TieButton } from '../../ui/ties/tie-button';

interface Moved {
  value: number;
  gesture: string;
}

const OBEYED: Record<Obeyable, string> = {
  sustain: 'sustain pedal',
  expression: 'expression pedal',
  pitchBend: 'pitch bend',
  aftertouch: 'aftertouch',
  modulation: 'modulation wheel (vibrato)',
};

/** A line of the tab: a setting with its number, and the control target it can be tied to. */
interface Line {
  name: string;
  /** Whole name for those who cannot see where it stands. */
  label: string;
  kind: NumberKind;
  unit: string;
  value: number;
  min: number;
  max: number;
  step: number;
  target: ControlTarget | null;
  set: (moved: Moved) => void;
}

const LEVEL = { kind: 'level', unit: 'dB', min: SILENCE_DB, max: LOUDEST_DB, step: 1 } as const;
const SHELF = {
  kind: 'decimal',
  unit: 'dB',
  min: -MOST_SHELF_DB,
  max: MOST_SHELF_DB,
  step: 0.5,
  target: null,
} as const;

/** Level, pan, tone and sends of a layer, what it obeys, and the effects that all layers of the patch share. */
@Component({
  selector: 'pc-balance-tab',
  imports: [
    Amount,
    MatCheckboxModule,
    MatFormFieldModule,
    MatSelectModule,
    NgTemplateOutlet,
    TieButton,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    <ng-template #setting let-lines>
      @for (line of lines; track line.label) {
        <pc-amount
          [name]="line.name"
          [label]="line.label"
          [kind]="line.kind"
          [unit]="line.unit"
          [value]="line.value"
          [min]="line.min"
          [max]="line.max"
          [step]="line.step"
          (changed)="line.set($event)"
        >
          @if (line.target; as target) {
            <pc-tie-button [target]="target" [what]="inWords(target)" />
          }
        </pc-amount>
      }
    </ng-template>
    <div class="tied">
      <h3>This layer</h3>
      <ng-container *ngTemplateOutlet="setting; context: { $implicit: own() }" />
      <mat-form-field appearance="outline" subscriptSizing="dynamic" class="out">
        <mat-label>comes out on</mat-label>
        <mat-select
          [value]="layer().output"
          (selectionChange)="editing.changeLayer(layer().id, { output: $event.value })"
        >
          @for (output of outputs; track output) {
            <mat-option [value]="output">the {{ output }} pair</mat-option>
          }
        </mat-select>
      </mat-form-field>
    </div>
    <div class="tied">
      <h3>Sends, and what it obeys</h3>
      @if (columns() > 1) {
        <ng-container *ngTemplateOutlet="setting; context: { $implicit: sends() }" />
        <div class="obeys" role="group" [attr.aria-label]="layer().name + ' obeys'">
          @for (what of obeyables; track what) {
            <mat-checkbox [checked]="layer().obeys.includes(what)" (change)="obey(what)">
              {{ obeyed[what] }}
            </mat-checkbox>
          }
          <mat-checkbox
            [checked]="layer().followsSong"
            (change)="editing.changeLayer(layer().id, { followsSong: $event.checked })"
          >
            the song’s key
          </mat-checkbox>
        </div>
      }
    </div>
    <div>
      <h3>Effects of the whole patch</h3>
      @if (columns() > 2) {
        <ng-container *ngTemplateOutlet="setting; context: { $implicit: shared() }" />
      }
    </div>
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(3, minmax(0, 1fr));
      gap: 22px;
    }
    .tied {
      --amount-end: clamp(56px, 8vw, 104px);
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
  `,
})
export class BalanceTab {
  readonly patch = input.required<Patch>();
  readonly layer = input.required<Layer>();
  protected readonly editing = inject(PatchEditing);
  /** Columns that are there: one comes with every frame, so that no frame waits for a dozen sliders. */
  protected readonly columns = partByPart(3);
  protected readonly obeyables = OBEYABLES;
  protected readonly outputs = LAYER_OUTPUTS;
  protected readonly obeyed = OBEYED;

  protected readonly own = computed((): Line[] => {
    const { id, level, pan, tone } = this.layer();
    const change = (changes: LayerSettings, gesture: string) =>
      this.editing.changeLayer(id, changes, gesture);
    return [
      {
        ...LEVEL,
        name: 'level',
        label: 'Level, dB',
        step: 0.5,
        value: level,
        target: this.target('level'),
        set: ({ value, gesture }) => change({ level: value }, gesture),
      },
      {
        name: 'pan',
        label: 'Pan',
        kind: 'pan',
        unit: '',
        min: -1,
        max: 1,
        step: 0.05,
        value: pan,
        target: this.target('pan'),
        set: ({ value, gesture }) => change({ pan: value }, gesture),
      },
      {
        ...SHELF,
        name: 'lows',
        label: 'Low shelf, dB',
        value: tone.low,
        set: ({ value, gesture }) => change({ tone: { ...tone, low: value } }, gesture),
      },
      {
        ...SHELF,
        name: 'highs',
        label: 'High shelf, dB',
        value: tone.high,
        set: ({ value, gesture }) => change({ tone: { ...tone, high: value } }, gesture),
      },
    ];
  });

  protected readonly sends = computed((): Line[] => {
    const { id, sends } = this.layer();
    return EFFECT_NAMES.map((name) => ({
      ...LEVEL,
      name,
      label: `Send to the ${name}, dB`,
      value: sends[name],
      target: this.target(name),
      set: ({ value, gesture }) =>
        this.editing.changeLayer(id, { sends: { ...sends, [name]: value } }, `${gesture} ${name}`),
    }));
  });

  protected readonly shared = computed((): Line[] => {
    const { effects } = this.patch();
    const line = <N extends EffectName>(
      effect: N,
      part: keyof Effects[N] & string,
      words: { name: string; label: string },
      measure: Omit<Line, 'name' | 'label' | 'value' | 'target' | 'set'>,
    ): Line => ({
      ...measure,
      ...words,
      value: Number(effects[effect][part]),
      target: null,
      set: ({ value, gesture }) =>
        this.editing.changeEffects(
          { [effect]: { ...effects[effect], [part]: value } },
          `${gesture} ${effect} ${part}`,
        ),
    });
    const percent = { kind: 'percent', unit: '%', min: 0, step: 0.05 } as const;
    const decimal = { kind: 'decimal' } as const;
    return [
      line('reverb', 'level', { name: 'reverb', label: 'Reverb comes back at, dB' }, LEVEL),
      line('delay', 'level', { name: 'delay', label: 'Delay comes back at, dB' }, LEVEL),
      line(
        'delay',
        'beats',
        { name: 'delay every', label: 'Beats between echoes' },
        { ...decimal, unit: 'beats', min: 0.125, max: 4, step: 0.125 },
      ),
      line(
        'delay',
        'feedback',
        { name: 'delay again', label: 'How much of an echo comes again, percent' },
        { ...percent, max: 0.9 },
      ),
      line('chorus', 'level', { name: 'chorus', label: 'Chorus comes back at, dB' }, LEVEL),
      line(
        'chorus',
        'rate',
        { name: 'chorus speed', label: 'Speed of the chorus, Hz' },
        { ...decimal, unit: 'Hz', min: 0.05, max: 8, step: 0.05 },
      ),
      line(
        'chorus',
        'depth',
        { name: 'chorus depth', label: 'Depth of the chorus, percent' },
        { ...percent, max: 1 },
      ),
    ];
  });

  protected inWords(target: ControlTarget): string {
    return targetInWords(target, this.patch());
  }

  protected obey(what: Obeyable): void {
    const { id, obeys } = this.layer();
    const after = obeys.includes(what) ? obeys.filter((o) => o !== what) : [...obeys, what];
    this.editing.changeLayer(id, { obeys: after });
  }

  private target(parameter: LayerParameter): ControlTarget {
    return { kind: 'layer', layerId: this.layer().id, parameter };
  }
}
