import {
  CHANNEL_AFTERTOUCH,
  CONTROL_CHANGE,
  PITCH_BEND,
  POLY_AFTERTOUCH,
} from '../../midi/messages.js';
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

/** The position (0–127) that a message says; −1 for one that says none. */
export function positionIn(kind: number, data1: number, data2: number): number {
  switch (kind) {
    case CONTROL_CHANGE:
    case POLY_AFTERTOUCH:
      return data2;
    case PITCH_BEND:
      return finePosition(data2, data1);
    case CHANNEL_AFTERTOUCH:
      return data1;
    default:
      return -1;
  }
}

/** Where the controllers, wheels and aftertouch of every device stand: 0–127, −1 before they were moved. */
export class ControlPositions {
  private readonly byDevice = new Map<string, Float32Array>();
  /** Positions of pairs of controllers, by the coarse one. */
  private readonly pairs = new Map<string, Float32Array>();

  /** Where something stands. */
  of(deviceId: string, kind: number, number: number): number {
    const at = placeOf(kind, number);
    return at < 0 ? -1 : this.tableOf(deviceId)[at];
  }

  /** Where a pair of controllers stands, by its coarse one. */
  ofPair(deviceId: string, controller: number): number {
    return controller < FINE_FROM ? this.pairsOf(deviceId)[controller] : -1;
  }

  /** Takes a message in. */
  take(deviceId: string, kind: number, data1: number, data2: number): void {
    const at = placeOf(kind, data1);
    if (at < 0) return;
    const table = this.tableOf(deviceId);
    table[at] = positionIn(kind, data1, data2);
    if (kind !== CONTROL_CHANGE || data1 >= 2 * FINE_FROM) return;
    const pairs = this.pairsOf(deviceId);
    // The finer number begins at 0 with every coarse one, and does nothing before one has come.
    if (data1 < FINE_FROM) pairs[data1] = finePosition(data2, 0);
    else if (table[data1 - FINE_FROM] >= 0)
      pairs[data1 - FINE_FROM] = finePosition(table[data1 - FINE_FROM], data2);
  }

  /** Nobody knows any more where the controls of a device stand. */
  forget(deviceId: string): void {
    this.byDevice.delete(deviceId);
    this.pairs.delete(deviceId);
  }

  private tableOf(deviceId: string): Float32Array {
    let table = this.byDevice.get(deviceId);
    if (!table) {
      table = new Float32Array(PLACES).fill(-1);
      this.byDevice.set(deviceId, table);
    }
    return table;
  }

  private pairsOf(deviceId: string): Float32Array {
    let pairs = this.pairs.get(deviceId);
    if (!pairs) {
      pairs = new Float32Array(FINE_FROM).fill(-1);
      this.pairs.set(deviceId, pairs);
    }
    return pairs;
  }
}
