import {
  CC,
  CHANNEL_AFTERTOUCH,
  channelOf,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
  POLY_AFTERTOUCH,
  PROGRAM_CHANGE,
  SONG_SELECT,
  SYSTEM_EXCLUSIVE,
  type ExclusiveFault,
} from '../midi/messages.js';
import { MidiParser } from '../midi/parser.js';
import type { Place } from '../model/rig/place.js';
import { isKeyboard, type Device } from '../model/rig/rig.js';
import { touchedBy } from '../model/show/sent.js';
import type { ShowControl } from '../model/show/show-control.js';
import type { ShowMessage } from '../model/show/show-message.js';
import type { Seconds } from '../units/times.js';
import { touchOut } from '../touch/touch.js';
import type { Player } from './notes/player.js';
import { senderOn } from '../rig/senders.js';
import { ShowActions, type ShowAct } from './show/show-actions.js';

/** The last channel message that came in. The object is reused. */
export interface LastMessage {
  /** Rises with every message. */
  count: number;
  device: string;
  status: number;
  data1: number;
  data2: number;
}

/** Hears a struck key before anything else, as the layers hear it; used by fields that are set by playing. */
export type KeyListener = (key: number, velocity: number, deviceId: string) => void;

/**
 * Hears whatever is moved before anything else, and where; used for learning. It gives back true when it has used the message
 * up.
 */
export type ControlListener = (place: Place, message: ShowMessage) => boolean;

/**
 * Looks on at every message that comes in, clock messages included, before anything is done with it: the time it came, the
 * port, the index of the device in the rig (−1 for none), and its bytes. It must not keep the path waiting.
 */
export type MessageTap = (
  time: Seconds,
  port: string,
  device: number,
  status: number,
  data1: number,
  data2: number,
) => void;

/**
 * Looks on at every exclusive message that comes in, and at bytes that make none (status 0): the time it came, the port, its
 * bytes as far as they are kept (the array is reused), how many there were, and what is wrong with it.
 */
export type LongTap = (
  time: Seconds,
  port: string,
  status: number,
  bytes: Uint8Array,
  length: number,
  fault: ExclusiveFault | null,
) => void;

/** What the host hands messages to. */
export interface HostParts {
  player: Player;
  /** Carries out what a show control asks for. */
  act: ShowAct;
  /** Told of every clock message, and when it came. */
  clock?: (port: string, status: number, data1: number, data2: number, time: Seconds) => void;
  /** Asked about every message from a device, by its index in the rig; true when it is used up. */
  tied?: (device: number, status: number, data1: number, data2: number, time: Seconds) => boolean;
  /** Whether a control was taken by something nearer than the show. */
  isNearer?: (device: number, status: number, data1: number) => boolean;
  /** Told of a device that has gone, or sends and is heard elsewhere now. */
  deviceGone?: (device: number) => void;
  /** Told of a control that was moved to be learnt. */
  seen?: (device: number, status: number, data1: number, data2: number) => void;
  /** The present time in seconds. */
  now?: () => Seconds;
}

const NO_BYTES = new Uint8Array(0);
/** The first status byte that belongs to no channel. */
const SYSTEM = 0xf0;

/**
 * Brings bytes from ports to the player: one parser a cable, show controls taken out on the way.
 *
 * port bytes ─► parser ─┬─► taps
 *                       ├─► clock messages
 *                       ├─► show action
 *                       └─► player
 */
export class PlayerHost {
  readonly last: LastMessage = { count: 0, device: '', status: 0, data1: 0, data2: 0 };
  /** Bytes thrown away because they made no message. */
  brokenBytes = 0;
  private readonly parsers = new Map<string, MidiParser>();
  private devices: readonly Device[] = [];
  private readonly actions: ShowActions;
  private readonly keyListeners = new Set<KeyListener>();
  private readonly controlListeners = new Set<ControlListener>();
  /** Replaced as a whole, so that a tap can be taken off while messages come in. */
  private taps: readonly MessageTap[] = [];
  private longTaps: readonly LongTap[] = [];
  private readonly player: Player;
  private readonly tied: NonNullable<HostParts['tied']>;
  private readonly isNearer: NonNullable<HostParts['isNearer']>;
  private readonly seen: NonNullable<HostParts['seen']>;
  private readonly deviceGone: NonNullable<HostParts['deviceGone']>;
  private readonly clock: NonNullable<HostParts['clock']>;
  private readonly now: () => Seconds;
  private receiving = false;
  /** When the bytes being parsed came in. Undefined at first, so that it is kept as handed over: handing it on makes no object. */
  private time!: Seconds;

