import {
  channelOf,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PROGRAM_CHANGE,
  SONG_SELECT,
} from '../../midi/messages.js';
import type { Device } from '../../model/rig/rig.js';
import { sentAt } from '../../model/show/sent.js';
import type { ShowControl } from '../../model/show/show-control.js';
import type { Seconds } from '../../units/times.js';

/** A show control with the port and channel it listens on. */
interface ReadyControl {
  port: string;
  /** 0 for messages that belong to no channel. */
  channel: number;
  kind: number;
  /** Note, controller or program; −1 for any. */
  number: number;
  control: ShowControl;
  down: boolean;
}

/**
 * Carries a control out: how hard it was struck, how far it was moved, or the number that came with it; and when that was, in
 * seconds.
 */
export type ShowAct = (control: ShowControl, value: number, time: Seconds) => void;

/** Pads, keys, pedals, knobs and messages that do something to the show: what they send reaches no layer. */
export class ShowActions {
  private controls: ReadyControl[] = [];

  constructor(private readonly act: ShowAct) {}

  /** Takes the controls of a show. Those that the rig does not have rest. */
  set(devices: readonly Device[], controls: readonly ShowControl[]): void {
    const before = this.controls;
    this.controls = controls.flatMap((control) => {
      const found = sentAt(control, devices);
      if (!found || found.device.kind === 'module') return [];
      const { device, sent } = found;
      const { kind, number } = sent;
      const channel = kind === SONG_SELECT ? 0 : device.channel;
      const ready = { port: device.port, channel, kind, number, control };
      // What is held down stays so: otherwise a pedal that is held would act once more as it moves.
      return { ...ready, down: before.some((c) => c.down && sameControl(c, ready)) };
    });
  }

  /** Carries a show control out; true when the message was one and is used up. `time` is when it came. */
  take(port: string, status: number, data1: number, data2: number, time: Seconds): boolean {
    const isSystem = status >= 0xf0;
    const high = isSystem ? status : status & 0xf0;
    const kind = high === NOTE_OFF ? NOTE_ON : high;
    const channel = isSystem ? 0 : channelOf(status);
    let used = false;
    for (const ready of this.controls) {
      if (ready.kind !== kind || (ready.number !== data1 && ready.number >= 0)) continue;
      if (ready.port !== port || ready.channel !== channel) continue;
      used = true;
      this.carryOut(ready, high, data1, data2, time);
    }
    return used;
  }

  /** A control that something nearer has taken meanwhile is let go: pressed again, it acts again. */
  letGo(port: string, status: number, data1: number, data2: number): void {
    const kind = status & 0xf0;
    const isUp = kind === NOTE_OFF || (kind === NOTE_ON && data2 === 0);
    if (!isUp && (kind !== CONTROL_CHANGE || data2 >= 64)) return;
    const high = kind === NOTE_OFF ? NOTE_ON : kind;
    for (const ready of this.controls)
      if (
        ready.down &&
        ready.port === port &&
        ready.kind === high &&
        ready.channel === channelOf(status) &&
        (ready.number === data1 || ready.number < 0)
      )
        ready.down = false;
  }

  /** A port has gone: nothing on it is held any more. */
  portGone(port: string): void {
    for (const ready of this.controls) if (ready.port === port) ready.down = false;
  }

  private carryOut(
    ready: ReadyControl,
    kind: number,
    data1: number,
    data2: number,
    time: Seconds,
  ): void {
    const { control } = ready;
    if (kind === PROGRAM_CHANGE || kind === SONG_SELECT) {
      this.act(control, data1, time);
      return;
    }
    if (control.action === 'trim') {
      this.act(control, data2, time);
      return;
    }
    const pressed = kind === CONTROL_CHANGE ? data2 >= 64 : kind === NOTE_ON && data2 > 0;
    // Only the way down acts; a sweeping pedal sends many values on it.
    if (pressed && !ready.down) this.act(control, data2, time);
    ready.down = pressed;
  }
}

function sameControl(
  a: Omit<ReadyControl, 'down'>,
  { port, channel, kind, number }: Omit<ReadyControl, 'down'>,
): boolean {
  return a.port === port && a.channel === channel && a.kind === kind && a.number === number;
}
