import type { Accompanist, Band, BandKey, PlacedPattern } from '@pentachord/core/model';
import { fromJson, Json, type Parts, type Row } from './table-family.js';

/** Tables of a patch’s accompanists, what each holds on keys, and keys for all of them. */
export const BAND_TABLES = ['accompanists', 'placed_patterns', 'band_keys'] as const;

type Manner = Omit<Accompanist, 'id' | 'name' | 'layerIds' | 'place' | 'stopKey' | 'patterns'>;
type Settings = Omit<PlacedPattern, 'id' | 'patternId' | 'key'>;

/** The band of a patch from its rows. */
export function bandFromRows(parts: Parts): Band {
  return {
    accompanists: parts['accompanists'].map((row) => ({
      id: row['id'] as string,
      name: row['name'] as string,
      layerIds: fromJson(row['layer_ids']) as string[],
      place: row['place'] as Accompanist['place'],
      stopKey: row['stop_key'] as number | null,
      ...(fromJson(row['settings']) as Manner),
      patterns: parts['placed_patterns']
        .filter((placed) => placed['accompanist_id'] === row['id'])
        .map(placedFromRow),
    })),
    bandKeys: parts['band_keys'].map((row) => ({
      id: row['id'] as string,
      does: row['does'] as BandKey['does'],
      place: row['place'] as BandKey['place'],
      starters: row['starters'] as BandKey['starters'],
      key: row['key'] as number,
      starts: fromJson(row['starts']) as BandKey['starts'],
    })),
  };
}

function placedFromRow(row: Row): PlacedPattern {
  return {
    id: row['id'] as string,
    patternId: row['pattern_id'] as string,
    key: row['key'] as number,
    ...(fromJson(row['settings']) as Settings),
  };
}

/** The rows of a patch’s band. */
export function bandToRows({ accompanists, bandKeys }: Band, patchId: string): Parts {
  return {
    accompanists: accompanists.map(
      ({ id, name, layerIds, place, stopKey, patterns: _patterns, ...manner }, position): Row => ({
        ...{ patch_id: patchId, id, position, name },
        ...{ layer_ids: new Json(layerIds), place, stop_key: stopKey },
        settings: new Json(manner satisfies Manner),
      }),
    ),
    placed_patterns: accompanists
      .flatMap(({ id: accompanistId, patterns }) =>
        patterns.map((placed) => ({ accompanistId, placed })),
      )
      .map(({ accompanistId, placed: { id, patternId, key, ...settings } }, position): Row => ({
        ...{ patch_id: patchId, id, position, accompanist_id: accompanistId },
        ...{ pattern_id: patternId, key, settings: new Json(settings satisfies Settings) },
      })),
    band_keys: bandKeys.map(({ id, does, place, starters, key, starts }, position): Row => ({
      ...{ patch_id: patchId, id, position, does, place, starters, key },
      starts: new Json(starts),
    })),
  };
}
