import type { DataSource } from '@angular/cdk/collections';
import {
  FilteredLog,
  type LoggedMessage,
  type LogFilter,
  type MessageLog,
} from '@pentachord/core/monitor';
import { BehaviorSubject, type Observable } from 'rxjs';

/**
 * The lines of the monitor for the CDK's virtual list, which asks a list for its length and for what it shows: nothing else is
 * made of the messages that are kept.
 */
export class LogSource implements DataSource<LoggedMessage> {
  private readonly lines = new BehaviorSubject<readonly LoggedMessage[]>([]);
  private filtered: FilteredLog;
  private shown = '';

  constructor(
    private readonly log: MessageLog,
    filter: LogFilter,
  ) {
    this.filtered = new FilteredLog(log, filter);
  }

  connect(): Observable<readonly LoggedMessage[]> {
    return this.lines;
  }

  disconnect(): void {
    this.lines.complete();
  }

  /** Shows what passes another filter. */
  set filter(filter: LogFilter) {
    this.filtered = new FilteredLog(this.log, filter);
  }

  /** Looks at what came since; how many lines there are, and whether anything is otherwise than before. */
  follow(): { length: number; changed: boolean } {
    const length = this.filtered.follow();
    const last = length > 0 ? this.filtered.number(length - 1) : -1;
    const now = `${length} ${last}`;
    const changed = now !== this.shown;
    this.shown = now;
    if (changed) this.lines.next(this.asList(length));
    return { length, changed };
  }

  /** Every line that passes, from the oldest. */
  *all(): Generator<LoggedMessage> {
    const length = this.filtered.follow();
    for (let at = 0; at < length; at++) {
      const message = this.log.at(this.filtered.number(at));
      if (message) yield message;
    }
  }

  private asList(length: number): readonly LoggedMessage[] {
    const { filtered, log } = this;
    const list = {
      length,
      slice: (from: number, to: number) => {
        const messages: LoggedMessage[] = [];
        for (let at = Math.max(0, from); at < Math.min(to, length); at++) {
          const message = log.at(filtered.number(at));
          if (message) messages.push(message);
        }
        return messages;
      },
    };
    return list as unknown as readonly LoggedMessage[];
  }
}