  constructor({
    player,
    act,
    tied = () => false,
    isNearer = () => false,
    seen = () => undefined,
    deviceGone = () => undefined,
    clock = () => undefined,
    now = () => 0,
  }: HostParts) {
    this.player = player;
    this.tied = tied;
    this.isNearer = isNearer;
    this.seen = seen;
    this.deviceGone = deviceGone;
    this.clock = clock;
    this.now = now;
    this.actions = new ShowActions(act);
  }

  /** Takes the rig and what its controls do. Held notes end when devices change place, since keys are known by place. */
  setRig(devices: readonly Device[], controls: readonly ShowControl[]): void {
    const before = this.devices;
    const sameDevices =
      devices.length === before.length &&
      devices.every((device, index) => device.id === before[index].id);
    if (!sameDevices && before.length > 0) {
      this.player.allNotesOff();
      this.player.moveDevices(devices.map(({ id }) => before.findIndex((d) => d.id === id)));
    }
    // What a device held comes to an end where nobody would let it go any more.
    if (sameDevices)
      before.forEach((device, index) => {
        if (sentAlike(device, devices[index])) return;
        this.player.endDevice(index);
        this.deviceGone(index);
      });
    this.devices = devices;
    this.actions.set(devices, controls);
  }

  /** A port has gone: what its devices held ends, and what it had begun to say is forgotten. */
  portGone(port: string): void {
    this.parsers.delete(port);
    this.actions.portGone(port);
    // A module that goes takes nothing of the keyboards along.
    const own = this.devices.filter((device) => device.port === port);
    if (own.length > 0 && own.every(({ kind }) => kind === 'module')) return;
    // Those that its channels were played as: a borrowed keyboard’s port is none of the rig's.
    const played = new Set<number>();
    for (let channel = 1; channel <= 16; channel++)
      played.add(senderOn(this.devices, port, channel));
    for (const device of played)
      if (device >= 0) {
        this.player.endDevice(device);
        this.deviceGone(device);
      }
  }

  /**
   * Bytes from a port, and when they came if that is known. Two senders on one port, such as a stand-in and the keys on
   * screen, are two cables: each has its own running status.
   */
  receive(port: string, bytes: ArrayLike<number>, cable = port, time = this.now()): void {
    const parser = this.parsers.get(cable) ?? this.beginCable(cable, port);
    this.time = time;
    this.receiving = true;
    parser.push(bytes);
    this.receiving = false;
  }

  /** When the message came that is being carried out, so that what happens meanwhile is its doing; null while none is. */
  get receivingSince(): Seconds | null {
    return this.receiving ? this.time : null;
  }

