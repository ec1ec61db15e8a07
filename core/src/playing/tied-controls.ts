import { CONTROL_CHANGE, NOTE_OFF, NOTE_ON, PROGRAM_CHANGE } from '../midi/messages.js';
import { choiceAt, type Chooser, type Picks } from '../model/patch/chooser.js';
import {
  controlledValue,
  isSwitch,
  sameTarget,
  settingOf,
  type ControlTarget,
  type LayerParameter,
  type PatchControl,
} from '../model/patch/control.js';
import type { Patch } from '../model/patch/patch.js';
import type { Device } from '../model/rig/rig.js';
import { sentAt } from '../model/show/sent.js';
import type { TimbrePart } from '../model/patch/timbre.js';
import type { ControllerPosition } from './obeying.js';
import { senderAt } from './sending-devices.js';

/** A setting that a hand has moved, and where it stands now, in its own unit. */
export interface MovedSetting {
  target: ControlTarget;
  value: number;
}

/** A control of the patch as it is found at the rig. */
interface ReadyControl {
  control: PatchControl;
  /** Index of the device that brings it, and that device’s id. */
  device: number;
  deviceId: string;
  /** The high half of the status, and its number. */
  kind: number;
  number: number;
}

/** A control of a chooser as it is found at the rig. */
interface ReadyChooser {
  chooser: Chooser;
  picks: Picks;
  device: number;
  kind: number;
  number: number;
  down: boolean;
}

/** What carries out a moved control. */
export interface ControlOutput {
  moveLayer(layerId: string, parameter: Exclude<LayerParameter, 'lift'>, value: number): void;
  moveSound(patchSoundId: string, part: TimbrePart, value: number): void;
  /** Whether a lift (by layer) or a treatment is on now. */
  isOn(target: ControlTarget): boolean;
  switchTo(target: ControlTarget, on: boolean): void;
  /** Which choice a chooser has picked now. */
  pickedBy(chooser: Chooser): number;
  pick(chooserId: string, choice: number): void;
  /** Nothing switches this any more. */
  untied(target: ControlTarget): void;
}

/**
 * Controllers, pads and keys tied to settings of the patch. Where a controller stands is remembered, so that a patch taken
 * later begins where the hand is. What a cue or the desk sets meanwhile stays until the hand has come by there: it picks the
 * setting up instead of tearing it away.
 */
export class TiedControls {
  private patch: Patch | null = null;
  private controls: readonly PatchControl[] = [];
  private devices: readonly Device[] = [];
  private ready: readonly ReadyControl[] = [];
  private choosers: readonly ReadyChooser[] = [];
  /** Where each controller of a device stands, −1 before it was moved. */
  private readonly positions = new Map<string, Int16Array>();
  /** Settings that were moved away from under a control, by its id: where they stand now. */
  private readonly toPickUp = new Map<string, number>();
  /** Settings that hands have moved since a cue or the desk put them somewhere, by their target. */
  private readonly moved = new Map<string, MovedSetting>();
  /** Controllers that move timbre or pan, and those that the cue has put somewhere: where they are taken to stand. */
  private readonly standing = new Map<number, number>();
  private isAnother = true;
  private movements = 0;

  constructor(private readonly output: ControlOutput) {}

  /** Rises with everything that a hand or a cue moves here, so that views know when to look. */
  get changes(): number {
    return this.movements;
  }

  /** Settings that hands have moved since a cue or the desk put them somewhere. */
  get movedSettings(): Iterable<MovedSetting> {
    return this.moved.values();
  }

  /** Where controllers stand that a cue may recall: those it has put somewhere, and those tied to timbre and pan. */
  get positionsToRecall(): ControllerPosition[] {
    return [...this.standing]
      .map(([controller, value]) => ({ controller, value }))
      .sort((a, b) => a.controller - b.controller);
  }

  /** Takes the rig, at which controls are found by their places. */
  setRig(devices: readonly Device[]): void {
    if (devices === this.devices) return;
    this.devices = devices;
    this.makeReady();
  }

