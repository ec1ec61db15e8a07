import { inject, Injectable, signal } from '@angular/core';
import { CONTROL_CHANGE, NOTE_OFF, NOTE_ON } from '@pentachord/core/midi';
import { Live } from '../../live/live';
import { eachFrame } from '../../live/frames';

/** Devices that are watched; those beyond are not lit. */
const MOST = 32;

/** What is pressed and how knobs stand, by device of the rig that plays, as it comes from the ports; looked at once a frame. */
@Injectable()
export class RigActivity {
  private readonly notes = new Uint8Array(MOST * 128);
  private readonly controllers = new Int16Array(MOST * 128).fill(-1);
  private count = 0;
  private readonly seen = signal(0);

  constructor() {
    const live = inject(Live);
    const stop = live.host.tap((_time, _port, device, status, data1, data2) => {
      if (device < 0 || device >= MOST || status >= 0xf0) return;
      const at = device * 128 + data1;
      const kind = status & 0xf0;
      if (kind === NOTE_ON) this.notes[at] = data2;
      else if (kind === NOTE_OFF) this.notes[at] = 0;
      else if (kind === CONTROL_CHANGE) this.controllers[at] = data2;
      else return;
      this.count++;
    });
    eachFrame(() => this.seen.set(this.count));
    this.stop = stop;
  }

  /** Ends the watching. */
  readonly stop: () => void;

  /** Velocity of a pressed key or pad, 0 for none. */
  pressed(device: number, note: number): number {
    this.seen();
    return device < 0 ? 0 : this.notes[device * 128 + note];
  }

  /** Where a controller stands, 0–127; −1 before it was moved. */
  position(device: number, controller: number): number {
    this.seen();
    return device < 0 ? -1 : this.controllers[device * 128 + controller];
  }
}
