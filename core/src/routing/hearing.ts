import { heardChannel, type Keyboard } from '../model/rig/rig.js';
import type { CompiledLayer, CompiledPatch } from './compile.js';

/** True when a layer listens to a device (by its index in the rig) on a channel 1–16. */
export function hears(
  layer: Pick<CompiledLayer, 'hearsDevice' | 'channel'>,
  device: number,
  channel: number,
): boolean {
  return layer.hearsDevice[device] === 1 && (layer.channel === 0 || layer.channel === channel);
}

/** The layers of a patch that listen to a keyboard, muted ones included. */
export function layersHearing(patch: CompiledPatch, keyboard: Keyboard): CompiledLayer[] {
  const device = patch.rig.ids.indexOf(keyboard.id);
  return patch.layers.filter((layer) => hears(layer, device, heardChannel(keyboard)));
}