  /**
   * Takes the controls of the patch being played. When it is another patch, what they move is put where the hands have left
   * them; when it is the same one after a cue or an edit, it stays where those have put it.
   */
  take(patch: Patch | null): void {
    const before = this.patch;
    const another = before?.id !== patch?.id;
    const untied = another ? [] : this.controls.filter((c) => !stillTied(c, patch));
    this.patch = patch;
    this.controls = patch?.controls ?? [];
    this.makeReady();
    for (const { target } of untied) if (isSwitch(target)) this.output.untied(target);
    this.isAnother = another;
    this.movements++;
    if (another) {
      this.toPickUp.clear();
      this.moved.clear();
      this.standing.clear();
    }
    for (const ready of this.ready) {
      const { control, kind, number, deviceId } = ready;
      if (kind !== CONTROL_CHANGE) continue;
      if (another) {
        const position = this.positions.get(deviceId)?.[number] ?? -1;
        if (position >= 0) this.carryOut(ready, position);
      } else if (before && patch) {
        const setting = settingOf(control.target, patch);
        if (setting === null || setting === settingOf(control.target, before)) continue;
        this.toPickUp.set(control.id, setting);
        this.moved.delete(JSON.stringify(control.target));
      }
    }
  }

  /**
   * A cue puts controllers where it says: what is tied to them follows, until the hand picks it up. What hands have moved in
   * the same patch before goes back to where the cue has it; the stage has seen to levels and sends.
   */
  recall(positions: readonly ControllerPosition[]): void {
    // In another patch hands have just put what is tied to them where they stand; here that is taken back.
    if (!this.isAnother) {
      this.putBack();
      this.standing.clear();
    }
    for (const { controller, value } of positions) this.standing.set(controller, value);
    for (const { controller, value } of positions)
      for (const ready of this.ready) {
        if (ready.kind !== CONTROL_CHANGE || ready.number !== controller) continue;
        const { control } = ready;
        this.carryOut(ready, value);
        if (!isSwitch(control.target))
          this.toPickUp.set(control.id, controlledValue(control, value));
      }
  }

  /** A message from a device of the rig, by its index; true when it was a pad or key tied to a switch, which then plays nothing. */
  message(device: number, status: number, data1: number, data2: number): boolean {
    const kind = status & 0xf0;
    const picked = this.choosers.length > 0 && this.picked(device, kind, data1, data2);
    if (kind === CONTROL_CHANGE) {
      const positions = this.positionsOf(this.devices[device]?.id ?? '');
      const before = positions[data1];
      positions[data1] = data2;
      if (this.standing.has(data1)) {
        this.standing.set(data1, data2);
        this.movements++;
      }
      for (const ready of this.ready)
        if (
          ready.device === device &&
          ready.kind === CONTROL_CHANGE &&
          ready.number === data1 &&
          this.hasPickedUp(ready.control, before, data2)
        )
          this.carryOut(ready, data2);
      return picked;
    }
    if (kind !== NOTE_ON && kind !== NOTE_OFF) return picked;
    let used = picked;
    for (const ready of this.ready) {
      if (ready.kind !== NOTE_ON || ready.number !== data1 || ready.device !== device) continue;
      const { target } = ready.control;
      used = true;
      if (kind !== NOTE_ON || data2 === 0) continue;
      if (isSwitch(target)) this.output.switchTo(target, !this.output.isOn(target));
      else this.carryOut(ready, data2);
    }
    return used;
  }

  /** Whether a control moves its setting: it does unless that waits to be picked up and the hand has not come by. */
  private hasPickedUp(control: PatchControl, before: number, position: number): boolean {
    const setting = this.toPickUp.get(control.id);
    if (setting === undefined) return true;
    const oneStep = Math.abs(control.to - control.from) / 127;
    const value = controlledValue(control, position);
    const reached = Math.abs(value - setting) <= oneStep;
    const passed =
      before >= 0 && (controlledValue(control, before) - setting) * (value - setting) <= 0;
    if (!reached && !passed) return false;
    this.toPickUp.delete(control.id);
    return true;
  }

