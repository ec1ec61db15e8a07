import {
  ChangeDetectionStrategy,
  Component,
  computed,
  DestroyRef,
  ElementRef,
  inject,
  input,
  output,
  signal,
  viewChild,
} from '@angular/core';
import { CdkDrag, type CdkDragEnd } from '@angular/cdk/drag-drop';
import { heardChannel, type Device, type PlanPoint } from '@pentachord/core/model';
import { noteName, type NoteNaming } from '@pentachord/core/pitch';
import { senderOn } from '@pentachord/core/rig';
import {
  deviceInWords,
  planOf,
  stageOf,
  type PlacedDevice,
  type PlanPart,
} from '@pentachord/core/rig';
import { dequal } from 'dequal';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import { isStandIn } from '../../live/ports/cable';
import { AskedFor } from './asked-for';
import { RigActivity } from './rig-activity';

/** Cm between lines of the ground. */
const SQUARE = 50;
/** Cm that an arrow key moves a device, and with Shift. */
const STEP = 5;
const FINE = 1;
const ARROWS: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, -1],
  ArrowDown: [0, 1],
};

/** The stage from above and to scale: what stands there with its real keys, what is pressed, and where cables go. */
@Component({
  selector: 'pc-stage-plan',
  imports: [CdkDrag],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './stage-plan.html',
  styleUrl: './stage-plan.scss',
})
export class StagePlan {
  readonly devices = input<readonly Device[]>([]);
  /** What stands in the rig that plays: another may be looked at. */
  readonly playing = input<readonly Device[]>([]);
  readonly chosen = input<string | null>(null);
  readonly middleC = input<NoteNaming>(4);
  readonly choose = output<string>();
  readonly moved = output<{ deviceId: string; at: PlanPoint; gesture?: string }>();

  private readonly live = inject(Live);
  private readonly activity = inject(RigActivity);
  protected readonly asked = inject(AskedFor);
  private readonly stage = viewChild.required<ElementRef<HTMLElement>>('stage');
  /** Ports that are there; the same as long as they stay. */
  private readonly there = signal<ReadonlySet<string>>(new Set(), { equal: dequal });
  private gesture = '';

  protected readonly plan = computed(() => planOf(this.devices()));
  protected readonly size = computed(() => stageOf(this.plan()));
  protected readonly cables = computed(() => {
    const { width } = this.size();
    return this.plan()
      .filter(({ device }) => device.kind !== 'pedal')
      .map(({ device, x, y, width: wide, depth }, at) => {
        // Side by side to the corner, so that one can be followed with the eye.
        const lane = width - 4 - at * 1.6;
        const from = y + depth / 2;
        const path = `M${x + wide} ${from} H${lane - 3} Q${lane} ${from} ${lane} ${from - 3} V6`;
        return {
          ...{ id: device.id, path, out: device.kind === 'module' },
          there: this.isThere(device),
        };
      });
  });

  constructor() {
    inject(DestroyRef).onDestroy(this.activity.stop);
    eachFrame(() => {
      const ports = new Set(this.devices().map(({ port }) => port));
      this.there.set(new Set([...ports].filter((port) => this.live.isThere(port))));
    });
  }

  protected metres(length: number): number[] {
    return Array.from({ length: Math.floor(length / SQUARE) }, (_, at) => (at + 1) * SQUARE);
  }

  protected isThere({ port }: Device): boolean {
    return this.there().has(port);
  }

  protected words(device: Device): string {
    const gone = this.isThere(device) ? '' : ', not plugged in';
    return `${deviceInWords(device)}, ${this.kind(device)}${gone}`;
  }

  protected kind(device: Device): string {
    const where = isStandIn(device.port) ? 'stand-in' : device.port;
    const port = this.isThere(device) ? where : `${where}: not there`;
    switch (device.kind) {
      case 'keyboard': {
        const count = device.highestKey - device.lowestKey + 1;
        const name = (key: number) => noteName(key, this.middleC());
        return `${count} keys ${name(device.lowestKey)}–${name(device.highestKey)} · ${port}`;
      }
      case 'controlBox':
        return port;
      case 'pedal':
        return '';
      case 'module':
        return port;
    }
  }

  protected channel(device: Device): { sent: number; heard: number } | null {
    if (device.kind === 'module' || device.kind === 'pedal') return null;
    return { sent: device.channel, heard: heardChannel(device) };
  }

  protected isLit(device: Device, { kind, number }: PlanPart): boolean {
    return this.activity.pressed(this.indexOf(device), noteOf(device, kind, number)) > 0;
  }

  /** The key or pad that the player is asked to touch. */
  protected isAsked(device: Device, { kind, number }: PlanPart): boolean {
    const asked = this.asked.key();
    if (asked?.deviceId !== device.id || asked.key === null) return false;
    return noteOf(device, kind, number) === asked.key;
  }

  /** Where a knob of a box or a pedal stands, −1 before it was moved. */
  protected position(device: Device, knob: number): number {
    if (device.kind === 'pedal')
      return this.activity.position(this.indexOf(device), device.controller);
    if (device.kind !== 'controlBox') return -1;
    return this.activity.position(this.indexOf(device), device.knobControllers[knob]);
  }

  protected treadOf(device: Device): number {
    return Math.max(0, this.position(device, 0)) / 127;
  }

  /** A knob’s hand from seven o’clock to five. */
  protected turned(device: Device, { number, x, y, width, depth }: PlanPart): string {
    const angle = -145 + (290 * Math.max(0, this.position(device, number))) / 127;
    return `rotate(${angle} ${x + width / 2} ${y + depth / 2})`;
  }

  protected pressed(placed: PlacedDevice, event: KeyboardEvent): void {
    if (event.key === 'Enter' || event.key === ' ') {
      event.preventDefault();
      this.choose.emit(placed.device.id);
      return;
    }
    const way = ARROWS[event.key] as readonly [number, number] | undefined;
    if (!way) return;
    event.preventDefault();
    event.stopPropagation();
    if (!event.repeat) this.gesture = crypto.randomUUID();
    const step = event.shiftKey ? FINE : STEP;
    this.put(placed, placed.x + way[0] * step, placed.y + way[1] * step, this.gesture);
  }

  protected dropped(placed: PlacedDevice, { distance, source }: CdkDragEnd): void {
    const { width, height } = this.stage().nativeElement.getBoundingClientRect();
    const size = this.size();
    source.reset();
    const x = placed.x + (distance.x * size.width) / width;
    const y = placed.y + (distance.y * size.depth) / height;
    this.put(placed, x, y);
  }

  private put({ device }: PlacedDevice, x: number, y: number, gesture?: string): void {
    const keep = (value: number) => Math.round(Math.min(1100, Math.max(0, value)));
    this.moved.emit({ deviceId: device.id, at: { x: keep(x), y: keep(y) }, gesture });
  }

  /** Index of the device that brings what a device sends, in the rig that plays. */
  private indexOf(device: Device): number {
    const playing = this.playing();
    if (!('channel' in device) || !playing.some(({ id }) => id === device.id)) return -1;
    return senderOn(playing, device.port, device.channel);
  }
}

/** The note that a part of a device plays. */
function noteOf(device: Device, kind: PlanPart['kind'], number: number): number {
  return kind === 'pad' && device.kind === 'controlBox' ? device.padNotes[number] : number;
}
