import type { Pattern } from '@pentachord/core/model';
import { fromJson, Json, type TableFamily } from './table-family.js';

/** The patterns of the library. */
export const patternTables: TableFamily<'patterns'> = {
  table: 'patterns',
  order: ['name', 'id'],
  parts: [],
  owner: 'pattern_id',
  fromRows: (row) => ({
    id: row['id'] as string,
    name: row['name'] as string,
    category: row['category'] as Pattern['category'],
    tags: fromJson(row['tags']) as string[],
    favourite: row['favourite'] === 1,
    length: row['length'] as number,
    metre: fromJson(row['metre']) as Pattern['metre'],
    tempo: row['tempo'] as number,
    key: fromJson(row['key']) as Pattern['key'],
    quantise: fromJson(row['quantise']) as Pattern['quantise'],
    notes: fromJson(row['notes']) as Pattern['notes'],
  }),
  toRows: (pattern) => ({
    row: {
      name: pattern.name,
      category: pattern.category,
      tags: new Json(pattern.tags),
      favourite: pattern.favourite ? 1 : 0,
      length: pattern.length,
      metre: new Json(pattern.metre),
      tempo: pattern.tempo,
      key: pattern.key && new Json(pattern.key),
      quantise: pattern.quantise && new Json(pattern.quantise),
      notes: new Json(pattern.notes),
    },
    parts: {},
  }),
  missingIn: () => null,
};
