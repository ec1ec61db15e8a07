import type { Begins } from '../../model/patch/begins.js';
import type { ControlTarget, LayerSetting } from '../../model/patch/control-target.js';
import type { Tie } from '../../model/patch/tie.js';
import type { TimbrePart } from '../../model/patch/timbre.js';
import type { Device } from '../../model/rig/rig.js';
import type { ShowControl } from '../../model/show/show-control.js';
import type { Seconds } from '../../units/times.js';
import type { Moved } from '../../units/moved.js';
import type { ChoosingOutput } from './chooser-controls.js';

/** A setting that a hand has moved, and where it stands now, in its own unit. */
export interface MovedSetting extends Moved {
  target: ControlTarget;
  /** What moved it. */
  tie: Tie;
}

/** What carries out a moved control. */
export interface ControlOutput extends ChoosingOutput {
  moveLayer(layerId: string, parameter: LayerSetting, to: Moved): void;
  moveSound(patchSoundId: string, part: TimbrePart, to: Moved): void;
  /** Whether a lift, mute or solo (by layer) or a treatment is on now. */
  isOn(target: ControlTarget): boolean;
  /** Switches it, now or with the clock. */
  switchTo(target: ControlTarget, on: boolean, begins: Begins): void;
  /** Nothing switches this any more. */
  untied(target: ControlTarget): void;
  /** Where an octave or a trim stands now; null for what is not there. */
  standingOf(target: ControlTarget): number | null;
  /** Puts an octave or a trim somewhere. */
  put(target: ControlTarget, value: number): void;
  /** Does what a press asks for. */
  press(target: ControlTarget, time: Seconds): void;
}

/** Where ties come from beside the patch. The same objects as long as nothing of them changes. */
export interface TieSources {
  devices: readonly Device[];
  show: { controls: readonly ShowControl[] } | null;
  rig: { ties: readonly Tie[] } | null;
}

/** Where a control stands, and what it moves. */
export interface JobState {
  /** 0–127, −1 before it was moved. */
  position: number;
  /** Whether its setting waits for the hand to come by. */
  waits: boolean;
  /** Where its setting stands, in its own unit, or whether it is on; null for what stands nowhere. */
  value: number | boolean | null;
}