  /** By itself, since what closures share is made anew by every call of whoever makes them. */
  private beginCable(cable: string, port: string): MidiParser {
    const parser = new MidiParser({
      message: (status, data1, data2) => this.message(port, status, data1, data2),
      broken: (count) => {
        this.brokenBytes += count;
        for (const tap of this.longTaps) tap(this.time, port, 0, NO_BYTES, count, null);
      },
      exclusive: (bytes, fault) => {
        for (const tap of this.longTaps)
          tap(this.time, port, SYSTEM_EXCLUSIVE, bytes, bytes.length, fault);
      },
    });
    this.parsers.set(cable, parser);
    return parser;
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

  /** Has a tap look on at every message until the returned function is called. */
  tap(tap: MessageTap): () => void {
    this.taps = [...this.taps, tap];
    return () => {
      this.taps = this.taps.filter((other) => other !== tap);
    };
  }

  /** Has a tap look on at every exclusive message, and at what makes none, until the returned function is called. */
  tapLong(tap: LongTap): () => void {
    this.longTaps = [...this.longTaps, tap];
    return () => {
      this.longTaps = this.longTaps.filter((other) => other !== tap);
    };
  }

  private message(port: string, status: number, data1: number, data2: number): void {
    const device = status >= SYSTEM ? -1 : senderOn(this.devices, port, channelOf(status));
    const { taps } = this;
    for (let i = 0; i < taps.length; i++) taps[i](this.time, port, device, status, data1, data2);
    if (status >= SYSTEM) {
      if (status === SONG_SELECT) this.songSelected(port, data1);
      else this.clock(port, status, data1, data2, this.time);
      return;
    }
    const { last } = this;
    last.count++;
    last.device = device < 0 ? port : this.devices[device].name;
    last.status = status;
    last.data1 = data1;
    last.data2 = data2;
    if (device >= 0 && this.learnt(this.devices[device], status, data1, data2)) {
      this.seen(device, status, data1, data2);
      // Touched to be learnt, it still ends what it held.
      this.letGo(device, heardStatus(this.devices[device], status), data1, data2);
      return;
    }
    const isNearer = device >= 0 && this.isNearer(device, status, data1);
    if (isNearer) this.actions.letGo(port, status, data1, data2);
    const used = !isNearer && this.actions.take(port, status, data1, data2, this.time);
    if (device < 0) return;
    const heard = heardStatus(this.devices[device], status);
    if (used) {
      this.letGo(device, heard, data1, data2);
      return;
    }
    if ((status & 0xf0) === NOTE_ON && data2 > 0) this.tellKey(device, data1, data2);
    if (this.tied(device, status, data1, data2, this.time)) this.letGo(device, heard, data1, data2);
    else this.player.message(device, heard, data1, data2);
  }

  private songSelected(port: string, song: number): void {
    const device = this.devices.find((d) => d.port === port && d.kind !== 'module');
    if (device && this.learnt(device, SONG_SELECT, song, 0)) return;
    this.actions.take(port, SONG_SELECT, song, 0, this.time);
  }

  /** Tells a struck key as the layers hear it, after its keyboard's own octave shift and touch. */
  private tellKey(index: number, key: number, velocity: number): void {
    const device = this.devices[index];
    const own = isKeyboard(device) ? device.octaveShift * 12 : 0;
    const heard = key + own + this.player.shiftOf(index);
    const strength = isKeyboard(device) ? touchOut(device.touch, velocity) : velocity;
    if (heard < 0 || heard > 127 || strength === 0) return;
    for (const listener of this.keyListeners) listener(heard, strength, device.id);
  }

  /** The release of a key that means something else now: it still ends what the key may have begun before. */
  private letGo(device: number, status: number, data1: number, data2: number): void {
    const kind = status & 0xf0;
    if (kind === NOTE_OFF || (kind === NOTE_ON && data2 === 0))
      this.player.noteOff(device, channelOf(status), data1);
    // A pedal or button that went down as a pedal comes up as one.
    else if (kind === CONTROL_CHANGE && data1 === CC.sustain && data2 < 64)
      this.player.pedalMoved(device, channelOf(status), false);
  }

  private learnt(device: Device, status: number, data1: number, data2: number): boolean {
    if (this.controlListeners.size === 0) return false;
    const message = messageOf(status, data1, data2);
    if (!message) return false;
    const touched = touchedBy(device, message, this.devices);
    let used = false;
    for (const listener of this.controlListeners)
      if (listener(touched.place, touched.message)) used = true;
    return used;
  }
}

/** A message as something to be learnt; null for one that is nothing a hand does. */
function messageOf(status: number, data1: number, data2: number): ShowMessage | null {
  if (status === SONG_SELECT) return { kind: 'songSelect' };
  switch (status & 0xf0) {
    case CONTROL_CHANGE:
      return data1 < 120 ? { kind: 'controller', controller: data1 } : null;
    case NOTE_ON:
      return data2 > 0 ? { kind: 'note', note: data1 } : null;
    case PROGRAM_CHANGE:
      return { kind: 'program', program: data1 };
    case PITCH_BEND:
      return { kind: 'bend' };
    case CHANNEL_AFTERTOUCH:
      return { kind: 'pressure' };
    case POLY_AFTERTOUCH:
      return { kind: 'keyPressure' };
    default:
      return null;
  }
}

/** A status byte with the channel on which its device is heard. */
function heardStatus(device: Device, status: number): number {
  if (!('heardAs' in device) || device.heardAs === null) return status;
  return (status & 0xf0) | (device.heardAs - 1);
}

/** Whether a device still sends where it did, and is heard there. */
function sentAlike(before: Device, after: Device): boolean {
  if (before.port !== after.port || before.kind !== after.kind) return false;
  if (before.kind === 'module' || after.kind === 'module') return true;
  const heardAs = (device: Device) => ('heardAs' in device ? device.heardAs : null);
  return before.channel === after.channel && heardAs(before) === heardAs(after);
}
