import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  actsSchema,
  beginsSchema,
  isPress,
  isSwitch,
  isStruck,
  keyOfTarget,
  limitsOf,
  readsSchema,
  sameTarget,
  travelCurveSchema,
  travels,
  usualTravel,
  type Tie,
} from '@pentachord/core/model';
import { BEGINS_WORDS } from '@pentachord/core/patterns';
import {
  actsInWords,
  choicesOf,
  CURVE_NAMES,
  isRelative,
  READS_NAMES,
  whatInWords,
  whatOf,
  WHATS,
  type TargetSources,
  type What,
} from '@pentachord/core/ties';
import type { TyingOwner } from '../../state/editing/tie-editing';
import { NumberField } from '../../ui/numbers/number-field';
import { kindOfTarget } from '../../ui/numbers/kind-of-target';

/** What a control moves, from where to where, and how. */
@Component({
  selector: 'pc-tie-form',
  imports: [
    MatButtonModule,
    MatFormFieldModule,
    MatSelectModule,
    MatSlideToggleModule,
    NumberField,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './tie-form.html',
  styleUrl: './tie-form.scss',
})
export class TieForm {
  readonly tie = input.required<Tie>();
  readonly owner = input.required<TyingOwner>();
  readonly sources = input.required<TargetSources>();
  /** The tie otherwise, with the gesture of a number that is dragged. */
  readonly changed = output<{ tie: Tie; gesture?: string }>();

  /** What this owner has something of, in groups. */
  protected readonly groups = computed(() =>
    WHATS.map(({ name, whats }) => ({
      name,
      whats: whats
        .filter((what) => choicesOf(what, this.owner(), this.sources()).length > 0)
        .map((what) => ({ what, words: whatInWords(what) })),
    })).filter(({ whats }) => whats.length > 0),
  );
  protected readonly curves = travelCurveSchema.options;
  protected readonly curveNames = CURVE_NAMES;
  protected readonly readings = readsSchema.options;
  protected readonly readsNames = READS_NAMES;

  protected readonly what = computed(() => whatOf(this.tie().target));
  protected readonly choices = computed(() =>
    choicesOf(this.what(), this.owner(), this.sources()).map((choice) => ({
      ...choice,
      key: keyOfTarget(choice.target),
    })),
  );
  protected readonly key = computed(() => keyOfTarget(this.tie().target));
  protected readonly limits = computed(() => limitsOf(this.tie().target));
  protected readonly kind = computed(() => kindOfTarget(this.tie().target));
  /** Whether it goes from one value to another: what is on or off, or pressed, does not. */
  protected readonly travels = computed(() => travels(this.tie().target));
  protected readonly acts = computed(() => {
    const tie = this.tie();
    return actsSchema.options
      .filter((acts) => acts !== 'steps' || this.travels())
      .map((acts) => ({ acts, words: actsInWords(acts, tie) }));
  });
  protected readonly isController = computed(() =>
    ['controller', 'knob', 'pedal'].includes(this.tie().message.kind),
  );
  /** Whether it goes by where a control stands, so that a curve and picking up mean something. */
  protected readonly follows = computed(() => {
    const { acts, message, reads } = this.tie();
    return this.travels() && acts === 'usual' && !isStruck(message) && !isRelative(reads);
  });
  /** Whether it switches something, which can wait for its beat. */
  protected readonly switches = computed(() => isSwitch(this.tie().target));
  protected readonly times = beginsSchema.options.map((begins) => ({
    begins,
    words: BEGINS_WORDS[begins],
  }));
  /** Whether there is a choice of what a press does; what is pressed by nature has none. */
  protected readonly choosesActs = computed(() => !isPress(this.tie().target));

  protected change(changes: Partial<Tie>, gesture?: string): void {
    this.changed.emit({ tie: { ...this.tie(), ...changes }, gesture });
  }

  protected chooseWhat(what: What): void {
    const [first] = choicesOf(what, this.owner(), this.sources());
    if (first) this.chooseTarget(first.target);
  }

  protected choose(key: string): void {
    const choice = this.choices().find((one) => one.key === key);
    if (choice && !sameTarget(choice.target, this.tie().target)) this.chooseTarget(choice.target);
  }

  /** Another setting of the same kind keeps its travel; another kind begins with its usual one. */
  private chooseTarget(target: Tie['target']): void {
    const isAlike = whatOf(target) === this.what();
    this.change({ target, ...(isAlike ? {} : { ...usualTravel(target), acts: 'usual' }) });
  }

  protected turnRound(): void {
    const { from, to } = this.tie();
    this.change({ from: to, to: from });
  }
}
