import { CC } from '../midi/messages.js';
import { MOST_DEVICES, type CompiledLayer } from '../routing/compile.js';
import { hears } from '../routing/hearing.js';

/** Where the wheels and pedals of every device and channel stand, so that a new layer begins where the hand is. */
export class Controllers {
  private readonly modulation = new Uint8Array(MOST_DEVICES * 16);
  private readonly expression = new Uint8Array(MOST_DEVICES * 16).fill(127);
  private readonly bend = new Float32Array(MOST_DEVICES * 16);

  /** Remembers a controller; true when it is one that layers can obey. */
  move(device: number, channel: number, controller: number, value: number): boolean {
    if (controller === CC.modulation) this.modulation[indexOf(device, channel)] = value;
    else if (controller === CC.expression) this.expression[indexOf(device, channel)] = value;
    else return false;
    return true;
  }

  /** Remembers the pitch wheel, −1…1. */
  moveBend(device: number, channel: number, amount: number): void {
    this.bend[indexOf(device, channel)] = amount;
  }

  /** Vibrato depth 0–1 for a layer: the highest of the wheels it hears. */
  modulationFor(layer: CompiledLayer): number {
    let most = 0;
    for (let at = 0; at < this.modulation.length; at++)
      if (this.modulation[at] > most && hears(layer, at >> 4, (at & 15) + 1))
        most = this.modulation[at];
    return most / 127;
  }

  /** Expression 0–127 for a layer: the lowest of the pedals it hears. */
  expressionFor(layer: CompiledLayer): number {
    let least = 127;
    for (let at = 0; at < this.expression.length; at++)
      if (this.expression[at] < least && hears(layer, at >> 4, (at & 15) + 1))
        least = this.expression[at];
    return least;
  }

  /** Bend −1…1 for a layer. */
  bendFor(layer: CompiledLayer): number {
    for (let at = 0; at < this.bend.length; at++)
      if (this.bend[at] !== 0 && hears(layer, at >> 4, (at & 15) + 1)) return this.bend[at];
    return 0;
  }
}

/** Linear gain of an expression value 0–127: 40 dB · log10(value / 127), as the General MIDI recommendation has it. */
export function expressionGain(value: number): number {
  return (value / 127) ** 2;
}

function indexOf(device: number, channel: number): number {
  return device * 16 + channel - 1;
}
