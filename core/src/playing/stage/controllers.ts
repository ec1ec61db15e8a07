import { CC } from '../../midi/messages.js';
import { MOST_DEVICES } from '../../model/rig/rig.js';
import type { CompiledLayer } from '../../routing/compile.js';
import { hears } from '../../routing/hearing.js';

const PLACES = MOST_DEVICES * 16;

/** What one controller of every device and channel says, and which of them was moved last. */
class ControllerLine {
  private readonly values: Int16Array;
  /** When each was moved, counted in moves; 0 for never. */
  private readonly moves = new Float64Array(PLACES);
  private count = 0;

  /** @param rest where it stands before it is moved */
  constructor(private readonly rest: number) {
    this.values = new Int16Array(PLACES).fill(rest);
  }

  move(place: number, value: number): void {
    this.values[place] = value;
    this.moves[place] = ++this.count;
  }

  /** What a layer goes by: of all that it hears, the one that was moved last. */
  valueFor(layer: CompiledLayer): number {
    let last = -1;
    for (let place = 0; place < PLACES; place++)
      if (
        this.moves[place] > (last < 0 ? 0 : this.moves[last]) &&
        hears(layer, place >> 4, (place & 15) + 1)
      )
        last = place;
    return last < 0 ? this.rest : this.values[last];
  }

  /** A place stands at rest, as if it had never been moved; false when it had not. */
  forget(place: number): boolean {
    if (this.moves[place] === 0) return false;
    this.values[place] = this.rest;
    this.moves[place] = 0;
    return true;
  }

  /** Devices have changed places: `cameFrom` holds the place each had, −1 for a new one. */
  moveDevices(cameFrom: readonly number[]): void {
    const values = this.values.slice();
    const moves = this.moves.slice();
    for (let place = 0; place < PLACES; place++) {
      const from = cameFrom[place >> 4] ?? -1;
      const before = from * 16 + (place & 15);
      this.values[place] = from < 0 ? this.rest : values[before];
      this.moves[place] = from < 0 ? 0 : moves[before];
    }
  }
}

/**
 * Where the wheels and pedals of every device and channel stand, so that a new layer begins where the hand is. Of two that a
 * layer hears the one that was moved last counts, whether it is moved now or was before the layer came.
 */
export class Controllers {
  private readonly modulation = new ControllerLine(0);
  private readonly expression = new ControllerLine(127);
  private readonly bend = new ControllerLine(0);
  private readonly pressure = new ControllerLine(0);

  /** Remembers a controller; true when it is one that layers can obey. */
  move(device: number, channel: number, controller: number, value: number): boolean {
    if (controller === CC.modulation) this.modulation.move(placeOf(device, channel), value);
    else if (controller === CC.expression) this.expression.move(placeOf(device, channel), value);
    else return false;
    return true;
  }

  /** Remembers the pitch wheel, in steps. */
  moveBend(device: number, channel: number, steps: number): void {
    this.bend.move(placeOf(device, channel), steps);
  }

  /** A device's channel stands at rest; tells what of it had been moved. */
  forgetDevice(device: number, channel: number) {
    const place = placeOf(device, channel);
    const modulation = this.modulation.forget(place);
    const expression = this.expression.forget(place);
    const bend = this.bend.forget(place);
    const pressure = this.pressure.forget(place);
    const any = modulation || expression || bend || pressure;
    return { any, modulation, expression, bend, pressure };
  }

  /** Modulation 0–127 for a layer. */
  modulationFor(layer: CompiledLayer): number {
    return this.modulation.valueFor(layer);
  }

  /** Remembers channel aftertouch, 0–127. */
  movePressure(device: number, channel: number, value: number): void {
    this.pressure.move(placeOf(device, channel), value);
  }

  /** Channel aftertouch 0–127 for a layer. */
  pressureFor(layer: CompiledLayer): number {
    return this.pressure.valueFor(layer);
  }

  /** Expression 0–127 for a layer. */
  expressionFor(layer: CompiledLayer): number {
    return this.expression.valueFor(layer);
  }

  /** Steps of the wheel for a layer. */
  bendFor(layer: CompiledLayer): number {
    return this.bend.valueFor(layer);
  }

  /** Devices have changed places: `cameFrom` holds the place each had, −1 for a new one. */
  moveDevices(cameFrom: readonly number[]): void {
    this.modulation.moveDevices(cameFrom);
    this.expression.moveDevices(cameFrom);
    this.bend.moveDevices(cameFrom);
    this.pressure.moveDevices(cameFrom);
  }
}

/** Linear gain of an expression value 0–127: 40 dB · log10(value / 127), as the General MIDI recommendation has it. */
export function expressionGain(value: number): number {
  return (value / 127) ** 2;
}

/** The same by value, since a fraction that is given back would be an object. */
export const EXPRESSION_GAINS = Float64Array.from({ length: 128 }, (_, value) =>
  expressionGain(value),
);

function placeOf(device: number, channel: number): number {
  return device * 16 + channel - 1;
}
