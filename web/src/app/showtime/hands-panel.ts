import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { coverage } from '@pentachord/core/coverage';
import { picksOf, type Keyboard } from '@pentachord/core/model';
import type { NoteNaming } from '@pentachord/core/pitch';
import { rowsOf } from '@pentachord/core/range';
import { underHands, type CompiledPatch } from '@pentachord/core/routing';
import { dequal } from 'dequal';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import { ScreenHands } from '../live/hands/screen-hands';
import { bandLooks } from '../ui/band/band-looks';
import { flagsOn } from '../ui/band/flags-on';
import { KeyFlags } from '../ui/band/key-flags';
import { PlayableKeyboard } from '../ui/keyboard/keyboard';
import { layerMark } from '../ui/layer-colours';
import { Tip } from '../ui/tips/tip';

/** One keyboard in Showtime: the layers as bars over the keys that they answer. */
@Component({
  selector: 'pc-hands-panel',
  imports: [KeyFlags, Tip, PlayableKeyboard],
  changeDetection: ChangeDetectionStrategy.OnPush,
  host: { '[class.flagged]': 'flags().length > 0' },
  template: `
    <h2>{{ keyboard().name }}</h2>
    @for (row of rows(); track $index) {
      <div class="row">
        @for (bar of row; track bar.id) {
          <span
            class="bar"
            tabindex="0"
            [pcTip]="bar.name + ' ' + bar.words"
            [class.muted]="bar.muted"
            [style.left.%]="bar.left"
            [style.width.%]="bar.width"
            [style.border-color]="bar.colour"
            [style.background]="bar.wash"
          >
            <b>{{ bar.name }}</b> {{ bar.words }}
          </span>
        }
      </div>
    } @empty {
      <p class="nobody">nothing on this keyboard</p>
    }
    @if (flags().length > 0) {
      <pc-key-flags
        seenFrom="stage"
        [flags]="flags()"
        [lowestKey]="covered().ground.keys.low"
        [highestKey]="covered().ground.keys.high"
      />
    }
    <pc-keyboard
      [label]="keyboard().name"
      [lowestKey]="covered().ground.keys.low"
      [highestKey]="covered().ground.keys.high"
      [middleC]="middleC()"
      [dimmed]="silentKeys()"
      [tinted]="tints()"
      [velocityOf]="velocityOf()"
      (struck)="hands.strike(keyboard(), $event.key, $event.velocity)"
      (released)="hands.release(keyboard(), $event)"
    />
  `,
  styles: `
    :host {
      display: flex;
      flex-direction: column;
      gap: 3px;
      min-height: 82px;
    }
    h2 {
      font: 400 18px/1 var(--words);
      color: var(--soft);
    }
    .row {
      position: relative;
      flex: 1 1 24px;
      min-height: 24px;
      max-height: 62px;
    }
    .bar {
      position: absolute;
      top: 0;
      bottom: 0;
      display: flex;
      align-items: center;
      gap: 10px;
      padding: 0 10px;
      border-left: 7px solid;
      border-radius: 3px;
      font-size: clamp(18px, 2.6vh, 24px);
      color: var(--soft);
      white-space: nowrap;
      overflow: hidden;
    }
    .bar b {
      color: var(--words-on-night);
    }
    .muted {
      outline: 1px dashed var(--line-on-night);
      outline-offset: -1px;
    }
    .muted b {
      color: var(--soft);
      font-weight: 400;
    }
    .nobody {
      font-size: 18px;
      color: var(--soft);
    }
    pc-keyboard {
      flex: 3 1 60px;
      min-height: 33px;
      max-height: 24vh;
      --key-white: #e9e6dc;
      --key-line: #0b111d;
      --key-black: #0b111d;
      --key-name: #16243a;
      --key-dim: #5a2c2c;
      --key-dim-black: #3c1d20;
    }
    pc-key-flags {
      --flag-ground: var(--night);
      display: none;
      flex: none;
    }
    /* Names over keys need room of their own; what plays is told beside the cue in any case. */
    @container hands (min-height: 256px) and (min-width: 900px) {
      :host(.flagged) {
        min-height: 170px;
      }
      pc-key-flags {
        display: block;
      }
    }
    @container crowded-hands (min-height: 350px) and (min-width: 900px) {
      :host(.flagged) {
        min-height: 170px;
      }
      pc-key-flags {
        display: block;
      }
    }
    @container hands (min-height: 320px) and (min-width: 900px) {
      :host(.flagged) {
        min-height: 195px;
      }
      pc-key-flags {
        --flags-height: 104px;
      }
    }
  `,
})
export class HandsPanel {
  readonly patch = input.required<CompiledPatch>();
  readonly keyboard = input.required<Keyboard>();
  readonly middleC = input<NoteNaming>(4);
  /** Whether marks are those for a dark ground. */
  readonly dark = input(true);
  protected readonly hands = inject(ScreenHands);
  private readonly live = inject(Live);

  protected readonly covered = computed(() => coverage(this.patch(), this.keyboard()));
  private readonly looked = bandLooks(() => this.patch());
  /** What keys start, by name. */
  protected readonly flags = computed(() => {
    const patch = this.patch();
    const device = patch.rig.ids.indexOf(this.keyboard().id);
    return flagsOn(patch, device, this.looked(), this.dark());
  });
  /** What choosers have picked. */
  private readonly choices = signal<ReadonlyMap<string, number>>(new Map(), { equal: dequal });
  private readonly found = computed(() => {
    this.choices();
    return underHands(this.patch(), this.keyboard(), this.middleC());
  });

  /** Bars packed into as few rows as they fit in. */
  protected readonly rows = computed(() => {
    const { low, high } = this.covered().ground.keys;
    const span = high - low + 1;
    const bar = ({ layer, keys, words, muted }: ReturnType<typeof this.found>[number]) => ({
      id: layer.id,
      name: layer.name,
      words,
      muted,
      left: ((keys.low - low) / span) * 100,
      width: ((keys.high - keys.low + 1) / span) * 100,
      colour: this.markOf(layer.index),
      wash: muted ? 'none' : `${this.markOf(layer.index)}30`,
    });
    const rows: ReturnType<typeof bar>[][] = [];
    const found = this.found();
    rowsOf(found.map(({ keys }) => keys)).forEach((row, at) => {
      (rows[row] ??= []).push(bar(found[at]));
    });
    return rows;
  });

  constructor() {
    const { player, runner } = this.live;
    eachFrame(() => {
      const choosers = runner.current?.choosers ?? [];
      this.choices.set(picksOf(choosers, (id) => player.pickedBy(id)));
    });
  }

  private markOf(layer: number): string {
    const { day, night } = layerMark(layer);
    return this.dark() ? night : day;
  }

  protected readonly silentKeys = computed(() => {
    const { keys } = this.covered();
    const silent = keys.filter((k) => k.layers.length === 0 && !k.starts).map((k) => k.key);
    return new Set(silent.length === keys.length ? [] : silent);
  });
  protected readonly tints = computed(() => [
    ...this.covered().keys.flatMap(({ key, layers }) =>
      layers.length > 0 ? [{ key, colour: this.markOf(layers[0]) }] : [],
    ),
    ...this.flags().map(({ key, colour }) => ({ key, colour })),
  ]);
  protected readonly velocityOf = computed(() => {
    const { id, octaveShift } = this.keyboard();
    const device = this.patch().rig.ids.indexOf(id);
    return (key: number) =>
      device < 0 ? 0 : this.live.player.velocityOf(device, key - octaveShift * 12);
  });
}
