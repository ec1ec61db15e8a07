import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatCheckboxModule } from '@angular/material/checkbox';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { rootOf, type NamedMiddleC } from '@pentachord/core/mapping';
import { secondsOf, type Loop, type Recording, type SampleZone } from '@pentachord/core/model';
import { KIT_PIECES } from '@pentachord/core/patterns';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import { NumberField } from '../ui/numbers/number-field';
import { ZoneEditing } from './zone-editing';
import { ZONE_PARAMETERS, type ZoneParameter } from './zone-parameters';

const CROSSFADE = 0.03;

/** Every number of the chosen zone; what is changed is changed in all that are chosen. */
@Component({
  selector: 'pc-zone-panel',
  imports: [MatButtonModule, MatCheckboxModule, MatFormFieldModule, MatSelectModule, NumberField],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './zone-panel.html',
  styleUrl: './zone-panel.scss',
})
export class ZonePanel {
  readonly zone = input.required<SampleZone>();
  readonly recording = input.required<Recording | null>();
  readonly named = input.required<NamedMiddleC>();
  readonly middleC = input.required<NoteNaming>();
  /** Its sound is a kit, whose zones are pieces. */
  readonly isKit = input(false);
  protected readonly editing = inject(ZoneEditing);
  protected readonly parameters = ZONE_PARAMETERS;
  /** What drum patterns can ask for. */
  protected readonly pieces = [...KIT_PIECES];
  protected readonly loopParts = ['start', 'end', 'crossfade'] as const;

  protected readonly seconds = computed(() => {
    const recording = this.recording();
    return recording ? secondsOf(recording) : 1;
  });

  /** What the ear and the file say of the root, where they differ from what is set. */
  protected readonly roots = computed(() => {
    const recording = this.recording();
    if (!recording) return [];
    const { heard, claimed } = rootOf(recording, this.named());
    const { pitch } = recording.heard;
    const offers: { words: string; root: number; cents: number }[] = [];
    const name = (key: number) => noteName(key, this.middleC());
    if (heard !== null && pitch)
      offers.push({
        words: `heard ${name(heard)}${centsInWords(pitch.cents)}, ${Math.round(pitch.confidence * 100)} % sure`,
        ...{ root: heard, cents: -pitch.cents },
      });
    if (claimed !== null && claimed !== heard)
      offers.push({ words: `the file says ${name(claimed)}`, root: claimed, cents: 0 });
    return offers.map((offer) => ({ ...offer, isTaken: offer.root === this.zone().root }));
  });

  /** Loops that were heard or are claimed, besides the one that is set. */
  protected readonly loops = computed(() => {
    const recording = this.recording();
    if (!recording) return [];
    const { heard, claims } = recording;
    const offers: { words: string; loop: Loop }[] = [];
    if (heard.loop) {
      const { start, end, crossfade, seam } = heard.loop;
      offers.push({
        words: `heard loop, seam ${Math.round(seam)} dB`.replace('-', '−'),
        loop: { start, end, crossfade },
      });
    }
    if (claims.loop) offers.push({ words: 'loop of the file', loop: claims.loop });
    const { loop } = this.zone();
    return offers.filter(
      (offer) => offer.loop.start !== loop?.start || offer.loop.end !== loop.end,
    );
  });

  protected valueOf({ of }: ZoneParameter): number {
    return this.zone()[of];
  }

  protected change(
    parameter: ZoneParameter,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    this.editing.setNumber(parameter, this.zone(), value, gesture);
  }

  protected takeRoot({ root, cents }: { root: number; cents: number }): void {
    this.editing.setAll({ root, cents: Number(cents.toFixed(1)) }, 'root taken');
  }

  protected setPiece(piece: number | null): void {
    this.editing.setAll({ piece }, piece === null ? 'piece taken off' : 'piece chosen');
  }

  protected setEnd({ value, gesture }: { value: number; gesture: string }): void {
    const end = value >= this.seconds() ? null : Math.max(value, this.zone().start + 0.001);
    this.editing.setAll({ end }, 'end changed', gesture);
  }

  protected setLoop(loop: Loop | null): void {
    this.editing.setAll({ loop }, loop ? 'loop set' : 'loop taken off');
  }

  protected toggleLoop(isOn: boolean): void {
    const [offer] = this.loops();
    const { start, end } = this.zone();
    const last = end ?? this.seconds();
    const middle = { start: start + (last - start) * 0.4, end: start + (last - start) * 0.8 };
    this.setLoop(isOn ? (offer?.loop ?? { ...middle, crossfade: CROSSFADE }) : null);
  }

  protected loopPart(
    part: keyof Loop,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    const { loop } = this.zone();
    if (!loop) return;
    const next = { ...loop, [part]: value };
    if (next.start < next.end) this.editing.setAll({ loop: next }, 'loop changed', gesture);
  }
}

function centsInWords(cents: number): string {
  const whole = Math.round(cents);
  return whole === 0 ? '' : ` ${whole > 0 ? '+' : '−'}${Math.abs(whole)} ct`;
}
