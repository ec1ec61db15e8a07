import { computed, inject, Injectable, signal } from '@angular/core';
import {
  freeName,
  MOST_DEVICES,
  newRig,
  type Device,
  type Place,
  type Rig,
  type Sound,
} from '@pentachord/core/model';
import { newDevice, standingIn, type NeutralKind, type RigMend } from '@pentachord/core/rig';
import { forCopy } from '@pentachord/core/settings';
import { Store } from '@ngrx/store';
import type { AppState } from '../reducers';
import { selectShow, selectThings, selectWrittenPatch } from '../selectors';
import { StatusLine } from '../session/status-line';
import { Editing } from './editing';
import { edits } from './edits';
import { rigEdits, type DeviceChanges } from './rig-edits';

/** Edits of rigs; the rig that is looked at is the open show’s until another is chosen. */
@Injectable({ providedIn: 'root' })
export class RigEditing {
  private readonly store = inject<Store<AppState>>(Store);
  private readonly door = inject(Editing);
  private readonly status = inject(StatusLine);
  private readonly things = this.store.selectSignal(selectThings);
  private readonly patch = this.store.selectSignal(selectWrittenPatch);
  private readonly chosen = signal<string | null>(null);
  readonly show = this.store.selectSignal(selectShow);

  readonly rigs = computed(() =>
    Object.values(this.things().rigs).sort((a, b) => a.name.localeCompare(b.name)),
  );
  readonly rig = computed((): Rig | null => {
    const { rigs } = this.things();
    const id = [this.chosen(), this.show()?.rigId].find((one) => one && one in rigs);
    return id ? rigs[id] : (this.rigs().at(0) ?? null);
  });
  readonly devices = computed((): Device[] => devicesOf(this.things().devices, this.rig()?.id));
  /** Shows that are played on it. */
  readonly usedBy = computed(() =>
    Object.values(this.things().shows).filter(({ rigId }) => rigId === this.rig()?.id),
  );

  look(rigId: string): void {
    this.chosen.set(rigId);
  }

  /** Makes an empty rig and looks at it. */
  newRig(): void {
    this.addRig(newRig(crypto.randomUUID(), this.free('New rig')), []);
  }

  /** Makes a copy of the rig, with devices of its own, and looks at it. */
  copyRig(): void {
    const rig = this.rig();
    if (!rig) return;
    const ids = new Map(this.devices().map(({ id }) => [id, crypto.randomUUID()] as const));
    const copy = {
      ...{ ...rig, id: crypto.randomUUID(), name: this.free(rig.name) },
      ...forCopy(rig, ids),
    };
    const own = (device: Device): Device => ({
      ...device,
      id: ids.get(device.id) ?? crypto.randomUUID(),
      rigId: copy.id,
    });
    this.addRig(copy, this.devices().map(own));
  }

  changeRig(changes: Partial<Omit<Rig, 'id'>>, words: string, gesture?: string): void {
    const rigId = this.rig()?.id;
    if (rigId) this.door.do(rigEdits.rigChanged({ rigId, changes, words, gesture }));
  }

  /** Removes the rig if no show is played on it. */
  removeRig(): void {
    const rig = this.rig();
    if (!rig) return;
    const shows = this.usedBy();
    if (shows.length > 0 || this.rigs().length < 2) {
      const why =
        shows.length > 0
          ? `${shows.map(({ name }) => name).join(', ')} ${shows.length > 1 ? 'are' : 'is'} played on it`
          : 'there has to be one';
      this.status.say(`“${rig.name}” stays: ${why}.`);
      return;
    }
    this.door.do(rigEdits.rigRemoved({ rigId: rig.id }));
    this.chosen.set(null);
    this.status.say(`“${rig.name}” is removed.`);
  }

  /** Puts a device of a neutral kind into the rig; gives back its id. */
  add(kind: NeutralKind): string | null {
    const rig = this.rig();
    if (!rig) return null;
    if (this.devices().length >= MOST_DEVICES) {
      this.status.say(
        `“${rig.name}” is full: a rig holds ${MOST_DEVICES} devices. Remove one first.`,
      );
      return null;
    }
    const device = newDevice(kind, crypto.randomUUID(), rig.id, this.devices());
    this.door.do(rigEdits.deviceAdded({ device }));
    return device.id;
  }

  change(deviceId: string, changes: DeviceChanges, words: string, gesture?: string): void {
    this.door.do(rigEdits.deviceChanged({ deviceId, changes, words, gesture }));
  }

  /** Changes several devices as one step of undo. */
  changeDevices(words: string, devices: Readonly<Record<string, DeviceChanges>>): void {
    this.door.do(rigEdits.rigMended({ words, devices, patchId: null, layers: {} }));
  }

  /** Puts programs of a module into the library. */
  addSounds(sounds: readonly Sound[]): void {
    const things = sounds.map((value) => ({ kind: 'sounds' as const, value }));
    this.door.do(edits.thingsImported({ things, words: 'programs added to the sounds' }));
    this.status.say(`${sounds.length} sounds of the module stand under “outside” now.`);
  }

  remove(device: Device): void {
    this.door.do(rigEdits.deviceRemoved({ deviceId: device.id }));
    this.status.say(`“${device.name}” is out of the rig. What was tied to its place waits there.`);
  }

  /** Carries out what a remark offers. */
  mend({ words, devices = {}, layers = {} }: RigMend): void {
    const patchId = this.patch()?.id ?? null;
    this.door.do(rigEdits.rigMended({ words, devices, patchId, layers }));
  }

  /** Moves every layer of the patch that listens to a channel to another one. */
  moveStack(from: number, to: number): void {
    const layers = this.patch()?.layers.filter(({ channel }) => channel === from) ?? [];
    const moved = Object.fromEntries(layers.map(({ id }) => [id, { channel: to }]));
    this.mend({ words: `layers moved to channel ${to}`, layers: moved });
  }

  /** Plays the open show on another rig; where it has no device for a place, the one chosen stands in. */
  moveShow(rigId: string, chosen: ReadonlyMap<Place, Place>): void {
    const show = this.show();
    if (!show) return;
    const rig = devicesOf(this.things().devices, rigId);
    this.door.do(
      rigEdits.showMoved({ showId: show.id, rigId, standingIn: standingIn(chosen, rig) }),
    );
    this.chosen.set(rigId);
    this.status.say(`“${show.name}” is played on ${this.things().rigs[rigId].name} now.`);
  }

  private addRig(rig: Rig, devices: readonly Device[]): void {
    this.door.do(rigEdits.rigAdded({ rig, devices }));
    this.chosen.set(rig.id);
  }

  private free(name: string): string {
    return freeName(
      name,
      this.rigs().map((rig) => rig.name),
    );
  }
}

/** The devices of a rig, in order. */
export function devicesOf(
  devices: Readonly<Record<string, Device>>,
  rigId: string | undefined,
): Device[] {
  return Object.values(devices)
    .filter((device) => device.rigId === rigId)
    .sort((a, b) => a.position - b.position);
}
