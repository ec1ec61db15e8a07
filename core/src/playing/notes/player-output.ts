import type { CompiledLayer, CompiledPatch } from '../../routing/compile.js';
import type { Seconds } from '../../units/times.js';

/** How and when a voice begins. The object is reused: a fraction that one function hands to another would be an object anew. */
export interface Onset {
  /** Linear gain of the layer's ranges. */
  gain: number;
  /** On the player's clock; 0 is now. */
  at: Seconds;
}

/**
 * What carries out the player's decisions: the audio engine and the outgoing ports. Times are on the player's clock; 0 is
 * now, and what is later is handed over a little ahead.
 */
export interface PlayerOutput {
  /** Begins a voice. The level and the pan of its layer are the output's business. */
  start(
    voice: number,
    patch: CompiledPatch,
    layer: CompiledLayer,
    note: number,
    velocity: number,
    onset: Readonly<Onset>,
  ): void;
  /** Whether what a layer plays dies away by itself, like a string: struck again under the pedal it goes on ringing. */
  ringsOn(layer: CompiledLayer): boolean;
  /** Lets a voice go into its release. */
  end(voice: number, at: Seconds): void;
  /** Calls off whatever of a voice is not due yet, its start included. */
  takeBack(voice: number): void;
  /**
   * Has what of a voice is not due yet come at other times, `until` infinite for no end yet. Whoever sounds it may be ahead of
   * the player: what has begun for them is not begun again.
   */
  retime(voice: number, from: Seconds, until: Seconds): void;
  /** A controller (0–127) other than sustain. */
  control(device: number, channel: number, controller: number, value: number): void;
  /** Pitch bend, −8191…8191. */
  bend(device: number, channel: number, steps: number): void;
  /** Channel aftertouch, 0–127. */
  pressure(device: number, channel: number, value: number): void;
  /** Aftertouch of the key that has begun a voice, 0–127. */
  voicePressure(voice: number, value: number): void;
  /** Devices have changed places: `cameFrom` holds the place each had, −1 for a new one. */
  moveDevices(cameFrom: readonly number[]): void;
  /** A device has gone: its wheels, pedals and aftertouch stand at rest. */
  deviceGone(device: number): void;
  /** Ends everything at once, and sends CC 120, 121 and 123 on every outgoing channel. */
  silence(): void;
}
