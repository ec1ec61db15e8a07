import { channelOf, CONTROL_CHANGE, NOTE_OFF, NOTE_ON } from '../midi/messages.js';
import type { Device } from '../model/rig/rig.js';
import type { ShowAction, ShowControl } from '../model/show/show.js';

/** A show control with the port and channel it listens on. */
interface ReadyControl {
  port: string;
  channel: number;
  kind: number;
  number: number;
  action: ShowAction;
  down: boolean;
}

/** Pads, pedals and buttons that do something to the show: what they send reaches no layer. */
export class ShowActions {
  private controls: ReadyControl[] = [];

  constructor(private readonly act: (action: ShowAction) => void) {}

  /** Takes the controls of a show. Those of devices that are not in the rig rest. */
  set(devices: readonly Device[], controls: readonly ShowControl[]): void {
    const before = this.controls;
    this.controls = controls.flatMap((control) => {
      const device = devices.find((d) => d.id === control.deviceId);
      if (!device || device.kind === 'module') return [];
      const { message } = control;
      const ready = {
        port: device.port,
        channel: device.channel,
        kind: message.kind === 'note' ? NOTE_ON : CONTROL_CHANGE,
        number: message.kind === 'note' ? message.note : message.controller,
        action: control.action,
      };
      // What is held down stays so: otherwise a pedal that is held would act once more as it moves.
      return { ...ready, down: before.some((c) => c.down && sameControl(c, ready)) };
    });
  }

  /** Carries a show control out; true when the message was one and is used up. */
  take(port: string, status: number, data1: number, data2: number): boolean {
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
}

function sameControl(
  a: Omit<ReadyControl, 'down'>,
  { port, channel, kind, number }: Omit<ReadyControl, 'down'>,
): boolean {
  return a.port === port && a.channel === channel && a.kind === kind && a.number === number;
}
