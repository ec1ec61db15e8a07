import { placeInWords } from '../model/rig/place.js';
import type { Device, Rig } from '../model/rig/rig.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { planOf, stageOf } from '../rig/plan.js';

/** The rig for whoever sets it up. */
export interface SheetRig {
  name: string;
  devices: readonly SheetDevice[];
  /** What channels are called, where they are called anything. */
  channels: readonly { channel: number; label: string }[];
  /** The stage from above, cm: the audience is where y is 0. */
  stage: { width: number; depth: number };
}

/** A device of the rig. */
export interface SheetDevice {
  name: string;
  place: string;
  port: string;
  /** Channels that it sends on or is heard on. */
  channels: string;
  /** Its keys, pads or what it is. */
  has: string;
  /** Where it lies on the stage, cm. */
  at: { x: number; y: number; width: number; depth: number };
}

/** The rig's devices in their order, with their ports and channels. */
export function sheetRig(rig: Rig, devices: readonly Device[], middleC: NoteNaming): SheetRig {
  const placed = planOf(devices);
  return {
    name: rig.name,
    devices: placed.map(({ device, x, y, width, depth }) => ({
      name: device.name,
      place: placeInWords(device.place),
      port: device.port,
      ...{ channels: channelsOf(device), has: whatItHas(device, middleC) },
      at: { x, y, width, depth },
    })),
    channels: rig.labels.flatMap((label, at) => (label ? [{ channel: at + 1, label }] : [])),
    stage: stageOf(placed),
  };
}

function channelsOf(device: Device): string {
  if (device.kind === 'module') return inRuns(device.channels);
  if (device.kind === 'pedal' || device.heardAs === null || device.heardAs === device.channel)
    return `${device.channel}`;
  return `${device.channel}, heard as ${device.heardAs}`;
}

/** Channels, with those that follow on one another as one: `1–3, 10`. */
function inRuns(channels: readonly number[]): string {
  const runs: { low: number; high: number }[] = [];
  for (const channel of channels.toSorted((a, b) => a - b)) {
    const last = runs.at(-1);
    if (last && channel <= last.high + 1) last.high = channel;
    else runs.push({ low: channel, high: channel });
  }
  return runs.map(({ low, high }) => (low === high ? `${low}` : `${low}–${high}`)).join(', ');
}

function whatItHas(device: Device, middleC: NoteNaming): string {
  switch (device.kind) {
    case 'keyboard': {
      const { lowestKey, highestKey } = device;
      return `${highestKey - lowestKey + 1} keys, ${noteName(lowestKey, middleC)}–${noteName(highestKey, middleC)}`;
    }
    case 'controlBox':
      return [
        [device.padNotes.length, 'pads'] as const,
        [device.knobControllers.length, 'knobs'] as const,
      ]
        .filter(([count]) => count > 0)
        .map(([count, name]) => `${count} ${name}`)
        .join(', ');
    case 'pedal':
      return `${device.action === 'switch' ? 'switch' : 'sweep'}, CC ${device.controller}`;
    case 'module':
      return 'sound module';
  }
}
