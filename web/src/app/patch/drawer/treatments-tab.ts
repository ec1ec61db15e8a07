import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatInputModule } from '@angular/material/input';
import { MatSelectModule } from '@angular/material/select';
import { MatSlideToggleModule } from '@angular/material/slide-toggle';
import {
  arpeggioOrderSchema,
  chordSchema,
  LONGEST_STRUM_MS,
  newTreatment,
  NOTE_VALUES,
  TREATMENT_KINDS,
  TREATMENT_NAMES,
  treatmentSchema,
  type ControlTarget,
  type Layer,
  type NoteValue,
  type Patch,
  type Treatment,
  type TreatmentKind,
} from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { PatchEditing } from '../../state/editing/patch-editing';
import { LayerBadge } from '../../ui/layer-badge';
import { NumberField } from '../../ui/numbers/number-field';
import { TieButton } from '../../ui/ties/tie-button';
import { Tip } from '../../ui/tips/tip';

/** What is done to the notes of a layer before they sound, in order. */
@Component({
  selector: 'pc-treatments-tab',
  imports: [
    LayerBadge,
    MatButtonModule,
    MatCheckboxModule,
    MatFormFieldModule,
    MatInputModule,
    MatSelectModule,
    MatSlideToggleModule,
    Tip,
    NumberField,
    TieButton,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './treatments-tab.html',
  styleUrl: './treatments-tab.scss',
})
export class TreatmentsTab {
  readonly patch = input.required<Patch>();
  readonly layer = input.required<Layer>();
  readonly middleC = input<NoteNaming>(4);

  private readonly live = inject(Live);
  protected readonly editing = inject(PatchEditing);
  protected readonly kinds = TREATMENT_KINDS;
  protected readonly names = TREATMENT_NAMES;
  protected readonly orders = arpeggioOrderSchema.options;
  protected readonly rates = NOTE_VALUES;
  protected readonly doublings = [3, 2, 1, -1, -2, -3];
  protected readonly longestStrum = LONGEST_STRUM_MS;
  /** Id of the chord whose semitones could not be read; null when all could. */
  protected readonly unread = signal<string | null>(null);
  /** Treatments that a control has switched, asked once a frame. */
  private readonly switchedNow = signal<readonly string[]>([], { equal: dequal });

  protected readonly rows = computed(() => {
    const { treatments, layers } = this.patch();
    const switched = this.switchedNow();
    return treatments
      .filter(({ layerIds }) => layerIds.includes(this.layer().id))
      .map((treatment, place) => ({
        treatment,
        first: place === 0,
        on: switched.includes(treatment.id) ? !treatment.on : treatment.on,
        layers: layers.map((layer, index) => ({
          layer,
          index,
          has: treatment.layerIds.includes(layer.id),
        })),
      }));
  });

  constructor() {
    eachFrame(() => {
      const switched = this.patch().treatments.filter(
        (treatment) => this.live.runner.isOn(this.targetOf(treatment)) !== treatment.on,
      );
      this.switchedNow.set(switched.map(({ id }) => id));
    });
  }

  protected targetOf({ id }: Treatment): ControlTarget {
    return { kind: 'treatment', treatmentId: id };
  }

  protected add(kind: TreatmentKind): void {
    const treatment = newTreatment(kind, crypto.randomUUID(), [this.layer().id]);
    this.editing.addTreatment(treatment);
  }

  /** Turns over what is heard now: a control may have switched it otherwise than the patch says. */
  protected toggle(treatment: Treatment, now: boolean): void {
    if (now === treatment.on) this.change(treatment, { on: !now });
    else this.live.player.switchTreatment(treatment.id, !now);
  }

  /** Changes settings of a treatment; what would not be one is left out. */
  protected change(treatment: Treatment, changes: object, gesture?: string): void {
    const next = treatmentSchema.safeParse({ ...treatment, ...changes });
    if (next.success)
      this.editing.changeTreatment(
        next.data,
        gesture && `${gesture} ${Object.keys(changes).join()}`,
      );
  }

  /** What a strum is spread over: a note value, or a time. */
  protected spreadOf(over: number | NoteValue): NoteValue | 'ms' {
    return typeof over === 'number' ? 'ms' : over;
  }

  protected millisecondsOf(over: number | NoteValue): number | null {
    return typeof over === 'number' ? over : null;
  }

  protected setIntervals(treatment: Treatment, box: HTMLInputElement): void {
    const read = intervalsIn(box.value);
    this.unread.set(read.success ? null : treatment.id);
    if (read.success) this.change(treatment, { intervals: read.data });
  }

  /** What is wrong goes as soon as it is right. */
  protected forgive(box: HTMLInputElement): void {
    if (intervalsIn(box.value).success) this.unread.set(null);
  }

  /** Escape brings back what was there. */
  protected typeIntervals(
    event: KeyboardEvent,
    { intervals }: { intervals: readonly number[] },
    box: HTMLInputElement,
  ): void {
    const before = intervals.join(' ');
    if (event.key === 'Escape' && box.value === before && this.unread() === null) return;
    if (event.key === 'Escape') {
      box.value = before;
      this.unread.set(null);
    }
    event.stopPropagation();
  }

  protected lay(treatment: Treatment, layerId: string): void {
    const { layerIds } = treatment;
    const after = layerIds.includes(layerId)
      ? layerIds.filter((id) => id !== layerId)
      : [...layerIds, layerId];
    if (after.length > 0) this.editing.changeTreatment({ ...treatment, layerIds: after });
    else this.editing.removeTreatment(treatment.id);
  }
}

function intervalsIn(text: string) {
  const numbers = text
    .replaceAll('−', '-')
    .split(/[\s,]+/)
    .filter(Boolean)
    .map((word) => (/^[+-]?\d+$/.test(word) ? Number(word) : NaN));
  return chordSchema.shape.intervals.safeParse(numbers);
}
