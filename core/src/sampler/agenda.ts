import type { Frame } from '../units/times.js';
import { ARGUMENTS, COMMAND, RECORD } from './command-ring.js';

/** Commands that can wait for their frame at one time. */
const MOST_WAITING = 2048;

/** Commands that are not due yet, the next one first. Those due at one frame keep the order in which they came. */
export class Agenda {
  private readonly records = new Float64Array(MOST_WAITING * RECORD);
  private readonly moved = new Float64Array(RECORD);
  private count = 0;

  /** The frame of the next one, Infinity when none waits. */
  get next(): Frame {
    return this.count > 0 ? this.records[1] : Infinity;
  }

  /** Enters a command; false when too many wait already. */
  add(record: Float64Array): boolean {
    if (this.count === MOST_WAITING) return false;
    const { records } = this;
    let at = this.count;
    while (at > 0 && records[(at - 1) * RECORD + 1] > record[1]) at--;
    records.copyWithin((at + 1) * RECORD, at * RECORD, this.count * RECORD);
    records.set(record, at * RECORD);
    this.count++;
    return true;
  }

  /** Moves the next one into `record`. */
  take(record: Float64Array): void {
    for (let i = 0; i < RECORD; i++) record[i] = this.records[i];
    this.remove(0);
  }

  /** Calls off the start and the end of a voice, or its end alone. */
  forget(voice: number, endAlone: boolean): void {
    for (let at = this.count - 1; at >= 0; at--) {
      const base = at * RECORD;
      const command = this.records[base];
      if (command !== COMMAND.end && (endAlone || command !== COMMAND.start)) continue;
      if (this.records[base + ARGUMENTS] === voice) this.remove(at);
    }
  }

  /** Has the start of a voice come at another frame; false when it does not wait (any more). */
  moveStart(voice: number, frame: Frame): boolean {
    for (let at = 0; at < this.count; at++) {
      const base = at * RECORD;
      if (this.records[base] !== COMMAND.start || this.records[base + ARGUMENTS] !== voice)
        continue;
      const { moved } = this;
      for (let i = 0; i < RECORD; i++) moved[i] = this.records[base + i];
      moved[1] = frame;
      this.remove(at);
      this.add(moved);
      return true;
    }
    return false;
  }

  clear(): void {
    this.count = 0;
  }

  private remove(at: number): void {
    this.records.copyWithin(at * RECORD, (at + 1) * RECORD, this.count * RECORD);
    this.count--;
  }
}
