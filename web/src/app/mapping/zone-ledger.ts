import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  input,
  output,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { loudnessSteps, type Recordings } from '@pentachord/core/mapping';
import { shortName, type SampleZone } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { withRangePart, type Axis, type RangePart } from '@pentachord/core/range';
import { layerMark } from '../ui/layer-colours';
import { NumberField } from '../ui/numbers/number-field';
import { strengthRanks } from './strength-ranks';
import { ZoneEditing } from './zone-editing';
import { ZONE_PARAMETERS, type ZoneParameter } from './zone-parameters';

const IN_ROW = ['root', 'cents', 'gain'] as const;
/** A step in loudness beyond which it is heard as one, dB. */
const HEARD_STEP = 3;

/** The zones as a table: one row each, every number typed, stepped, dragged or played. */
@Component({
  selector: 'pc-zone-ledger',
  imports: [MatButtonModule, MatCheckboxModule, NumberField, ScrollingModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './zone-ledger.html',
  styleUrl: './zone-ledger.scss',
})
export class ZoneLedger {
  readonly recordings = input.required<Recordings>();
  readonly middleC = input.required<NoteNaming>();
  readonly lit = input<ReadonlySet<string>>(new Set());
  readonly swapAsked = output<SampleZone>();
  protected readonly editing = inject(ZoneEditing);
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  protected readonly axes: readonly Axis[] = ['keys', 'velocities'];
  protected readonly parts: readonly RangePart[] = ['low', 'fadeIn', 'high', 'fadeOut'];
  protected readonly inRow = IN_ROW.map(
    (of) => ZONE_PARAMETERS.find((one) => one.of === of) as ZoneParameter,
  );

  private readonly steps = computed(() => {
    return new Map(
      loudnessSteps(this.editing.zones(), this.recordings()).map(({ from, step }) => [from, step]),
    );
  });
  protected readonly rows = computed(() => {
    const zones = this.editing.zones();
    const known = this.recordings();
    const ranks = strengthRanks(zones);
    const steps = this.steps();
    return zones.map((zone) => {
      const recording = known[zone.recordingId];
      const step = steps.get(zone.id);
      return {
        zone,
        name: recording ? shortName(recording) : 'missing recording',
        colour: layerMark(ranks.get(zone.id) ?? 0).day,
        plays: `${zone.oneShot ? 'one-shot' : 'held'}${zone.reverse ? ', reverse' : ''}`,
        loop: zone.loop ? `${zone.loop.start.toFixed(2)}–${zone.loop.end.toFixed(2)} s` : '–',
        step:
          step === undefined ? '' : `${step > 0 ? '+' : ''}${step.toFixed(1)} dB`.replace('-', '−'),
        isStep: step !== undefined && Math.abs(step) > HEARD_STEP,
      };
    });
  });

  constructor() {
    // What is chosen on the chart is seen here.
    effect(() => {
      const primary = this.editing.primary();
      const at = primary ? this.editing.zones().indexOf(primary) : -1;
      const { start, end } = this.viewport().getRenderedRange();
      if (at >= 0 && (at < start || at >= end - 1)) this.viewport().scrollToIndex(at);
    });
  }

  protected choose(event: Event, id: string): void {
    // The box chooses a row besides the others.
    if (event.target instanceof Element && event.target.closest('mat-checkbox')) return;
    if (this.editing.selected().has(id)) return;
    const adds = event instanceof MouseEvent && (event.ctrlKey || event.metaKey || event.shiftKey);
    this.editing.select(new Set([...(adds ? this.editing.selected() : []), id]));
  }

  protected chooseToo(id: string, isChosen: boolean): void {
    const selected = new Set(this.editing.selected());
    if (isChosen) selected.add(id);
    else selected.delete(id);
    this.editing.select(selected);
  }

  protected range(
    zone: SampleZone,
    axis: Axis,
    part: RangePart,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    const lowest = axis === 'keys' ? 0 : 1;
    const range = withRangePart(zone[axis], part, value, lowest);
    const words = axis === 'keys' ? 'keys of a zone changed' : 'velocities of a zone changed';
    this.editing.change({ [zone.id]: { [axis]: range } }, words, gesture);
  }

  protected setNumber(
    parameter: ZoneParameter,
    zone: SampleZone,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    this.editing.setNumber(parameter, zone, value, gesture);
  }

  protected valueOf(zone: SampleZone, { of }: ZoneParameter): number {
    return zone[of];
  }

  protected idOf(_index: number, { zone }: { zone: SampleZone }): string {
    return zone.id;
  }
}
