import type { BandMoves } from '../../model/patch/band-settings.js';
import { controlInWords } from '../../model/show/show-control.js';
import type { Device } from '../../model/rig/rig.js';
import type { CompiledLayer } from '../../routing/compile.js';
import type { LevelNow } from '../../routing/trace.js';
import type { Heard } from '../../setlist/heard.js';
import type { TiedControls } from '../hands/tied-controls.js';
import type { Player } from '../notes/player.js';

/** Difference in dB from which a level counts as moved. */
const MOVED = 0.05;

/** What hands have moved since a patch was taken or a cue recalled. */
export interface HandsSince {
  controls: Pick<TiedControls, 'movedSettings' | 'positionsToRecall'>;
  player: Pick<Player, 'switchedTo' | 'pickedBy'>;
  /** Layers that were muted or brought back by hand. */
  muted: ReadonlyMap<string, boolean>;
  /** Where settings of accompanists were put. */
  band: ReadonlyMap<string, BandMoves>;
}

/** What is heard of what a patch or cue means, as hands have it now. */
export function heardNow(meant: Heard, { controls, player, muted, band }: HandsSince): Heard {
  const layers = { ...meant.layers };
  for (const { target, value } of controls.movedSettings) {
    if (target.kind !== 'layer' || !(target.layerId in layers)) continue;
    const layer = layers[target.layerId];
    if (target.parameter === 'level') layers[target.layerId] = { ...layer, level: value };
    else if (target.parameter in layer.sends)
      layers[target.layerId] = { ...layer, sends: { ...layer.sends, [target.parameter]: value } };
  }
  for (const id of Object.keys(layers))
    layers[id] = {
      ...layers[id],
      lift: player.switchedTo(id) ?? layers[id].lift,
      muted: muted.get(id) ?? layers[id].muted,
    };
  const treatments = Object.fromEntries(
    Object.entries(meant.treatments).map(([id, on]) => [id, player.switchedTo(id) ?? on]),
  );
  const choices = Object.fromEntries(
    Object.entries(meant.choices).map(([id, at]) => [id, player.pickedBy(id) ?? at]),
  );
  const moved = { ...meant.band };
  for (const [id, moves] of band) moved[id] = { ...meant.band[id], ...moves };
  const controllers = controls.positionsToRecall;
  return { ...meant, layers, treatments, choices, band: moved, controllers };
}

/**
 * Layers that stand otherwise than their patch or its cue has them, and what moved them, in words.
 * @param levelOf how loud a layer is asked to be now, dB; null for one that is not played
 * @param trimOf dB by which a layer is trimmed
 */
export function levelsNow(
  layers: readonly CompiledLayer[],
  controls: Pick<TiedControls, 'movedSettings'>,
  devices: readonly Device[],
  levelOf: (layerId: string) => number | null,
  trimOf: (layerId: string) => number,
): Record<string, LevelNow> {
  const moved: Record<string, LevelNow> = {};
  for (const { id, source } of layers) {
    const level = levelOf(id);
    if (level === null || Math.abs(level - source.level) < MOVED) continue;
    const by: string[] = [];
    for (const { target, tie } of controls.movedSettings)
      if (target.kind === 'layer' && target.layerId === id && target.parameter === 'level')
        by.push(`by ${controlInWords(tie, devices)}`);
    if (trimOf(id) !== 0) by.push('trimmed');
    moved[id] = { level: Math.round(level * 10) / 10, by: by.join(', ') };
  }
  return moved;
}
