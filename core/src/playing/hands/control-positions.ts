import {
  CHANNEL_AFTERTOUCH,
  CONTROL_CHANGE,
  PITCH_BEND,
  POLY_AFTERTOUCH,
} from '../../midi/messages.js';
import type { Reads } from '../../model/patch/tie.js';
import { FINE_FROM, finePosition } from '../../ties/reading.js';

/** Where wheels and aftertouch are kept, behind the controllers. */
const BEND = 128;
const PRESSURE = 129;
const KEY_PRESSURE = 130;
const PLACES = 131;

/** Where what is kept of one kind of message lies; −1 for kinds of which nothing is. */
function placeOf(kind: number, number: number): number {
  switch (kind) {
    case CONTROL_CHANGE:
      return number;
    case PITCH_BEND:
      return BEND;
    case CHANNEL_AFTERTOUCH:
      return PRESSURE;
    case POLY_AFTERTOUCH:
      return KEY_PRESSURE;
    default:
      return -1;
  }
}

/** Puts a position of 14 bits where it is kept. */
function putFine(table: Float64Array, at: number, coarse: number, fine: number): void {
  table[at] = finePosition(coarse, fine);
}

/** Where in {@link ControlPositions.moved} a control by itself is told, and where a pair of them. */
export const ALONE = 0;
export const IN_PAIR = 2;

/** Where the controllers, wheels and aftertouch of every device stand: 0–127, −1 before they were moved. */
export class ControlPositions {
  /**
   * What the last message moved: where that stands now and stood before, {@link ALONE} and {@link IN_PAIR}. Told here since a
   * fraction that is given back would be an object.
   */
  readonly moved = new Float64Array(4);
  private readonly byDevice = new Map<string, Float64Array>();
  /** Positions of pairs of controllers, by the coarse one. */
  private readonly pairs = new Map<string, Float64Array>();

  /** Where something stands. */
  of(deviceId: string, kind: number, number: number): number {
    const at = placeOf(kind, number);
    return at < 0 ? -1 : this.tableOf(deviceId)[at];
  }

  /** Where a pair of controllers stands, by its coarse one. */
  ofPair(deviceId: string, controller: number): number {
    return controller < FINE_FROM ? this.pairsOf(deviceId)[controller] : -1;
  }

  /** Where a control stands as it is read: by itself, or in its pair. */
  readAs(reads: Reads, deviceId: string, kind: number, number: number): number {
    return reads === 'fine' ? this.ofPair(deviceId, number) : this.of(deviceId, kind, number);
  }

  /** Takes a message in, and tells in {@link moved} what it moved. */
  take(deviceId: string, kind: number, data1: number, data2: number): void {
    const { moved } = this;
    moved.fill(-1);
    const at = placeOf(kind, data1);
    if (at < 0) return;
    const table = this.tableOf(deviceId);
    moved[ALONE + 1] = table[at];
    if (kind === PITCH_BEND) putFine(table, at, data2, data1);
    else table[at] = kind === CHANNEL_AFTERTOUCH ? data1 : data2;
    moved[ALONE] = table[at];
    if (kind !== CONTROL_CHANGE || data1 >= 2 * FINE_FROM) return;
    const pairs = this.pairsOf(deviceId);
    const coarse = data1 % FINE_FROM;
    moved[IN_PAIR + 1] = pairs[coarse];
    // The finer number begins at 0 with every coarse one, and does nothing before one has come.
    if (data1 < FINE_FROM) putFine(pairs, coarse, data2, 0);
    else if (table[coarse] >= 0) putFine(pairs, coarse, table[coarse], data2);
    moved[IN_PAIR] = pairs[coarse];
  }

  /** Nobody knows any more where the controls of a device stand. */
  forget(deviceId: string): void {
    this.byDevice.delete(deviceId);
    this.pairs.delete(deviceId);
  }

  private tableOf(deviceId: string): Float64Array {
    let table = this.byDevice.get(deviceId);
    if (!table) {
      table = new Float64Array(PLACES).fill(-1);
      this.byDevice.set(deviceId, table);
    }
    return table;
  }

  private pairsOf(deviceId: string): Float64Array {
    let pairs = this.pairs.get(deviceId);
    if (!pairs) {
      pairs = new Float64Array(FINE_FROM).fill(-1);
      this.pairs.set(deviceId, pairs);
    }
    return pairs;
  }
}
