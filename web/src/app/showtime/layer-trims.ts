import { ChangeDetectionStrategy, Component, computed, inject, input } from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatIconModule } from '@angular/material/icon';
import { layerLetter } from '@pentachord/core/model';
import type { CompiledPatch } from '@pentachord/core/routing';
import { trimOf } from '@pentachord/core/setlist';
import { formatDb } from '@pentachord/core/units';
import { Live } from '../live/live';
import { NightDesk } from '../state/session/night-desk';
import { layerMark } from '../ui/layer-colours';
import { LevelMeter } from '../ui/level-meter';

/** dB of one press. */
const STEP = 1;

/** Every layer that is played: how loud it sounds, and how far it is trimmed for the night. */
@Component({
  selector: 'pc-layer-trims',
  imports: [LevelMeter, MatButtonModule, MatIconModule],
  changeDetection: ChangeDetectionStrategy.OnPush,
  template: `
    @for (layer of layers(); track layer.id) {
      <section [attr.aria-label]="layer.name" [style.--mark]="layer.colour">
        <button
          type="button"
          matIconButton
          [attr.aria-label]="'Softer: ' + layer.name"
          [disabled]="layer.muted"
          (click)="trim(layer.id, -1)"
        >
          <mat-icon svgIcon="minus" aria-hidden="true" />
        </button>
        <span class="told">
          <span class="name">
            <b>{{ layer.letter }}</b> {{ layer.name }}
          </span>
          <pc-level-meter [layerId]="layer.id" [name]="layer.name" />
          <span class="mono by" [class.is]="layer.by !== 0" data-testid="trim">{{
            layer.words
          }}</span>
        </span>
        <button
          type="button"
          matIconButton
          [attr.aria-label]="'Louder: ' + layer.name"
          [disabled]="layer.muted"
          (click)="trim(layer.id, 1)"
        >
          <mat-icon svgIcon="add" aria-hidden="true" />
        </button>
      </section>
    }
  `,
  styles: `
    :host {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(198px, 1fr));
      gap: 6px 8px;
      /* Sixteen of them leave room for the keys above. */
      max-height: 32vh;
      overflow-y: auto;
    }
    @media (max-width: 900px) {
      :host {
        grid-template-columns: repeat(2, minmax(0, 1fr));
      }
    }
    section {
      display: grid;
      grid-template-columns: 44px minmax(0, 1fr) 44px;
      align-items: center;
      border: 1px solid var(--line-on-night);
      border-left: 6px solid var(--mark);
      border-radius: 4px;
    }
    .told {
      display: grid;
      gap: 3px;
      font-size: 16px;
      line-height: 1.1;
    }
    .name {
      overflow: hidden;
      white-space: nowrap;
      text-overflow: ellipsis;
    }
    .name b {
      color: var(--mark);
    }
    pc-level-meter {
      background: var(--line-on-night);
      color: var(--mark);
    }
    .by {
      color: var(--soft);
      font-size: 15px;
      white-space: nowrap;
    }
    .is {
      color: var(--now);
      font-weight: 700;
    }
  `,
})
export class LayerTrims {
  readonly patch = input.required<CompiledPatch>();
  readonly entryId = input.required<string | null>();
  /** Whether marks are those for a dark ground. */
  readonly dark = input(true);
  private readonly live = inject(Live);
  private readonly desk = inject(NightDesk);

  protected readonly layers = computed(() => {
    const { id: patchId, layers } = this.patch();
    const entryId = this.entryId() ?? '';
    return layers.map((layer) => {
      const by = trimOf(this.desk.night(), { entryId, patchId, layerId: layer.id });
      const mark = layerMark(layer.index);
      return {
        id: layer.id,
        name: layer.name,
        letter: layerLetter(layer.index),
        muted: layer.muted,
        colour: this.dark() ? mark.night : mark.day,
        by,
        words: layer.muted
          ? 'muted'
          : by === 0
            ? 'as written'
            : `${by > 0 ? '+' : ''}${formatDb(by)}`,
      };
    });
  });

  protected trim(layerId: string, steps: number): void {
    const { runner } = this.live;
    runner.trim(layerId, runner.trimOf(layerId) + steps * STEP);
  }
}