  private positionsOf(deviceId: string): Int16Array {
    let positions = this.positions.get(deviceId);
    if (!positions) {
      positions = new Int16Array(128).fill(-1);
      this.positions.set(deviceId, positions);
    }
    return positions;
  }

  private putBack(): void {
    for (const { target } of this.moved.values()) {
      const setting = this.patch && settingOf(target, this.patch);
      if (setting === null) continue;
      if (target.kind === 'sound')
        this.output.moveSound(target.patchSoundId, target.parameter, setting);
      if (target.kind === 'layer' && target.parameter === 'pan')
        this.output.moveLayer(target.layerId, 'pan', setting);
      for (const { control, kind } of this.ready)
        if (kind === CONTROL_CHANGE && sameTarget(control.target, target))
          this.toPickUp.set(control.id, setting);
    }
    this.moved.clear();
    this.movements++;
  }

  /** Picks what a control of a chooser picks; true when the message was one and is used up. */
  private picked(device: number, kind: number, data1: number, data2: number): boolean {
    const high = kind === NOTE_OFF ? NOTE_ON : kind;
    let used = false;
    for (const ready of this.choosers) {
      if (ready.device !== device || ready.kind !== high) continue;
      if (ready.number !== data1 && ready.number >= 0) continue;
      used = true;
      const count = ready.chooser.choices.length;
      if (ready.picks === 'position') {
        const choice = kind === PROGRAM_CHANGE ? data1 : choiceAt(data2, count);
        if (choice < count) this.pick(ready.chooser, choice);
        continue;
      }
      const down =
        kind === PROGRAM_CHANGE ||
        (kind === NOTE_ON ? data2 > 0 : kind === CONTROL_CHANGE && data2 >= 64);
      if (down && !ready.down)
        this.pick(
          ready.chooser,
          ready.picks === 'next' ? (this.output.pickedBy(ready.chooser) + 1) % count : ready.picks,
        );
      ready.down = down && kind !== PROGRAM_CHANGE;
    }
    return used;
  }

  private pick({ id, choices }: Chooser, choice: number): void {
    if (choice >= choices.length) return;
    this.movements++;
    this.output.pick(id, choice);
  }

  private makeReady(): void {
    const before = this.choosers;
    this.choosers = (this.patch?.choosers ?? []).flatMap((chooser) =>
      chooser.controls.flatMap((control): ReadyChooser[] => {
        const device = senderAt(this.devices, control.place);
        const found = sentAt(control, this.devices);
        if (device < 0 || !found) return [];
        const { kind, number } = found.sent;
        // What is held down stays so: otherwise a pedal that is held would pick once more as it moves.
        const down = before.some(
          (one) => one.down && one.device === device && one.kind === kind && one.number === number,
        );
        return [{ chooser, picks: control.picks, device, kind, number, down }];
      }),
    );
    this.ready = this.controls.flatMap((control): ReadyControl[] => {
      const device = senderAt(this.devices, control.place);
      const found = sentAt(control, this.devices);
      if (device < 0 || !found) return [];
      return [{ control, device, deviceId: this.devices[device].id, ...found.sent }];
    });
  }

  private carryOut({ control, kind, number }: ReadyControl, position: number): void {
    const { target } = control;
    this.movements++;
    if (!isSwitch(target))
      this.moved.set(JSON.stringify(target), { target, value: controlledValue(control, position) });
    const isRecalled =
      target.kind === 'sound' || (target.kind === 'layer' && target.parameter === 'pan');
    if (isRecalled && kind === CONTROL_CHANGE) this.standing.set(number, position);
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

function stillTied({ target }: PatchControl, patch: Patch | null): boolean {
  return patch?.controls.some((control) => sameTarget(control.target, target)) ?? false;
}
