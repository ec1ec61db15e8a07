import type { Layer, PatchSound } from '@pentachord/core/model';
import type { Row, TableFamily } from './table-family.js';
import { fromJson } from './table-family.js';

const SOUNDS = `(
  select json_group_array(json_object('id', s.id, 'library_sound_id', s.library_sound_id,
    'polyphony', json(s.polyphony)) order by s.position)
  from patch_sounds s where s.patch_id = patches.id
) as sounds`;

const LAYERS = `(
  select json_group_array(json_object('id', l.id, 'name', l.name, 'sound_id', l.sound_id,
    'keyboards', json(l.keyboards), 'channel', json(l.channel), 'keys', json(l.keys),
    'velocities', json(l.velocities), 'touch', json(l.touch), 'transpose', l.transpose,
    'follows_song', l.follows_song, 'level', l.level, 'pan', l.pan, 'muted', l.muted,
    'sends', json(l.sends), 'obeys', json(l.obeys)) order by l.position)
  from layers l where l.patch_id = patches.id
) as layers`;

function soundFromRow(row: Row): PatchSound {
  return {
    id: row['id'] as string,
    librarySoundId: row['library_sound_id'] as string,
    polyphony: row['polyphony'] as PatchSound['polyphony'],
  };
}

function layerFromRow(row: Row): Layer {
  const { sound_id, follows_song, muted, ...rest } = row;
  return {
    ...(rest as Omit<Layer, 'soundId' | 'followsSong' | 'muted'>),
    soundId: sound_id as string,
    followsSong: follows_song === 1,
    muted: muted === 1,
  };
}

function layerToRow(layer: Layer, patchId: string, position: number): Row {
  const { keyboards, channel, keys, velocities, touch, sends, obeys } = layer;
  const values = { keyboards, channel, keys, velocities, touch, sends, obeys };
  return {
    patch_id: patchId,
    id: layer.id,
    position,
    name: layer.name,
    sound_id: layer.soundId,
    transpose: layer.transpose,
    follows_song: layer.followsSong ? 1 : 0,
    level: layer.level,
    pan: layer.pan,
    muted: layer.muted ? 1 : 0,
    ...Object.fromEntries(
      Object.entries(values).map(([key, value]) => [key, JSON.stringify(value)]),
    ),
  };
}

/** Patches with their sounds and layers. */
export const patchTables: TableFamily<'patches'> = {
  table: 'patches',
  select: (knex, filter) =>
    knex('patches')
      .select('patches.*', knex.raw(SOUNDS), knex.raw(LAYERS))
      .where(filter)
      .orderBy(['song_id', 'position']),
  fromRow: (row) => ({
    id: row['id'] as string,
    songId: row['song_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    sounds: (fromJson(row['sounds']) as Row[]).map(soundFromRow),
    layers: (fromJson(row['layers']) as Row[]).map(layerFromRow),
  }),
  toRow: (patch) => ({ song_id: patch.songId, position: patch.position, name: patch.name }),
  async writeParts(knex, patch) {
    await knex('layers').where({ patch_id: patch.id }).delete();
    await knex('patch_sounds').where({ patch_id: patch.id }).delete();
    if (patch.sounds.length > 0)
      await knex.batchInsert(
        'patch_sounds',
        patch.sounds.map((sound, position) => ({
          patch_id: patch.id,
          id: sound.id,
          position,
          library_sound_id: sound.librarySoundId,
          polyphony: JSON.stringify(sound.polyphony),
        })),
        32,
      );
    if (patch.layers.length > 0)
      await knex.batchInsert(
        'layers',
        patch.layers.map((layer, position) => layerToRow(layer, patch.id, position)),
        32,
      );
  },
};
