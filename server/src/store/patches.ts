import {
  usualManner,
  type Chooser,
  type Layer,
  type Manner,
  type Patch,
  type PatchSound,
  type Tie,
  type Treatment,
} from '@pentachord/core/model';
import { BAND_TABLES, bandFromRows, bandToRows } from './accompanists.js';
import { prepared } from './prepared.js';
import { fromJson, Json, lacks, type Row, type TableFamily } from './table-family.js';

function soundFromRow(row: Row): PatchSound {
  return {
    id: row['id'] as string,
    librarySoundId: row['library_sound_id'] as string,
    polyphony: fromJson(row['polyphony']) as PatchSound['polyphony'],
    glideSeconds: row['glide_seconds'] as number,
    timbre: fromJson(row['timbre']) as PatchSound['timbre'],
  };
}

function soundToRow(sound: PatchSound, patchId: string, position: number): Row {
  return {
    patch_id: patchId,
    id: sound.id,
    position,
    library_sound_id: sound.librarySoundId,
    polyphony: new Json(sound.polyphony),
    glide_seconds: sound.glideSeconds,
    timbre: new Json(sound.timbre),
  };
}

function layerFromRow(row: Row): Layer {
  return {
    id: row['id'] as string,
    name: row['name'] as string,
    soundId: row['sound_id'] as string,
    keyboards: fromJson(row['keyboards']) as Layer['keyboards'],
    channel: fromJson(row['channel']) as Layer['channel'],
    keys: fromJson(row['keys']) as Layer['keys'],
    velocities: fromJson(row['velocities']) as Layer['velocities'],
    touch: fromJson(row['touch']) as Layer['touch'],
    transpose: row['transpose'] as number,
    followsSong: row['follows_song'] === 1,
    level: row['level'] as number,
    pan: row['pan'] as number,
    muted: row['muted'] === 1,
    sends: fromJson(row['sends']) as Layer['sends'],
    obeys: fromJson(row['obeys']) as Layer['obeys'],
    output: row['output'] as Layer['output'],
    tone: fromJson(row['tone']) as Layer['tone'],
    lift: fromJson(row['lift']) as Layer['lift'],
  };
}

function layerToRow(layer: Layer, patchId: string, position: number): Row {
  return {
    patch_id: patchId,
    id: layer.id,
    position,
    name: layer.name,
    sound_id: layer.soundId,
    keyboards: new Json(layer.keyboards),
    channel: new Json(layer.channel),
    keys: new Json(layer.keys),
    velocities: new Json(layer.velocities),
    touch: new Json(layer.touch),
    transpose: layer.transpose,
    follows_song: layer.followsSong ? 1 : 0,
    level: layer.level,
    pan: layer.pan,
    muted: layer.muted ? 1 : 0,
    sends: new Json(layer.sends),
    obeys: new Json(layer.obeys),
    output: layer.output,
    tone: new Json(layer.tone),
    lift: new Json(layer.lift),
  };
}

function treatmentFromRow(row: Row): Treatment {
  return {
    id: row['id'],
    kind: row['kind'],
    on: row['is_on'] === 1,
    layerIds: fromJson(row['layer_ids']),
    ...(fromJson(row['settings']) as object),
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
    layer_ids: new Json(layerIds),
    settings: new Json(settings),
  };
}

function controlFromRow(row: Row): Tie {
  const message = fromJson(row['message']) as Tie['message'];
  return {
    id: row['id'] as string,
    place: row['place'] as Tie['place'],
    message,
    target: fromJson(row['target']) as Tie['target'],
    from: row['from_value'] as number,
    to: row['to_value'] as number,
    ...usualManner(message),
    ...(fromJson(row['manner']) as Partial<Manner>),
  };
}

function controlToRow(control: Tie, patchId: string, position: number): Row {
  const { curve, acts, reads, pickUp, begins } = control;
  return {
    patch_id: patchId,
    id: control.id,
    position,
    place: control.place,
    message: new Json(control.message),
    target: new Json(control.target),
    from_value: control.from,
    to_value: control.to,
    manner: new Json({ curve, acts, reads, pickUp, begins }),
  };
}

function chooserFromRow(row: Row): Chooser {
  return {
    id: row['id'] as string,
    name: row['name'] as string,
    choices: fromJson(row['choices']) as Chooser['choices'],
    chosen: row['chosen'] as number,
    controls: fromJson(row['controls']) as Chooser['controls'],
  };
}

function chooserToRow(chooser: Chooser, patchId: string, position: number): Row {
  return {
    patch_id: patchId,
    id: chooser.id,
    position,
    name: chooser.name,
    choices: new Json(chooser.choices),
    chosen: chooser.chosen,
    controls: new Json(chooser.controls),
  };
}

/** Patches with their sounds, layers, treatments, controls, choosers and accompanists. */
export const patchTables: TableFamily<'patches'> = {
  table: 'patches',
  order: ['song_id', 'position', 'id'],
  parts: [
    ...['patch_sounds', 'layers', 'treatments', 'patch_controls', 'choosers'],
    ...BAND_TABLES,
  ],
  owner: 'patch_id',
  fromRows: (row, parts) => ({
    id: row['id'] as string,
    songId: row['song_id'] as string,
    position: row['position'] as number,
    name: row['name'] as string,
    sounds: parts['patch_sounds'].map(soundFromRow),
    layers: parts['layers'].map(layerFromRow),
    treatments: parts['treatments'].map(treatmentFromRow),
    controls: parts['patch_controls'].map(controlFromRow),
    choosers: parts['choosers'].map(chooserFromRow),
    effects: fromJson(row['effects']) as Patch['effects'],
    ...bandFromRows(parts),
  }),
  toRows: (patch) => ({
    row: {
      song_id: patch.songId,
      position: patch.position,
      name: patch.name,
      effects: new Json(patch.effects),
    },
    parts: {
      patch_sounds: patch.sounds.map((sound, at) => soundToRow(sound, patch.id, at)),
      layers: patch.layers.map((layer, at) => layerToRow(layer, patch.id, at)),
      treatments: patch.treatments.map((treatment, at) => treatmentToRow(treatment, patch.id, at)),
      patch_controls: patch.controls.map((control, at) => controlToRow(control, patch.id, at)),
      choosers: patch.choosers.map((chooser, at) => chooserToRow(chooser, patch.id, at)),
      ...bandToRows(patch, patch.id),
    },
  }),
  missingIn(connection, { songId, sounds, accompanists }) {
    if (lacks(connection, 'songs', songId)) return 'its song';
    const gone = sounds.some(({ librarySoundId }) => lacks(connection, 'sounds', librarySoundId));
    if (gone) return 'a sound of the library';
    const placed = accompanists.flatMap(({ patterns }) => patterns);
    const lost = placed.some(({ patternId }) => lacks(connection, 'patterns', patternId));
    return lost ? 'a pattern of the library' : null;
  },
  strangerIn(connection, patch) {
    const cue = prepared(
      connection,
      'select name from cues where patch_id = ? and song_id <> ? limit 1',
    ).get(patch.id, patch.songId) as { name: string } | undefined;
    return cue ? `a song that is not the one of its cue “${cue.name}”` : null;
  },
};
