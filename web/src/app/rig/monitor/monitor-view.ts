import { ScrollingModule, CdkVirtualScrollViewport } from '@angular/cdk/scrolling';
import {
  ChangeDetectionStrategy,
  Component,
  computed,
  effect,
  inject,
  signal,
  viewChild,
} from '@angular/core';
import { MatButtonModule } from '@angular/material/button';
import { MatButtonToggleModule } from '@angular/material/button-toggle';
import { MatFormFieldModule } from '@angular/material/form-field';
import { MatSelectModule } from '@angular/material/select';
import { channelOf, NOTE_ON } from '@pentachord/core/midi';
import {
  bytesInHex,
  channelOfMessage,
  lineOfText,
  meaningOf,
  MESSAGE_KINDS,
  USUAL_FILTER,
  type LoggedMessage,
  type LogFilter,
} from '@pentachord/core/monitor';
import type { PlayedNote } from '@pentachord/core/routing';
import { Store } from '@ngrx/store';
import { eachFrame } from '../../live/frames';
import { Live } from '../../live/live';
import type { AppState } from '../../state/reducers';
import { selectDevices, selectLabels, selectMiddleC } from '../../state/selectors';
import { TracePanel } from '../../ui/trace/trace-panel';
import { saveFile } from '../../ui/files/save-file';
import { LogSource } from './log-source';

/** Milliseconds between two looks at what has come. */
const REST = 200;

/** Every message in and out, with what it means; a line of a struck key is traced through the patch. */
@Component({
  selector: 'pc-monitor-view',
  imports: [
    MatButtonModule,
    MatButtonToggleModule,
    MatFormFieldModule,
    MatSelectModule,
    ScrollingModule,
    TracePanel,
  ],
  changeDetection: ChangeDetectionStrategy.OnPush,
  templateUrl: './monitor-view.html',
  styleUrl: './monitor-view.scss',
})
export class MonitorView {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly live = inject(Live);
  private readonly devices = this.store.selectSignal(selectDevices);
  private readonly labels = this.store.selectSignal(selectLabels);
  protected readonly middleC = this.store.selectSignal(selectMiddleC);
  protected readonly allKinds = MESSAGE_KINDS;
  protected readonly ways = signal([1, 2]);
  protected readonly kinds = signal(
    MESSAGE_KINDS.map((_, at) => at).filter((at) => USUAL_FILTER.kinds & (1 << at)),
  );
  protected readonly channel = signal(0);
  protected readonly port = signal<string | null>(null);
  protected readonly ports = signal<readonly string[]>([]);
  protected readonly paused = signal(false);
  protected readonly chosen = signal<LoggedMessage | null>(null);
  protected readonly source = new LogSource(this.live.log, USUAL_FILTER);
  private readonly viewport = viewChild.required(CdkVirtualScrollViewport);
  private readonly length = signal(0);
  /** When it looked last, milliseconds of the page’s clock. */
  private lookedAt = 0;

  protected readonly channels = computed(() =>
    this.labels().map((label, at) => ({
      number: at + 1,
      name: label ? `${at + 1} ${label}` : `channel ${at + 1}`,
    })),
  );
  protected readonly counted = computed(() => {
    const count = this.length();
    return `${count.toLocaleString('en')} ${count === 1 ? 'line' : 'lines'}${this.paused() ? ', paused: what comes is kept' : ''}`;
  });
  /** The played note of the chosen line; null when it is none. */
  protected readonly note = computed((): PlayedNote | null => {
    const line = this.chosen();
    if (line?.way !== 'in' || line.device < 0 || line.long) return null;
    if ((line.status & 0xf0) !== NOTE_ON || line.data2 === 0) return null;
    const device = this.devices().at(line.device);
    const translated = device && 'heardAs' in device ? device.heardAs : null;
    return {
      device: line.device,
      channel: translated ?? channelOf(line.status),
      key: line.data1,
      velocity: line.data2,
    };
  });
  protected readonly patch = computed(() => {
    this.chosen();
    return this.live.runner.current;
  });
  private readonly filter = computed((): LogFilter => ({
    ways: this.ways().reduce((bits, way) => bits | way, 0),
    kinds: this.kinds().reduce((bits, kind) => bits | (1 << kind), 0),
    channels: this.channel() === 0 ? 0xffff : 1 << (this.channel() - 1),
    ports: this.port(),
  }));

  constructor() {
    effect(() => {
      this.source.filter = this.filter();
      this.look();
    });
    eachFrame(() => {
      // Nobody reads faster, and whoever plays is not kept waiting for lines to be painted.
      const now = performance.now();
      if (this.paused() || now - this.lookedAt < REST) return;
      this.lookedAt = now;
      this.look();
    });
  }

  private look(): void {
    const { length, changed } = this.source.follow();
    this.length.set(length);
    if (!changed) return;
    // The list has its new height only with the next turn.
    requestAnimationFrame(() => {
      if (!this.paused()) this.viewport().scrollToOffset(length * 24);
    });
  }

  protected numberOf(_: number, line: LoggedMessage): number {
    return line.number;
  }

  protected time(seconds: number): string {
    return clockOf(seconds);
  }

  protected who({ way, device, port }: LoggedMessage): string {
    const devices = this.devices();
    const own = way === 'in' && device >= 0 ? devices.at(device) : undefined;
    return (own ?? devices.find((one) => one.port === port))?.name ?? port;
  }

  protected channelOf(line: LoggedMessage): string {
    const channel = channelOfMessage(line);
    if (channel === null) return '';
    const label = this.labels().at(channel - 1);
    return label ? `${channel} ${label}` : String(channel);
  }

  protected meaning(line: LoggedMessage): string {
    return meaningOf(line, this.middleC());
  }

  protected bytes(line: LoggedMessage): string {
    return bytesInHex(line);
  }

  protected lookAtPorts(): void {
    this.ports.set([...this.live.log.portNames]);
  }

  protected clear(): void {
    this.live.log.clear();
    this.chosen.set(null);
    this.look();
  }

  /** Saves every line that is shown as text. */
  protected save(): void {
    const lines = [];
    for (const line of this.source.all()) lines.push(lineOfText(line, this.middleC(), clockOf));
    saveFile('monitor.txt', `${lines.join('\n')}\n`, 'text/plain');
  }
}

/** The day’s time of a moment of this page’s clock, to the millisecond. */
function clockOf(seconds: number): string {
  const at = new Date(performance.timeOrigin + seconds * 1000);
  const two = (number: number) => String(number).padStart(2, '0');
  const thousandths = String(at.getMilliseconds()).padStart(3, '0');
  return `${two(at.getHours())}:${two(at.getMinutes())}:${two(at.getSeconds())}.${thousandths}`;
}
