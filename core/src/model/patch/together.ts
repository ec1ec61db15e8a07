import { LOUDEST_DB, SILENCE_DB } from '../../units/decibels.js';
import type { Layer } from './layer.js';

type Settings = Partial<Omit<Layer, 'id' | 'soundId'>>;

/** Settings that mean one layer alone, even while several are selected. */
const ALONE: readonly (keyof Layer)[] = ['name', 'keys', 'velocities'];

/**
 * A change of one layer carried over to all selected ones, by layer id: level, pan and transposition move by as much as
 * they did there, everything else becomes the same. Names and ranges stay the layer's own.
 */
export function changedTogether(
  layers: readonly Layer[],
  selected: ReadonlySet<string>,
  layerId: string,
  changes: Settings,
): Record<string, Settings> {
  const first = layers.find((layer) => layer.id === layerId);
  if (!first) return {};
  const result: Record<string, Settings> = { [layerId]: changes };
  if (!selected.has(layerId)) return result;
  for (const layer of layers) {
    if (layer.id === layerId || !selected.has(layer.id)) continue;
    const { level, pan, transpose, ...same } = changes;
    const shared: Settings = Object.fromEntries(
      Object.entries(same).filter(([key]) => !ALONE.includes(key as keyof Layer)),
    );
    if (level !== undefined)
      shared.level = within(layer.level + level - first.level, SILENCE_DB, LOUDEST_DB);
    if (pan !== undefined) shared.pan = within(layer.pan + pan - first.pan, -1, 1);
    if (transpose !== undefined)
      shared.transpose = within(layer.transpose + transpose - first.transpose, -60, 60);
    if (Object.keys(shared).length > 0) result[layer.id] = shared;
  }
  return result;
}

function within(value: number, min: number, max: number): number {
  return Math.round(Math.min(max, Math.max(min, value)) * 100) / 100;
}
