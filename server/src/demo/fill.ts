import type { Kind, OrderEntry, Show, ValueOf } from '@pentachord/core/model';
import type { Store } from '../store/store.js';
import { HARBOUR_REEDS, houseLibrary } from './library.js';
import { demoKeepsakes } from './keepsakes.js';
import { DEMO_CONTROLS, DEMO_RIG } from './rig.js';
import { demoSongs, type DemoSong } from './songs.js';

/** What a database holds from the beginning: the house sounds, and in an empty one the demo. */
export async function fillIn(store: Store): Promise<void> {
  await fillLibrary(store);
  await fillDemo(store);
}

/** Adds the house sounds that the library does not hold yet; what the player changed on the others stays. */
export async function fillLibrary(store: Store): Promise<void> {
  const present = new Set((await store.sounds()).map((sound) => sound.value.id));
  for (const sound of houseLibrary())
    if (!present.has(sound.id)) await create(store, 'sounds', sound);
}

/** Fills an empty database with the demo show, wholly or not at all. */
export async function fillDemo(store: Store): Promise<void> {
  if (await store.isEmpty()) await store.together(createDemo);
}

async function createDemo(store: Store): Promise<void> {
  const songs = demoSongs();
  const show = demoShow(songs);
  // The running order points to songs that point to the show, so the show is saved first without it.
  await create(store, 'shows', { ...show, order: [], controls: [] });
  for (const device of DEMO_RIG) await create(store, 'devices', device);
  await create(store, 'sounds', HARBOUR_REEDS);
  for (const { song, patches, cues } of songs) {
    await create(store, 'songs', song);
    for (const patch of patches) await create(store, 'patches', patch);
    for (const cue of cues) await create(store, 'cues', cue);
  }
  for (const keepsake of demoKeepsakes(songs)) await create(store, 'keepsakes', keepsake);
  const outcome = await store.save('shows', { revision: 1, value: show });
  if (outcome.kind !== 'done') throw new Error('the demo’s running order could not be saved');
}

function demoShow(songs: DemoSong[]): Show {
  const order: OrderEntry[] = songs.map(({ song }) => ({
    kind: 'song',
    id: `entry-${song.id}`,
    songId: song.id,
  }));
  order.splice(3, 0, { kind: 'talk', id: 'entry-demo-talk', name: 'talk', lengthSeconds: 120 });
  return {
    id: 'demo-show',
    name: 'Night Tide at Pier Nine',
    date: '2027-08-14',
    place: 'Pier Nine, harbour festival',
    slotSeconds: 55 * 60,
    defaultFadeSeconds: 1.5,
    heldNotes: 'finish',
    middleC: 4,
    order,
    controls: DEMO_CONTROLS,
  };
}

async function create<K extends Kind>(store: Store, kind: K, value: ValueOf<K>): Promise<void> {
  const outcome = await store.save(kind, { revision: 0, value });
  if (outcome.kind !== 'done')
    throw new Error(`${kind} ${value.id} could not be created: ${outcome.kind}`);
}
