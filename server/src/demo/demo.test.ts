import { coverage, remarks } from '@pentachord/core/coverage';
import {
  isKeyboard,
  sentAt,
  type Patch,
  type Pattern,
  type Repertoire,
  type Sound,
} from '@pentachord/core/model';
import { songShift } from '@pentachord/core/pitch';
import { compilePatch, compileRig, trace, VERDICT } from '@pentachord/core/routing';
import { withCue } from '@pentachord/core/setlist';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { bringDemo, fillIn } from './fill.js';
import { serverUnderTest } from '../testing/server-under-test.js';

let server: Awaited<ReturnType<typeof serverUnderTest>>;
let document: Repertoire;
let sounds: ReadonlyMap<string, Sound>;
let patterns: ReadonlyMap<string, Pattern>;
beforeAll(async () => {
  server = await serverUnderTest();
  document = await server.store.repertoire();
  patterns = new Map((await server.store.all('patterns')).map(({ value }) => [value.id, value]));
  sounds = new Map((await server.store.sounds()).map(({ value }) => [value.id, value]));
});
afterAll(() => server.close());

const devices = () => document.devices.map(({ value }) => value);
const patches = () => document.patches.map(({ value }) => value);
const patchCalled = (name: string): Patch => {
  const found = patches().find((patch) => patch.name === name);
  if (!found) throw new Error(`there is no patch “${name}”`);
  return found;
};
function compiled(patch: Patch) {
  const song = document.songs.find(({ value }) => value.id === patch.songId)?.value;
  return compilePatch(patch, {
    rig: compileRig(devices()),
    patterns,
    songShift: song ? songShift(song.fingered, song.sounding) : 0,
  });
}
const said = (patch: Patch) =>
  remarks(compiled(patch), { devices: devices(), sounds, middleC: 4 }).map((remark) => remark.text);

describe('the demo', () => {
  it('holds nothing to remark on but the gap left on purpose', () => {
    const found = patches().flatMap((patch) => said(patch).map((text) => `${patch.name}: ${text}`));
    expect(found).toEqual(['Bass under bells: 2 silent keys: G3–A♭3']);
  });

  it('sounds in every cue, on a keyboard that the cue plays', () => {
    for (const { value: cue } of document.cues) {
      const patch = patches().find((p) => p.id === cue.patchId);
      if (!patch) throw new Error(`${cue.name} has no patch`);
      const answered = devices()
        .filter(isKeyboard)
        .some((keyboard) =>
          coverage(compiled(withCue(patch, cue)), keyboard).keys.some((k) => k.layers.length > 0),
        );
      expect(answered, `${cue.songId} ${cue.name}`).toBe(true);
    }
  });

  it('names only layers that are there in its cues’ balances', () => {
    for (const { value: cue } of document.cues) {
      const layers =
        patches()
          .find((p) => p.id === cue.patchId)
          ?.layers.map((l) => l.id) ?? [];
      for (const id of Object.keys(cue.balance)) expect(layers).toContain(id);
    }
  });

  it('ties its show controls to things that the devices have', () => {
    for (const control of document.shows[0].value.controls)
      expect(sentAt(control, devices()), JSON.stringify(control)).not.toBeNull();
  });

  it('shares one wire harp between both hands of Paper Lighthouse', () => {
    const patch = patchCalled('One harp, two hands');
    const [right, dugIn, pad] = patch.layers;
    expect(right.soundId).toBe(dugIn.soundId);
    expect(patch.sounds).toHaveLength(2);
    const sounding = (key: number, velocity: number) =>
      trace(compiled(patch), { device: 0, channel: 1, key, velocity })
        .layers.filter((entry) => entry.verdict === VERDICT.sounds)
        .map((entry) => entry.layer.id);
    expect(sounding(45, 60)).toEqual([pad.id]);
    expect(sounding(45, 100)).toEqual([dugIn.id, pad.id]);
    expect(sounding(72, 20)).toEqual([right.id]);
  });

  it('spreads Ferry to Nowhere over two keyboards, with octave shifts and the outside module', () => {
    const { layers } = patchCalled('Three ways across');
    expect(new Set(layers.flatMap((layer) => layer.keyboards)).size).toBe(2);
    expect(layers.some((layer) => layer.transpose === 12)).toBe(true);
    const origins = layers.map((layer) => {
      const used = patchCalled('Three ways across').sounds.find((s) => s.id === layer.soundId);
      return sounds.get(used?.librarySoundId ?? '')?.origin.kind;
    });
    expect(origins).toContain('outside');
  });

  it('is filled in once, and leaves alone what the player has changed since', async () => {
    const piano = await server.store.find('sounds', 'house-felt-piano');
    if (!piano) throw new Error('the felt piano is not there');
    const favourite = { ...piano.value, favourite: true };
    await server.store.save('sounds', { revision: piano.revision, value: favourite });
    await fillIn(server.store, false, null);
    await bringDemo(server.store, null);
    expect((await server.store.find('sounds', 'house-felt-piano'))?.value.favourite).toBe(true);
    expect(await server.store.all('shows')).toHaveLength(1);
    expect(await server.store.repertoire()).toEqual(document);
  });
});
