import type { BandKey } from '@pentachord/core/model';
import type { Trigger } from '@pentachord/core/patterns';
import type { CompiledPatch } from '@pentachord/core/routing';
import { layerMark } from '../layer-colours';
import { AT_REST, type Looked } from './band-looks';
import type { KeyFlag } from './key-flags';

const BAND_KEYS: Record<BandKey['does'], string> = {
  start: 'all begin',
  stop: 'all stop',
  next: 'all next',
};

/** The place in the patch of the first layer that an accompanist plays: by that layer it is told apart. */
export function markOf(patch: CompiledPatch, accompanist: number): number {
  const { layerIds } = patch.band.accompanists[accompanist];
  return patch.layers.find(({ id }) => layerIds.has(id))?.index ?? accompanist;
}

/** Names of what keys of a device start, as flags over them. */
export function flagsOn(
  patch: CompiledPatch,
  device: number,
  looked: readonly Looked[],
  isNight = false,
): KeyFlag[] {
  const { triggerAt, triggers } = patch.band;
  const flags: KeyFlag[] = [];
  for (let key = 0; device >= 0 && key < 128; key++) {
    const at = triggerAt[device * 128 + key];
    if (at > 0)
      for (const trigger of triggers[at - 1])
        flags.push(flag(patch, key, trigger, looked, isNight));
  }
  return flags;
}

function flag(
  patch: CompiledPatch,
  key: number,
  trigger: Trigger,
  looked: readonly Looked[],
  isNight: boolean,
): KeyFlag {
  if (trigger.kind === 'band') {
    const { id, does } = trigger.bandKey;
    const colour = isNight ? 'var(--words-on-night)' : 'var(--ink)';
    return { id, key, name: BAND_KEYS[does], colour, state: 'rests' };
  }
  const mark = layerMark(markOf(patch, trigger.accompanist));
  const colour = isNight ? mark.night : mark.day;
  if (trigger.kind === 'stop')
    return { id: `stop ${trigger.accompanist}`, key, name: 'off', colour, state: 'rests' };
  const { playing, next } = looked.at(trigger.accompanist) ?? AT_REST;
  const { id, name } = trigger.pattern;
  const state = playing?.id === id ? 'plays' : next?.id === id ? 'waits' : 'rests';
  return { id, key, name, colour, state };
}
