import { ChangeDetectionStrategy, Component, computed, input, output } from '@angular/core';
import { MatIconModule } from '@angular/material/icon';
import { MatMenuModule } from '@angular/material/menu';
import type { Keyboard, Layer, Patch, Sound } from '@pentachord/core/model';
import type { MiddleC } from '@pentachord/core/pitch';
import { withRangePart, type RangePart } from '@pentachord/core/range';
import { transpositionInWords } from '@pentachord/core/routing';
import { touchInWords } from '@pentachord/core/touch';
import { LayerBadge } from '../ui/layer-badge';
import { SoundMenu } from '../ui/sound-menu';
import { LevelMeter } from '../ui/level-meter';
import { NumberField } from '../ui/number-field';
import { TouchMenu } from './touch-menu';

/** A change of a layer made in the ledger. */
export interface LedgerChange {
  layerId: string;
  changes: Partial<Omit<Layer, 'id' | 'soundId'>>;
  gesture?: string;
}

/** Something to be done with a layer. */
export interface LedgerDeed {
  layerId: string;
  deed: 'duplicate' | 'remove' | 'up' | 'down' | 'solo';
}

/** The table of layers: one row a layer, every number typed, stepped, or played. */
@Component({
  selector: 'pc-ledger',
  imports: [
    LayerBadge,
    LevelMeter,
    MatIconModule,
    MatMenuModule,
    NumberField,
    SoundMenu,
    TouchMenu,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './ledger.html',
  styleUrl: './ledger.scss',
})
export class Ledger {
  readonly patch = input.required<Patch>();
  readonly library = input.required<readonly Sound[]>();
  readonly keyboards = input.required<readonly Keyboard[]>();
  readonly selected = input<string | null>(null);
  readonly soloed = input<ReadonlySet<string>>(new Set());
  readonly middleC = input<MiddleC>(4);
  /** Semitones from the fingered to the sounding key of the song. */
  readonly songShift = input(0);
  readonly layerSelected = output<string>();
  readonly changed = output<LedgerChange>();
  readonly deed = output<LedgerDeed>();
  readonly soundTaken = output<{ layerId: string; librarySoundId: string }>();

  protected readonly axes = ['keys', 'velocities'] as const;
  protected readonly channels = Array.from({ length: 16 }, (_, i) => i + 1);
  protected readonly rows = computed(() => {
    const { layers, sounds } = this.patch();
    const byId = new Map(this.library().map((sound) => [sound.id, sound]));
    return layers.map((layer, index) => {
      const patchSound = sounds.find((s) => s.id === layer.soundId);
      const sharing = layers.filter((l) => l.soundId === layer.soundId && l.id !== layer.id);
      return {
        layer,
        index,
        sound: byId.get(patchSound?.librarySoundId ?? '') ?? null,
        sharing: sharing.map((l) => l.name).join(', '),
        from: this.fromInWords(layer),
        touch: touchInWords(layer.touch),
        transposition: this.transpositionOf(layer),
      };
    });
  });

  protected range(
    layer: Layer,
    axis: 'keys' | 'velocities',
    part: RangePart,
    { value, gesture }: { value: number; gesture: string },
  ): void {
    const range = withRangePart(layer[axis], part, value, axis === 'keys' ? 0 : 1);
    this.changed.emit({
      layerId: layer.id,
      changes: { [axis]: range },
      gesture: `${gesture} ${axis} ${part}`,
    });
  }

  protected number(
    layer: Layer,
    field: 'transpose' | 'level' | 'pan',
    { value, gesture }: { value: number; gesture: string },
  ): void {
    this.changed.emit({
      layerId: layer.id,
      changes: { [field]: value },
      gesture: `${gesture} ${field}`,
    });
  }

  protected rename(layer: Layer, box: HTMLInputElement): void {
    const name = box.value.trim().slice(0, 80);
    if (name === '' || name === layer.name) box.value = layer.name;
    else this.changed.emit({ layerId: layer.id, changes: { name } });
  }

  protected listenTo(layer: Layer, keyboards: Layer['keyboards']): void {
    this.changed.emit({ layerId: layer.id, changes: { keyboards } });
  }

  protected toggleKeyboard(layer: Layer, id: string): void {
    const before = layer.keyboards === 'any' ? this.keyboards().map((k) => k.id) : layer.keyboards;
    const after = before.includes(id) ? before.filter((k) => k !== id) : [...before, id];
    if (after.length > 0) this.listenTo(layer, after);
  }

  protected hears(layer: Layer, id: string): boolean {
    return layer.keyboards === 'any' || layer.keyboards.includes(id);
  }

  /** What adds up between a key of the layer, as near to middle C as it answers, and the note that sounds. */
  private transpositionOf(layer: Layer): string {
    const { keyboards } = layer;
    const keyboard = this.keyboards().find((k) => keyboards === 'any' || keyboards.includes(k.id));
    const sum = {
      keyboard: (keyboard?.octaveShift ?? 0) * 12,
      song: layer.followsSong ? this.songShift() : 0,
      layer: layer.transpose,
    };
    const key = Math.min(layer.keys.high, Math.max(layer.keys.low, 60));
    return transpositionInWords(sum, key - sum.keyboard, this.middleC());
  }

  private fromInWords(layer: Layer): string {
    const { keyboards } = layer;
    const names =
      keyboards === 'any'
        ? 'any'
        : this.keyboards()
            .filter((k) => keyboards.includes(k.id))
            .map((k) => k.name)
            .join(', ') || 'none in the rig';
    return layer.channel === 'any' ? names : `${names} · ${layer.channel}`;
  }
}
