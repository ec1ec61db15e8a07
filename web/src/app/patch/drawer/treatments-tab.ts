import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import {
  arpeggioOrderSchema,
  chordSchema,
  newTreatment,
  NOTE_VALUES,
  TREATMENT_KINDS,
  TREATMENT_NAMES,
  treatmentSchema,
  type ControlTarget,
  type Layer,
  type Patch,
  type Treatment,
  type TreatmentKind,
} from '@pentachord/core/model';
import type { MiddleC } from '@pentachord/core/pitch';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { edits } from '../../state/editing/edits';
import { PatchEditing } from '../../state/editing/patch-editing';
import type { AppState } from '../../state/reducers';
import { LayerBadge } from '../../ui/layer-badge';
import { NumberField } from '../../ui/numbers/number-field';
import { TieButton } from './tie-button';

/** What is done to the notes of a layer before they sound, in order. */
@Component({
  selector: 'pc-treatments-tab',
  imports: [LayerBadge, NumberField, TieButton],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './treatments-tab.html',
  styleUrl: './treatments-tab.scss',
})
export class TreatmentsTab {
  readonly patch = input.required<Patch>();
  readonly layer = input.required<Layer>();
  readonly middleC = input<MiddleC>(4);

  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly editing = inject(PatchEditing);
  protected readonly kinds = TREATMENT_KINDS;
  protected readonly names = TREATMENT_NAMES;
  protected readonly orders = arpeggioOrderSchema.options;
  protected readonly rates = NOTE_VALUES;
  /** Id of the chord whose semitones could not be read; null when all could. */
  protected readonly unread = signal<string | null>(null);
  /** Treatments that a control has switched, asked once a frame. */
  private readonly switchedNow = signal('');

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
        (treatment) => this.live.isOn(this.targetOf(treatment)) !== treatment.on,
      );
      this.switchedNow.set(switched.map(({ id }) => id).join());
    });
  }

  protected targetOf({ id }: Treatment): ControlTarget {
    return { kind: 'treatment', treatmentId: id };
  }

  protected add(kind: TreatmentKind): void {
    const treatment = newTreatment(kind, crypto.randomUUID(), [this.layer().id]);
    this.store.dispatch(edits.treatmentAdded({ patchId: this.patch().id, treatment }));
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

  protected pick(treatment: Treatment, setting: string, event: Event): void {
    this.change(treatment, { [setting]: (event.target as HTMLSelectElement).value });
  }

  protected setIntervals(treatment: Treatment, box: HTMLInputElement): void {
    const intervals = box.value
      .replaceAll('−', '-')
      .split(/[\s,]+/)
      .filter(Boolean)
      .map(Number);
    const read = chordSchema.shape.intervals.safeParse(intervals);
    this.unread.set(read.success ? null : treatment.id);
    if (read.success) this.change(treatment, { intervals: read.data });
  }

  protected lay(treatment: Treatment, layerId: string): void {
    const { layerIds } = treatment;
    const after = layerIds.includes(layerId)
      ? layerIds.filter((id) => id !== layerId)
      : [...layerIds, layerId];
    if (after.length > 0) this.editing.changeTreatment({ ...treatment, layerIds: after });
    else this.remove(treatment);
  }

  protected move(treatment: Treatment, by: number): void {
    const { id: patchId, treatments } = this.patch();
    const to = treatments.findIndex(({ id }) => id === treatment.id) + by;
    this.store.dispatch(edits.treatmentMoved({ patchId, treatmentId: treatment.id, to }));
  }

  protected remove(treatment: Treatment): void {
    const patchId = this.patch().id;
    this.store.dispatch(edits.treatmentRemoved({ patchId, treatmentId: treatment.id }));
  }
}
