import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import type { DeviceSettings } from '@pentachord/core/model';
import { SettingsExchange, type ExchangeState } from '@pentachord/core/settings';
import { Live } from '../../live/live';

/** Milliseconds between two looks whether an answer is overdue. */
const LOOK = 50;

const seconds = () => performance.now() / 1000;

/** Talks with devices about their settings, one exchange a port. */
@Injectable()
export class DeviceExchange {
  private readonly live = inject(Live);
  private readonly running = new Map<string, () => void>();
  private exchanges = 0;
  /** How far it is, by port. */
  readonly states = signal<ReadonlyMap<string, ExchangeState>>(new Map());

  constructor() {
    inject(DestroyRef).onDestroy(() => {
      for (const end of [...this.running.values()]) end();
    });
  }

  /** Writes settings and reads them back, or reads alone (null); comes true with the end of it. */
  talk(port: string, wanted: DeviceSettings | null): Promise<ExchangeState> {
    this.running.get(port)?.();
    return new Promise((resolve) => {
      const exchange: SettingsExchange = new SettingsExchange(
        wanted,
        (bytes) => this.live.sendTo(port, bytes),
        ++this.exchanges,
        seconds(),
        (state) => this.put(port, state),
      );
      this.put(port, exchange.state);
      const untap = this.live.host.tapLong((time, from, status, bytes) => {
        if (from !== port || status === 0) return;
        exchange.receive(bytes, time);
        if (exchange.isOver) end();
      });
      const timer = setInterval(() => {
        exchange.advance(seconds());
        if (exchange.isOver) end();
      }, LOOK);
      // Whoever waits for it hears of its end, also when another takes its place or the view is left.
      const end = () => {
        clearInterval(timer);
        untap();
        if (this.running.get(port) === end) this.running.delete(port);
        resolve(exchange.state);
      };
      this.running.set(port, end);
    });
  }

  private put(port: string, state: ExchangeState): void {
    this.states.update((states) => new Map(states).set(port, state));
  }
}
