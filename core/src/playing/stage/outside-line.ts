import { Glide } from '../../clock/glide.js';
import { CC } from '../../midi/messages.js';
import { SILENCE_DB } from '../../units/decibels.js';
import type { OutsideTarget } from './outside-target.js';
import type { OutPort } from './ports.js';

/** Sustain, portamento, sostenuto and soft pedal. */
const FIRST_PEDAL = 64;
const LAST_PEDAL = 67;

/** A channel of a module: what it was told, and what it holds. */
export class OutsideLine {
  /** How many voices hold each note: it ends with the last of them. */
  readonly holding = new Uint8Array(128);
  /** When each note ends that was handed over ahead; 0 for at once. */
  readonly offAt = new Float64Array(128);
  /** Where it was told that controllers stand; −1 for those of which it was told nothing. */
  readonly controllers = new Int16Array(128).fill(-1);
  /** Its volume as it glides, dB; counts once {@link hasLevel}. */
  readonly level = new Glide(SILENCE_DB);
  hasLevel = false;
  /** −8191…8191. */
  bend = 0;
  /** Whose bank and program it was told. */
  told: OutsideTarget | null = null;

  constructor(
    readonly port: OutPort,
    readonly channel: number,
  ) {}

  /** It was silenced and its controllers were reset: what RP-015 of the MIDI Association resets stands at rest. */
  rest(): void {
    this.holding.fill(0);
    this.offAt.fill(0);
    this.bend = 0;
    this.controllers[CC.modulation] = 0;
    this.controllers[CC.expression] = 127;
    for (let pedal = FIRST_PEDAL; pedal <= LAST_PEDAL; pedal++)
      if (this.controllers[pedal] > 0) this.controllers[pedal] = 0;
  }
}
