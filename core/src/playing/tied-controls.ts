import { CONTROL_CHANGE, NOTE_OFF, NOTE_ON } from '../midi/messages.js';
import {
  controlledValue,
  isSwitch,
  type ControlTarget,
  type LayerParameter,
  type PatchControl,
} from '../model/patch/control.js';
import type { Patch } from '../model/patch/patch.js';
import type { TimbrePart } from '../model/patch/timbre.js';

/** What carries out a moved control. */
export interface ControlOutput {
  moveLayer(layerId: string, parameter: Exclude<LayerParameter, 'lift'>, value: number): void;
  moveSound(patchSoundId: string, part: TimbrePart, value: number): void;
  /** Whether a lift (by layer) or a treatment is on now. */
  isOn(target: ControlTarget): boolean;
  switchTo(target: ControlTarget, on: boolean): void;
}

/**
 * Controllers, pads and keys tied to settings of the patch. Where a controller stands is remembered, so that a patch taken
 * later begins where the hand is.
 */
export class TiedControls {
  private controls: readonly PatchControl[] = [];
  /** Where each controller of a device stands, −1 before it was moved. */
  private readonly positions = new Map<string, Int16Array>();

  constructor(private readonly output: ControlOutput) {}

  /** Takes the controls of the patch being played, and puts what they move where the hands have left them. */
  take(patch: Patch | null): void {
    this.controls = patch?.controls ?? [];
    for (const control of this.controls) {
      if (control.message.kind !== 'controller') continue;
      const position = this.positions.get(control.deviceId)?.[control.message.controller] ?? -1;
      if (position >= 0) this.carryOut(control, position);
    }
  }

  /** A message from a device; true when it was a pad or key tied to a switch, which then plays nothing. */
  message(deviceId: string, status: number, data1: number, data2: number): boolean {
    const kind = status & 0xf0;
    if (kind === CONTROL_CHANGE) {
      this.positionsOf(deviceId)[data1] = data2;
      for (const control of this.controls)
        if (
          control.deviceId === deviceId &&
          control.message.kind === 'controller' &&
          control.message.controller === data1
        )
          this.carryOut(control, data2);
      return false;
    }
    if (kind !== NOTE_ON && kind !== NOTE_OFF) return false;
    let used = false;
    for (const control of this.controls) {
      const { message, target } = control;
      if (message.kind !== 'note' || message.note !== data1 || control.deviceId !== deviceId)
        continue;
      used = true;
      if (kind !== NOTE_ON || data2 === 0) continue;
      if (isSwitch(target)) this.output.switchTo(target, !this.output.isOn(target));
      else this.carryOut(control, data2);
    }
    return used;
  }

  private positionsOf(deviceId: string): Int16Array {
    let positions = this.positions.get(deviceId);
    if (!positions) {
      positions = new Int16Array(128).fill(-1);
      this.positions.set(deviceId, positions);
    }
    return positions;
  }

  private carryOut(control: PatchControl, position: number): void {
    const { target } = control;
    if (isSwitch(target)) {
      const on = position >= 64;
      if (this.output.isOn(target) !== on) this.output.switchTo(target, on);
    } else if (target.kind === 'layer' && target.parameter !== 'lift') {
      this.output.moveLayer(target.layerId, target.parameter, controlledValue(control, position));
    } else if (target.kind === 'sound') {
      const value = controlledValue(control, position);
      this.output.moveSound(target.patchSoundId, target.parameter, value);
    }
  }
}
