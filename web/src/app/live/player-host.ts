import { MidiParser, NOTE_OFF, NOTE_ON, CONTROL_CHANGE, channelOf } from '@pentachord/core/midi';
import type { ControlMessage, Device, ShowAction, ShowControl } from '@pentachord/core/model';
import { isKeyboard } from '@pentachord/core/model';
import type { Player } from '@pentachord/core/routing';

/** The last message that came in. The object is reused. */
export interface LastMessage {
  /** Rises with every message. */
  count: number;
  device: string;
  status: number;
  data1: number;
  data2: number;
}

/** Hears a struck key before anything else; used by fields that are set by playing. */
export type KeyListener = (key: number, velocity: number, deviceId: string) => void;

/** Hears whatever is moved before anything else; used for learning. It gives back true when it has used the message up. */
export type ControlListener = (deviceId: string, message: ControlMessage) => boolean;

/** A show control with the port and channel it listens on. */
interface ReadyControl {
  port: string;
  channel: number;
  kind: number;
  number: number;
  action: ShowAction;
  down: boolean;
}

const REAL_TIME = 0xf8;

/**
 * Brings bytes from ports to the player: one parser a port, show controls taken out on the way.
 *
 * port bytes ─► parser ─┬─► show action
 *                       └─► player
 */
export class PlayerHost {
  readonly last: LastMessage = { count: 0, device: '', status: 0, data1: 0, data2: 0 };
  /** Bytes thrown away because they made no message. */
  brokenBytes = 0;
  private readonly parsers = new Map<string, MidiParser>();
  private devices: readonly Device[] = [];
  private controls: ReadyControl[] = [];
  private readonly keyListeners = new Set<KeyListener>();
  private readonly controlListeners = new Set<ControlListener>();

  constructor(
    private readonly player: Player,
    private readonly act: (action: ShowAction) => void,
    /** Asked about every message from a device; true when it is used up. */
    private readonly tied: (
      deviceId: string,
      status: number,
      data1: number,
      data2: number,
    ) => boolean = () => false,
  ) {}

  /** Takes the rig and what its controls do. Held notes end when devices change place, since keys are known by place. */
  setRig(devices: readonly Device[], controls: readonly ShowControl[]): void {
    const sameDevices =
      devices.length === this.devices.length &&
      devices.every((device, index) => device.id === this.devices[index].id);
    if (!sameDevices && this.devices.length > 0) this.player.allNotesOff();
    this.devices = devices;
    this.controls = controls.flatMap((control) => {
      const device = devices.find((d) => d.id === control.deviceId);
      if (!device || device.kind === 'module') return [];
      const { message } = control;
      return {
        port: device.port,
        channel: device.channel,
        kind: message.kind === 'note' ? NOTE_ON : CONTROL_CHANGE,
        number: message.kind === 'note' ? message.note : message.controller,
        action: control.action,
        down: false,
      };
    });
  }

  /**
   * Bytes from a port. Two senders on one port, such as a stand-in and the keys on screen, are two cables: each has its own
   * running status.
   */
  receive(port: string, bytes: ArrayLike<number>, cable = port): void {
    let parser = this.parsers.get(cable);
    if (!parser) {
      parser = new MidiParser({
        message: (status, data1, data2) => this.message(port, status, data1, data2),
        broken: (count) => (this.brokenBytes += count),
      });
      this.parsers.set(cable, parser);
    }
    parser.push(bytes);
  }

  /** Calls back for every struck key until the returned function is called. */
  listenToKeys(listener: KeyListener): () => void {
    this.keyListeners.add(listener);
    return () => this.keyListeners.delete(listener);
  }

  /** Calls back for every controller moved and note struck until the returned function is called. */
  listenToControls(listener: ControlListener): () => void {
    this.controlListeners.add(listener);
    return () => this.controlListeners.delete(listener);
  }

  private message(port: string, status: number, data1: number, data2: number): void {
    if (status >= REAL_TIME) return;
    const device = this.deviceAt(port, channelOf(status));
    const { last } = this;
    last.count++;
    last.device = device < 0 ? port : this.devices[device].name;
    last.status = status;
    last.data1 = data1;
    last.data2 = data2;
    if (device >= 0 && this.learnt(this.devices[device].id, status, data1, data2)) return;
    if (this.isControl(port, status, data1, data2) || device < 0) return;
    if ((status & 0xf0) === NOTE_ON && data2 > 0)
      for (const listener of this.keyListeners) listener(data1, data2, this.devices[device].id);
    if (this.tied(this.devices[device].id, status, data1, data2)) return;
    this.player.message(device, status, data1, data2);
  }

  private learnt(deviceId: string, status: number, data1: number, data2: number): boolean {
    if (this.controlListeners.size === 0) return false;
    const kind = status & 0xf0;
    const message: ControlMessage | null =
      kind === CONTROL_CHANGE && data1 < 120
        ? { kind: 'controller', controller: data1 }
        : kind === NOTE_ON && data2 > 0
          ? { kind: 'note', note: data1 }
          : null;
    let used = false;
    if (message)
      for (const listener of this.controlListeners) if (listener(deviceId, message)) used = true;
    return used;
  }

  /** Carries a show control out; true when the message was one and is used up. */
  private isControl(port: string, status: number, data1: number, data2: number): boolean {
    const kind = (status & 0xf0) === NOTE_OFF ? NOTE_ON : status & 0xf0;
    for (const control of this.controls) {
      if (control.kind !== kind || control.number !== data1) continue;
      if (control.port !== port || control.channel !== channelOf(status)) continue;
      const pressed =
        kind === CONTROL_CHANGE ? data2 >= 64 : (status & 0xf0) === NOTE_ON && data2 > 0;
      // Only the way down acts; a sweeping pedal sends many values on it.
      if (pressed && !control.down) this.act(control.action);
      control.down = pressed;
      return true;
    }
    return false;
  }

  /**
   * Index of the device that sent: the one on the port with the channel, else the first on the port. A port that the rig
   * does not know plays as the keyboard of its channel, else as the first keyboard, so that a borrowed one is heard.
   */
  private deviceAt(port: string, channel: number): number {
    let onPort = -1;
    let byChannel = -1;
    let first = -1;
    for (let index = 0; index < this.devices.length; index++) {
      const device = this.devices[index];
      if (device.kind === 'module' || device.kind === 'pedal') continue;
      if (device.port === port) {
        if (device.channel === channel) return index;
        if (onPort < 0) onPort = index;
      }
      if (!isKeyboard(device)) continue;
      if (first < 0) first = index;
      if (byChannel < 0 && device.channel === channel) byChannel = index;
    }
    if (onPort >= 0) return onPort;
    return byChannel >= 0 ? byChannel : first;
  }
}
