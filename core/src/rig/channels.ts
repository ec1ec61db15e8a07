import { layerLetter, type Patch } from '../model/patch/patch.js';
import type { Sound } from '../model/library/sound.js';
import { placeInWords } from '../model/rig/place.js';
import { heardChannel, type Device } from '../model/rig/rig.js';

/** What stands on a channel in a row of the table. */
export interface ChannelMark {
  /**
   * `sends`: the device sends here and is heard here; `leaves`: it sends here and is heard elsewhere; `arrives`: it is heard here
   * and sends elsewhere; `willSend`: it is to send here, once that is written; `listens`: layers listen here; `plays`: layers play an outside instrument here.
   */
  kind: 'sends' | 'leaves' | 'arrives' | 'willSend' | 'listens' | 'plays';
  /** The layers, by their index in the patch. */
  layers: readonly number[];
}

/** A row of the table of channels: a device or the layers of the patch. */
export interface ChannelRow {
  id: string;
  name: string;
  /** By channel, 1–16 at 0–15; null for nothing. */
  marks: readonly (ChannelMark | null)[];
  /** Layers that listen to any channel, by their index; only of the row of layers. */
  any: readonly number[];
}

/** Who sends and who listens on which of the sixteen channels: devices, layers of the patch, modules. */
export function channelTable(
  devices: readonly Device[],
  patch: Patch | null,
  sounds: ReadonlyMap<string, Sound>,
): ChannelRow[] {
  const rows: ChannelRow[] = [];
  for (const device of devices) {
    if (device.kind === 'module' || device.kind === 'pedal') continue;
    const heard = heardChannel(device);
    rows.push({
      ...{ id: device.id, name: device.name, any: [] },
      marks: byChannel((channel) => {
        if (channel === device.channel) return mark(channel === heard ? 'sends' : 'leaves');
        if (channel === heard) return mark('arrives');
        return device.settings.wanted.sendsOn?.includes(channel) ? mark('willSend') : null;
      }),
    });
  }
  if (patch) rows.push(rowOfLayers(patch));
  for (const device of devices)
    if (device.kind === 'module')
      rows.push({
        ...{ id: device.id, name: device.name, any: [] },
        marks: byChannel((channel) => {
          const layers = layersWho(patch, ({ soundId }) => {
            const origin = originOf(patch, soundId, sounds);
            return (
              origin?.kind === 'outside' &&
              origin.place === device.place &&
              origin.channel === channel
            );
          });
          return layers.length > 0 ? mark('plays', layers) : null;
        }),
      });
  return rows;
}

/** Id of the row of layers. */
export const LAYERS_ROW = 'layers';

function rowOfLayers(patch: Patch): ChannelRow {
  return {
    ...{ id: LAYERS_ROW, name: `layers of ${patch.name}` },
    any: layersWho(patch, ({ channel }) => channel === 'any'),
    marks: byChannel((channel) => {
      const layers = layersWho(patch, (layer) => layer.channel === channel);
      return layers.length > 0 ? mark('listens', layers) : null;
    }),
  };
}

function byChannel(markOf: (channel: number) => ChannelMark | null): (ChannelMark | null)[] {
  return Array.from({ length: 16 }, (_, at) => markOf(at + 1));
}

function mark(kind: ChannelMark['kind'], layers: readonly number[] = []): ChannelMark {
  return { kind, layers };
}

function layersWho(
  patch: Patch | null,
  which: (layer: Patch['layers'][number]) => boolean,
): number[] {
  return (patch?.layers ?? []).flatMap((layer, at) => (which(layer) ? [at] : []));
}

function originOf(patch: Patch | null, soundId: string, sounds: ReadonlyMap<string, Sound>) {
  const sound = patch?.sounds.find(({ id }) => id === soundId);
  return sound && sounds.get(sound.librarySoundId)?.origin;
}

/** A mark in words, for those who listen: `Upper keys sends on channel 1`. */
export function markInWords(
  { name }: ChannelRow,
  { kind, layers }: ChannelMark,
  channel: number,
): string {
  switch (kind) {
    case 'sends':
      return `${name} sends on channel ${channel}`;
    case 'leaves':
      return `${name} sends on channel ${channel}, and is heard on another`;
    case 'arrives':
      return `${name} is heard on channel ${channel}`;
    case 'willSend':
      return `${name} will send on channel ${channel}, once that is written`;
    case 'listens':
      return `${lettersOf(layers)} ${layers.length > 1 ? 'listen' : 'listens'} to channel ${channel}`;
    case 'plays':
      return `${lettersOf(layers)} ${layers.length > 1 ? 'play' : 'plays'} ${name} on channel ${channel}`;
  }
}

/** Layers by their letters: `A, C`. */
export function lettersOf(layers: readonly number[]): string {
  return layers.map(layerLetter).join(', ');
}

/** A channel as it is told: `channel 7 “parked stack”`. */
export function channelInWords(channel: number, labels: readonly string[]): string {
  const label = labels.at(channel - 1);
  return label ? `channel ${channel} “${label}”` : `channel ${channel}`;
}

/** Devices by name and place, for lists: `Stage keys (upper keys)`; the name alone where it says the place. */
export function deviceInWords({ name, place }: Device): string {
  const words = placeInWords(place);
  return name.toLowerCase() === words ? name : `${name} (${words})`;
}
