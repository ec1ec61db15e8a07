import type { Layer, Patch, PatchControl, PatchSound, Treatment } from '@pentachord/core/model';
import type { Knex } from 'knex';
import type { Row, TableFamily } from './table-family.js';
import { fromJson } from './table-family.js';

const SOUNDS = `(
  select json_group_array(json_object('id', s.id, 'library_sound_id', s.library_sound_id,
    'polyphony', json(s.polyphony), 'glide_seconds', s.glide_seconds, 'timbre', json(s.timbre))
    order by s.position)
  from patch_sounds s where s.patch_id = patches.id
) as sounds`;

const LAYERS = `(
  select json_group_array(json_object('id', l.id, 'name', l.name, 'sound_id', l.sound_id,
    'keyboards', json(l.keyboards), 'channel', json(l.channel), 'keys', json(l.keys),
    'velocities', json(l.velocities), 'touch', json(l.touch), 'transpose', l.transpose,
    'follows_song', l.follows_song, 'level', l.level, 'pan', l.pan, 'muted', l.muted,
    'sends', json(l.sends), 'obeys', json(l.obeys), 'tone', json(l.tone), 'lift', json(l.lift))
    order by l.position)
  from layers l where l.patch_id = patches.id
) as layers`;

const TREATMENTS = `(
  select json_group_array(json_object('id', t.id, 'kind', t.kind, 'is_on', t.is_on,
    'layer_ids', json(t.layer_ids), 'settings', json(t.settings)) order by t.position)
  from treatments t where t.patch_id = patches.id
) as treatments`;

const CONTROLS = `(
  select json_group_array(json_object('id', c.id, 'device_id', c.device_id,
    'message', json(c.message), 'target', json(c.target), 'from', c.from_value,
    'to', c.to_value) order by c.position)
  from patch_controls c where c.patch_id = patches.id
) as controls`;

function soundFromRow(row: Row): PatchSound {
  return {
    id: row['id'] as string,
    librarySoundId: row['library_sound_id'] as string,
    polyphony: row['polyphony'] as PatchSound['polyphony'],
    glideSeconds: row['glide_seconds'] as number,
    timbre: row['timbre'] as PatchSound['timbre'],
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
  const { keyboards, channel, keys, velocities, touch, lift, sends, tone, obeys } = layer;
  const values = { keyboards, channel, keys, velocities, touch, lift, sends, tone, obeys };
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

function treatmentFromRow(row: Row): Treatment {
  return {
    id: row['id'],
    kind: row['kind'],
    on: row['is_on'] === 1,
    layerIds: row['layer_ids'],
    ...(row['settings'] as object),
  } as Treatment;
}

function treatmentToRow(treatment: Treatment, patchId: string, position: number): Row {
  const { id, kind, on, layerIds, ...settings } = treatment;
  return {
    patch_id: patchId,
    id,
    position,
    kind,
    is_on: on ? 1 : 0,
    layer_ids: JSON.stringify(layerIds),
    settings: JSON.stringify(settings),
  };
}

function controlFromRow({ device_id, ...row }: Row): PatchControl {
  return { ...(row as Omit<PatchControl, 'deviceId'>), deviceId: device_id as string };
}

function controlToRow(control: PatchControl, patchId: string, position: number): Row {
  return {
    patch_id: patchId,
    id: control.id,
    position,
    device_id: control.deviceId,
    message: JSON.stringify(control.message),
    target: JSON.stringify(control.target),
    from_value: control.from,
    to_value: control.to,
  };
}

/** Patches with their sounds, layers, treatments and controls. */
export const patchTables: TableFamily<'patches'> = {
  table: 'patches',
  select: (knex, filter) =>
    knex('patches')
      .select('patches.*', ...[SOUNDS, LAYERS, TREATMENTS, CONTROLS].map((part) => knex.raw(part)))
      .where(filter)
      .orderBy(['song_id', 'position']),
  fromRow: (row) => ({
    id: row['id'] as string,
    songId: row['song_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    sounds: (fromJson(row['sounds']) as Row[]).map(soundFromRow),
    layers: (fromJson(row['layers']) as Row[]).map(layerFromRow),
    treatments: (fromJson(row['treatments']) as Row[]).map(treatmentFromRow),
    controls: (fromJson(row['controls']) as Row[]).map(controlFromRow),
    effects: fromJson(row['effects']) as Patch['effects'],
  }),
  toRow: (patch) => ({
    song_id: patch.songId,
    position: patch.position,
    name: patch.name,
    effects: JSON.stringify(patch.effects),
  }),
  async writeParts(knex, patch) {
    for (const table of ['layers', 'patch_sounds', 'treatments', 'patch_controls'])
      await knex(table).where({ patch_id: patch.id }).delete();
    await insertAll(
      knex,
      'patch_sounds',
      patch.sounds.map((sound, position) => ({
        patch_id: patch.id,
        id: sound.id,
        position,
        library_sound_id: sound.librarySoundId,
        polyphony: JSON.stringify(sound.polyphony),
        glide_seconds: sound.glideSeconds,
        timbre: JSON.stringify(sound.timbre),
      })),
    );
    await insertAll(
      knex,
      'layers',
      patch.layers.map((layer, position) => layerToRow(layer, patch.id, position)),
    );
    await insertAll(
      knex,
      'treatments',
      patch.treatments.map((treatment, position) => treatmentToRow(treatment, patch.id, position)),
    );
    await insertAll(
      knex,
      'patch_controls',
      patch.controls.map((control, position) => controlToRow(control, patch.id, position)),
    );
  },
};

async function insertAll(knex: Knex, table: string, rows: Row[]): Promise<void> {
  if (rows.length > 0) await knex.batchInsert(table, rows, 32);
}
