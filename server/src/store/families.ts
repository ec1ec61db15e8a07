import type { Kind } from '@pentachord/core/model';
import { keepsakeTables } from './keepsakes.js';
import { patchTables } from './patches.js';
import { patternTables } from './patterns.js';
import { deviceTables, rigTables } from './rig.js';
import { showTables } from './shows.js';
import { cueTables, songTables } from './songs.js';
import { soundTables } from './sounds.js';
import type { TableFamily } from './table-family.js';

/** The tables of every kind. */
export const FAMILIES: { [K in Kind]: TableFamily<K> } = {
  rigs: rigTables,
  shows: showTables,
  devices: deviceTables,
  songs: songTables,
  patches: patchTables,
  cues: cueTables,
  sounds: soundTables,
  patterns: patternTables,
  keepsakes: keepsakeTables,
};

/** The tables of a kind that is known only by its name. */
export function familyOf<K extends Kind>(kind: K): TableFamily<K> {
  return FAMILIES[kind];
}
