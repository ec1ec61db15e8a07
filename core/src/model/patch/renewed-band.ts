import type { Band } from './accompanist.js';

/** The ids in a band, each with another one in its stead. */
export function newIdsOfBand(
  { accompanists }: Pick<Band, 'accompanists'>,
  newId: () => string,
): ReadonlyMap<string, string> {
  return new Map(
    accompanists.flatMap(({ id, patterns }) =>
      [id, ...patterns.map((placed) => placed.id)].map((one): [string, string] => [one, newId()]),
    ),
  );
}

/** A band with ids of its own, playing layers by the ids that they have now. */
export function renewedBand(
  { accompanists, bandKeys }: Band,
  renewLayer: (layerId: string) => string,
  newId: () => string,
  ids = newIdsOfBand({ accompanists }, newId),
): Band {
  const renew = (id: string) => ids.get(id) ?? id;
  return {
    accompanists: accompanists.map((accompanist) => ({
      ...accompanist,
      id: renew(accompanist.id),
      layerIds: accompanist.layerIds.map(renewLayer),
      patterns: accompanist.patterns.map((placed) => ({ ...placed, id: renew(placed.id) })),
    })),
    bandKeys: bandKeys.map((key) => ({
      ...key,
      id: newId(),
      starts: Object.fromEntries(
        Object.entries(key.starts).map(([by, placed]) => [renew(by), renew(placed)]),
      ),
    })),
  };
}
