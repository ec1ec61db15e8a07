import {
  newShow,
  songEntry,
  soundsOfKeepsake,
  usualControls,
  type Kind,
  type OrderEntry,
  type Show,
  type Sound,
  type ValueOf,
} from '@pentachord/core/model';
import { HOUSE_PATTERNS } from '@pentachord/core/patterns';
import type { RecordingFiles } from '../store/recording-files.js';
import type { Store } from '../store/store.js';
import { bringBells, nightBells } from './bells.js';
import { HARBOUR_REEDS, houseLibrary } from './library.js';
import { demoKeepsakes } from './keepsakes.js';
import { DEMO_RIG, STAND_INS } from './rig.js';
import { demoSongs, type DemoSong } from './songs.js';

/** The demo show's id. */
export const DEMO_SHOW = 'demo-show';

/**
 * What a database holds: the house sounds, a rig of stand-ins if there is none, and from the beginning the demo, if wished.
 * @param files where the bytes of recordings go; null where there is no place for them
 */
export async function fillIn(
  store: Store,
  isNew: boolean,
  files: RecordingFiles | null,
  demo = true,
): Promise<void> {
  await fillLibrary(store);
  await fillRig(store);
  if (isNew && demo) await bringDemo(store, files);
}

/** Adds the house sounds and patterns that the library does not hold yet; what the player changed on the others stays. */
export async function fillLibrary(store: Store): Promise<void> {
  const present = new Set((await store.sounds()).map((sound) => sound.value.id));
  for (const sound of houseLibrary())
    if (!present.has(sound.id)) await create(store, 'sounds', sound);
  const known = new Set((await store.all('patterns')).map(({ value }) => value.id));
  for (const pattern of HOUSE_PATTERNS)
    if (!known.has(pattern.id)) await create(store, 'patterns', pattern);
}

/** Puts the stand-ins up as a rig where there is none, so that the first show can be played. */
export async function fillRig(store: Store): Promise<void> {
  if (!(await store.hasNone('rigs')) || !(await store.hasNone('devices'))) return;
  await store.together(async (inside) => {
    await create(inside, 'rigs', STAND_INS);
    for (const device of DEMO_RIG) await create(inside, 'devices', device);
  });
}

/** Brings the demo show, or what of it is not there; what the player has changed of the rest stays. */
export async function bringDemo(store: Store, files: RecordingFiles | null): Promise<void> {
  await bringBells(store, files);
  await store.together(async (inside) => {
    const rigId = await standInRig(inside);
    // Its patches play house sounds, which may have been taken out of the library.
    await fillLibrary(inside);
    for (const sound of ownSounds()) await createMissing(inside, 'sounds', sound);
    const songs = demoSongs();
    for (const { song, patches, cues } of songs) {
      // A song that is there is the player's as it is, with its patches and cues.
      if (await inside.find('songs', song.id)) continue;
      await create(inside, 'songs', song);
      for (const patch of patches) await create(inside, 'patches', patch);
      for (const cue of cues) await create(inside, 'cues', cue);
    }
    for (const keepsake of demoKeepsakes(songs)) await createMissing(inside, 'keepsakes', keepsake);
    await createMissing(inside, 'shows', demoShow(songs, rigId));
  });
}

/**
 * Removes the demo whole: its show, its songs and what it keeps. A song that stands in another show stays, with all that
 * belongs to it; the names of these are given back.
 */
export async function removeDemo(store: Store): Promise<string[]> {
  const kept: string[] = [];
  await store.together(async (inside) => {
    const songs = demoSongs();
    // What is damaged goes like the rest, and counts like the rest where it needs something.
    await inside.discard('shows', DEMO_SHOW);
    for (const { song } of songs) {
      const needed = await inside.idsWhere('order_entries', 'show_id', 'song_id', song.id);
      if (needed.length > 0) {
        kept.push(song.name);
        continue;
      }
      for (const cue of await inside.idsWhere('cues', 'id', 'song_id', song.id))
        await inside.discard('cues', cue);
      await inside.discard('songs', song.id);
    }
    for (const { id } of demoKeepsakes(songs)) await inside.discard('keepsakes', id);
    for (const { id } of ownSounds())
      if (!(await isNeeded(inside, id))) await inside.discard('sounds', id);
  });
  return kept;
}

/** Sounds that come with the demo and are not of the house. */
function ownSounds(): Sound[] {
  return [HARBOUR_REEDS, nightBells()];
}

/** Whether a patch or something that the player keeps needs a sound of the demo’s own, or the player has marked it. */
async function isNeeded(store: Store, id: string): Promise<boolean> {
  const patches = await store.idsWhere('patch_sounds', 'patch_id', 'library_sound_id', id);
  if (patches.length > 0) return true;
  if ((await store.find('sounds', id))?.value.favourite) return true;
  return (await store.keepsakes()).some(({ value }) => soundsOfKeepsake(value).includes(id));
}

/** The rig of the stand-ins, wherever its upper keys stand now; put up if it is not there. */
async function standInRig(store: Store): Promise<string> {
  const upper = await store.find('devices', DEMO_RIG[0].id);
  const rigId = upper?.value.rigId ?? STAND_INS.id;
  await createMissing(
    store,
    'rigs',
    STAND_INS.id === rigId ? STAND_INS : { ...STAND_INS, id: rigId },
  );
  for (const device of DEMO_RIG) await createMissing(store, 'devices', { ...device, rigId });
  return rigId;
}

function demoShow(songs: DemoSong[], rigId: string): Show {
  const order: OrderEntry[] = songs.map(({ song }) => songEntry(`entry-${song.id}`, song.id));
  order.splice(3, 0, { kind: 'talk', id: 'entry-demo-talk', name: 'talk', lengthSeconds: 120 });
  return {
    ...newShow(DEMO_SHOW, 'Night Tide at Pier Nine', '2027-08-14', rigId),
    place: 'Pier Nine, harbour festival',
    doors: '19:30',
    start: '20:15',
    slotSeconds: 55 * 60,
    order,
    controls: usualControls(DEMO_RIG),
  };
}

async function create<K extends Kind>(store: Store, kind: K, value: ValueOf<K>): Promise<void> {
  const outcome = await store.save(kind, { revision: 0, value });
  if (outcome.kind !== 'done')
    throw new Error(`${kind} ${value.id} could not be created: ${outcome.kind}`);
}

async function createMissing<K extends Kind>(
  store: Store,
  kind: K,
  value: ValueOf<K>,
): Promise<void> {
  if (!(await store.find(kind, value.id))) await create(store, kind, value);
}
