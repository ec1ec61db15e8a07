import type { Band } from '../patch/accompanist.js';
import type { Patch } from '../patch/patch.js';
import { newIdsOfBand, renewedBand } from '../patch/renewed-band.js';
import type { Tie } from '../patch/tie.js';
import type { BandLayer, KeptBand } from './kept-band.js';
import type { SoundCategory } from './sound.js';

const isOfBand = ({ target }: Tie): boolean => target.kind === 'accompanist';

/** The band of a patch, to be kept. `categoryOf` says of what kind the sound of a layer is; null where that is not known. */
export function keptBandOf(
  { accompanists, bandKeys, controls, layers }: Patch,
  categoryOf: (soundId: string) => SoundCategory | null,
): KeptBand {
  const played = new Set(accompanists.flatMap(({ layerIds }) => layerIds));
  return {
    ...{ kind: 'band', accompanists, bandKeys, controls: controls.filter(isOfBand) },
    layers: layers
      .filter(({ id }) => played.has(id))
      .map(({ id, name, soundId }) => ({ id, name, category: categoryOf(soundId) })),
  };
}

/**
 * A kept band for another patch, with ids of its own. Each of its layers becomes the one of the same name, else the first of the
 * same kind that no other has taken; where there is none its accompanist plays without it.
 */
export function bandFor(
  { accompanists, bandKeys, controls, layers }: KeptBand,
  there: readonly BandLayer[],
  newId: () => string,
): Band & { controls: Tie[] } {
  const found = new Map<string, string>();
  const isFree = ({ id }: BandLayer) => ![...found.values()].includes(id);
  const same = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  for (const isMeant of [
    (one: BandLayer, layer: BandLayer) => same(one.name, layer.name),
    (one: BandLayer, layer: BandLayer) => one.category !== null && one.category === layer.category,
  ])
    for (const layer of layers) {
      const meant = there.find((one) => isFree(one) && isMeant(one, layer));
      if (meant && !found.has(layer.id)) found.set(layer.id, meant.id);
    }
  const taken = accompanists.map((one) => ({
    ...one,
    layerIds: one.layerIds.filter((id) => found.has(id)),
  }));
  const ids = newIdsOfBand({ accompanists }, newId);
  const renewed = renewedBand(
    { accompanists: taken, bandKeys },
    (id) => found.get(id) ?? id,
    newId,
    ids,
  );
  const ties = controls.flatMap((tie): Tie[] => {
    const { target } = tie;
    if (target.kind !== 'accompanist') return [];
    const accompanistId = ids.get(target.accompanistId) ?? target.accompanistId;
    return [{ ...tie, id: newId(), target: { ...target, accompanistId } }];
  });
  return { ...renewed, controls: ties };
}
