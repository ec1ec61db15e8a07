import { DestroyRef, inject, Injectable, signal } from '@angular/core';
import { channelOf } from '@pentachord/core/midi';
import { MOST_DEVICES } from '@pentachord/core/model';
import type { ChannelsArrived } from '@pentachord/core/rig';
import { Store } from '@ngrx/store';
import { eachFrame } from '../live/frames';
import { Live } from '../live/live';
import type { AppState } from '../state/reducers';
import { selectDevices } from '../state/selectors';

/** On which channel each device of the rig that plays was heard last, while this is looked at; drawn once a frame. */
@Injectable()
export class ArrivedChannels {
  private readonly devices = inject<Store<AppState>>(Store).selectSignal(selectDevices);
  /** Channels by device of the rig, 1–16; 0 before it was heard. */
  private readonly heard = new Uint8Array(MOST_DEVICES);
  private readonly ports: string[] = [];
  private isOther = false;
  private readonly present = signal<ChannelsArrived>(new Map());
  /** By the device’s id; only what came by the device’s own port is its own. */
  readonly all = this.present.asReadonly();

  constructor() {
    const stop = inject(Live).host.tap((_time, port, device, status) => {
      const channel = channelOf(status);
      if (device < 0 || device >= MOST_DEVICES || channel < 1 || status >= 0xf0) return;
      if (this.heard[device] === channel && this.ports[device] === port) return;
      this.heard[device] = channel;
      this.ports[device] = port;
      this.isOther = true;
    });
    inject(DestroyRef).onDestroy(stop);
    eachFrame(() => {
      if (!this.isOther) return;
      this.isOther = false;
      this.present.set(
        new Map(
          this.devices().flatMap(({ id, port }, at) =>
            this.heard[at] > 0 && this.ports[at] === port ? [[id, this.heard[at]] as const] : [],
          ),
        ),
      );
    });
  }
}
