import {
  newCue,
  newLayer,
  newPatch,
  newPatchSound,
  newRig,
  newShow,
  newSong,
  songEntry,
  usualControls,
  type Device,
  type Kind,
  type Patch,
} from '@pentachord/core/model';
import { NEUTRAL_KINDS, newDevice } from '@pentachord/core/rig';

/** Names as long as they can be, without a blank to break them at, from left and from right. */
const LONG = 'Nighttidelanternkeeperssongbookofthepierandthelighthouse'.repeat(2).slice(0, 76);
const FROM_RIGHT = 'גאותהלילהברציףתשעשיריםלמגדלור'.repeat(3).slice(0, 76);
const named = (at: number) => `${at % 2 === 0 ? LONG : FROM_RIGHT}${at}`;

const SONGS = 60;
const CUES = 30;
const LAYERS = 16;
const DEVICES = ['keys-88', 'keys-61', 'keys-61', 'keys-88', 'pads', 'knobs', 'pads', 'module'];
const PEDALS = ['sustain', 'expression', 'switch', 'switch'];
const SOUNDS = ['felt-piano', 'tine-piano', 'glass-bells', 'warm-pad'];

/** Saves a show through the server in which everything is as long, and as much, as it can be. */
export async function saveHostileShow(origin: string): Promise<void> {
  const put = async <T extends { id: string }>(kind: Kind, value: T) => {
    const answer = await fetch(`${origin}/api/${kind}/${value.id}`, {
      method: 'PUT',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ revision: 0, value }),
    });
    if (!answer.ok) throw new Error(`${kind}: ${await answer.text()}`);
  };
  await put('rigs', {
    ...newRig('hostile-rig', named(0)),
    labels: Array.from({ length: 16 }, () => LONG.slice(0, 24)),
  });
  const devices: Device[] = [];
  for (const wanted of [...DEVICES, ...PEDALS]) {
    const kind = NEUTRAL_KINDS.find(({ id }) => id === wanted);
    if (!kind) throw new Error(`there is no kind ${wanted}`);
    const device = newDevice(kind, `hostile-device-${devices.length}`, 'hostile-rig', devices);
    devices.push({ ...device, name: named(devices.length) });
  }
  for (const device of devices) await put('devices', device);
  const order = [];
  for (let at = 0; at < SONGS; at++) {
    const songId = `hostile-song-${at}`;
    await put('songs', {
      ...newSong(songId, named(at)),
      notes: `${LONG} ${FROM_RIGHT}`.repeat(3),
      number: at + 1,
    });
    await put(
      'patches',
      at < 2 ? fullPatch(songId) : newPatch(`${songId}-patch`, songId, 0, named(at)),
    );
    order.push(songEntry(`hostile-entry-${at}`, songId));
  }
  for (let at = 0; at < CUES; at++)
    await put('cues', {
      ...newCue(`hostile-cue-${at}`, 'hostile-song-0', at, named(at), 'hostile-song-0-patch'),
      atSeconds: at * 8,
      note: LONG,
    });
  await put('shows', {
    ...newShow('hostile', named(1), '2099-01-01', 'hostile-rig'),
    place: LONG,
    order,
    controls: usualControls(devices),
  });
}

function fullPatch(songId: string): Patch {
  const layers = Array.from({ length: LAYERS }, (_, at) => ({
    ...newLayer(`layer-${at}`, named(at), `sound-${at % SOUNDS.length}`),
    keys: { low: 21 + at * 5, high: 108, fadeIn: 3, fadeOut: 0, law: 'equalPower' as const },
    channel: at % 3 === 0 ? 7 : ('any' as const),
  }));
  const sounds = SOUNDS.map((name, at) => newPatchSound(`sound-${at}`, `house-${name}`));
  return { ...newPatch(`${songId}-patch`, songId, 0, LONG), sounds, layers };
}
