import { beforeEach, describe, expect, it } from 'vitest';
import type { Sound } from '../../model/library/sound.js';
import type { Effects } from '../../model/patch/effects.js';
import { LAYER_OUTPUTS, type Layer } from '../../model/patch/layer.js';
import type { Patch, PatchSound } from '../../model/patch/patch.js';
import { compilePatch, compileRig, type CompiledPatch } from '../../routing/compile.js';
import {
  BUS,
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  RECORD,
} from '../../sampler/command-ring.js';
import { METER } from '../../sampler/meters.js';
import { demoRig, layer, patchOf } from '../../testing/fixtures.js';
import { sound as soundOf } from '../../testing/small-show.js';
import type { OutsideTarget } from './outside-target.js';
import { Stage } from './stage.js';

const NAMES = Object.fromEntries(Object.entries(COMMAND).map(([name, kind]) => [kind, name]));
const sounds = new Map<string, Sound>([
  ['library-piano', soundOf('library-piano', { kind: 'house', recipe: 'felt-piano' })],
  ['library-organ', soundOf('library-organ', { kind: 'house', recipe: 'chapel-organ' })],
  [
    'library-module',
    soundOf('library-module', {
      ...{ kind: 'outside', place: 'module1', channel: 3, bank: null, program: 7 },
    }),
  ],
]);
const rig = compileRig(demoRig);

let ring: CommandRing;
let sent: [bytes: number[], at: number][];
let effects: Effects[];
let now: number;
let target: OutsideTarget | null;
let stage: Stage;
let playing: CompiledPatch;
beforeEach(() => {
  now = 50;
  ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  sent = [];
  effects = [];
  const port = {
    name: 'module',
    send: (bytes: readonly number[], at: number) => void sent.push([[...bytes], at]),
  };
  target = { port, channel: 3, bank: null, program: 7 };
  stage = new Stage({
    commands: ring,
    frameAt: (time) => time * 1000,
    now: () => now,
    playedBy: (id) => {
      const slot = { 'house/felt-piano': 0, 'house/chapel-organ': 5 }[id];
      return slot === undefined ? null : { slot, ringsOn: slot === 0 };
    },
    targetOf: () => target,
    setEffects: (set) => void effects.push(set),
  });
});
/** Commands since the last look by name, with as many arguments as are asked for. */
function written(only?: keyof typeof COMMAND): (string | number)[][] {
  const record = new Float64Array(RECORD);
  const found: (string | number)[][] = [];
  while (ring.read(record)) {
    const name = NAMES[record[0]];
    if (!only || name === only) found.push([name, ...record.slice(2, 6)]);
  }
  return found;
}
const { obeys } = layer('usual');
const piano = (changes: Partial<Layer> = {}) =>
  layer('piano', { soundId: 'piano', level: -6, obeys, ...changes });
const organ = (changes: Partial<Layer> = {}) =>
  layer('organ', { soundId: 'organ', level: -9, obeys, ...changes });
const outside = (changes: Partial<Layer> = {}) =>
  layer('outside', { soundId: 'module', level: 0, obeys, ...changes });
interface How {
  id?: string;
  seconds?: number | null;
  trims?: Map<string, number>;
  sound?: Partial<PatchSound>;
}
function prepare(
  layers: Layer[],
  { id = 'patch', seconds = null, trims, sound = {} }: How = {},
): Patch {
  const plain = patchOf(layers, id);
  const patch = { ...plain, sounds: plain.sounds.map((one) => ({ ...one, ...sound })) };
  playing = compilePatch(patch, { rig, songShift: 0 });
  stage.prepare(playing, patch, sounds, seconds, [], trims);
  return patch;
}
const layerOf = (id: string) => {
  const found = playing.layers.find((one) => one.id === id);
  if (!found) throw new Error(`${id} does not play`);
  return found;
};
const play = (id: string, { voice = 1, note = 60, velocity = 90, gain = 1, at = 0 } = {}) =>
  stage.start(voice, playing, layerOf(id), note, velocity, { gain, at });

describe('the stage', () => {
  it('gives each layer of a patch a strip of its own, from rest, as the layer has it', () => {
    prepare([
      piano({
        pan: 0.5,
        sends: { reverb: -10, delay: -60, chorus: -20 },
        output: LAYER_OUTPUTS[2],
      }),
      organ({ tone: { low: 3, high: -2 } }),
    ]);
    const all = written();
    const of = (strip: number) =>
      all
        .filter(([name, s]) => s === strip && name !== 'bend')
        .map(([name, , ...args]) => [name, ...args]);
    expect(of(0).slice(0, 3)).toEqual([
      ['reset', 0, 0, 0],
      ['level', -6, 0, 0],
      ['pan', 0.5, 0, 0],
    ]);
    expect(of(0)).toContainEqual(['send', BUS.reverb, -10, 0]);
    expect(of(0)).toContainEqual(['send', BUS.chorus, -20, 0]);
    expect(of(0)).toContainEqual(['output', 2, 0, 0]);
    expect(of(1)).toContainEqual(['level', -9, 0, 0]);
    expect(of(1)).toContainEqual(['tone', 3, -2, 0]);
    expect(of(1).some(([name]) => name === 'output')).toBe(false);
    expect([stage.stripOf('piano'), stage.stripOf('organ'), stage.stripOf('nobody')]).toEqual([
      0, 1, -1,
    ]);
    expect(['piano', 'organ', 'nobody'].map((id) => stage.stolenMeterOf(id))).toEqual([
      ...[METER.stolenFrom, METER.stolenFrom + 1, -1],
    ]);
    expect(effects).toHaveLength(1);
  });

  it('asks for nothing that is as it was, and for what an edit changes alone', () => {
    prepare([piano(), organ()]);
    written();
    prepare([piano(), organ()]);
    expect(written().filter(([name]) => name !== 'timbre')).toEqual([]);
    prepare([piano({ level: -8 }), organ()]);
    expect(written('level')).toEqual([['level', 0, -8, 0.03, 0]]);
    prepare([piano({ level: -8, pan: -1 }), organ({ tone: { low: 0, high: 4 } })]);
    expect(written().filter(([name]) => name !== 'timbre')).toEqual([
      ['pan', 0, -1, 0, 0],
      ['tone', 1, 0, 4, 0],
    ]);
    // Other ears, or other things to obey, begin where the hands are.
    const heeds = (changes: Partial<Layer>) => {
      prepare([piano({ level: -8, pan: -1, ...changes }), organ({ tone: { low: 0, high: 4 } })]);
      return written('expression').map(([, strip]) => strip);
    };
    expect(heeds({ obeys: ['expression'] })).toEqual([0]);
    expect(heeds({ obeys, channel: 4 })).toEqual([0]);
    expect(heeds({})).toEqual([0]);
    expect(heeds({})).toEqual([]);
    prepare([piano({ level: -8, pan: -1, tone: { low: 1, high: 0 } }), organ()]);
    expect(written('tone')).toEqual([
      ['tone', 0, 1, 0, 0],
      ['tone', 1, 0, 0, 0],
    ]);
  });

  it('glides levels and sends over a cue’s seconds in the same patch, and at once to another', () => {
    prepare([piano()], { seconds: 3 });
    expect(written('level')).toEqual([['level', 0, -6, 0, 0]]);
    prepare([piano({ level: -12 })], { seconds: 3 });
    const cue = written();
    expect(cue).toContainEqual(['level', 0, -12, 3, 0]);
    const glided = cue.filter(([name]) => name === 'send').map(([, strip, bus]) => [strip, bus]);
    expect(glided).toEqual(Object.values(BUS).map((bus) => [0, bus]));
    expect(ring.refused).toBe(0);
    prepare([piano()], { id: 'another', seconds: 3 });
    expect(written('level')).toEqual([['level', 1, -6, 0, 0]]);
    // Back in the first patch the strip is there still: a touch, no fade.
    prepare([piano()], { seconds: 3 });
    expect(written('level')).toEqual([['level', 0, -6, 0.03, 0]]);
    expect(stage.stripOf('piano')).toBe(0);
  });

  it('silences what is muted, and brings it back where a control has moved it', () => {
    prepare([piano(), organ()]);
    stage.moveLayer('piano', 'level', { value: -20 });
    prepare([piano({ muted: true }), organ()]);
    written();
    stage.moveLayer('piano', 'level', { value: -30 });
    expect(written()).toEqual([]);
    prepare([piano(), organ()]);
    expect(written('level')).toEqual([['level', 0, -30, 0.03, 0]]);
    // What the desk sets counts for more.
    prepare([piano({ level: -3 }), organ()]);
    expect(written('level')).toEqual([['level', 0, -3, 0.03, 0]]);
    prepare([piano({ level: -3, muted: true }), organ()]);
    expect(written('level')).toEqual([['level', 0, -60, 0.03, 0]]);
  });

  it('moves levels, place and sends as controls ask, on the layer that is meant', () => {
    prepare([piano(), organ()]);
    written();
    stage.moveLayer('organ', 'level', { value: -1 });
    stage.moveLayer('organ', 'pan', { value: 0.25 });
    stage.moveLayer('organ', 'delay', { value: -7 });
    stage.moveLayer('nobody', 'pan', { value: 1 });
    expect(written()).toEqual([
      ['level', 1, -1, 0.03, 0],
      ['pan', 1, 0.25, 0, 0],
      ['send', 1, BUS.delay, -7, 0],
    ]);
  });

  it('trims on top of whatever moves a level, and tells only what changes', () => {
    prepare([piano(), organ()], { trims: new Map([['piano', -3]]) });
    expect(written('level')).toEqual([
      ['level', 0, -9, 0, 0],
      ['level', 1, -9, 0, 0],
    ]);
    stage.trim(new Map([['piano', -3]]));
    expect(written()).toEqual([]);
    stage.trim(new Map([['piano', 2]]));
    expect(written()).toEqual([['level', 0, -4, 0.03, 0]]);
    // Told again with the same trims nothing is asked for.
    prepare([piano(), organ()], { trims: new Map([['piano', 2]]) });
    expect(written('level')).toEqual([]);
    prepare([piano({ muted: true }), organ()], { trims: new Map([['piano', 2]]) });
    written();
    stage.trim(new Map([['organ', 1]]));
    expect(written()).toEqual([['level', 1, -8, 0.03, 0]]);
    prepare([piano({ muted: true }), organ()], { trims: new Map([['organ', 1]]) });
    expect(written('level')).toEqual([]);
  });

  it('moves a timbre on every layer that shares the sound, until the desk sets it', () => {
    prepare([piano(), piano({ ...organ(), soundId: 'piano' }), outside()]);
    written();
    stage.moveSound('piano', 'brightness', { value: 0.5 });
    expect(written()).toEqual([
      ['timbre', 0, 0.5, 0, 0],
      ['timbre', 1, 0.5, 0, 0],
    ]);
    stage.moveSound('piano', 'release', { value: -1 });
    expect(written('timbre').map(([, strip, ...args]) => [strip, ...args])).toEqual([
      [0, 0.5, 0, -1],
      [1, 0.5, 0, -1],
    ]);
    stage.moveSound('nobody', 'attack', { value: 1 });
    expect(written()).toEqual([]);
    // An edit of something else leaves it where it was moved.
    prepare([piano({ pan: 0.5 }), piano({ ...organ(), soundId: 'piano' }), outside()]);
    expect(written().map(([name]) => name)).toEqual(['pan']);
    stage.moveSound('piano', 'attack', { value: 1 });
    expect(written('timbre')).toEqual([
      ['timbre', 0, 0.5, 1, -1],
      ['timbre', 1, 0.5, 1, -1],
    ]);
    const timbre = { brightness: -0.25, attack: 0.5, release: 0, vibrato: 0 };
    prepare([piano()], { sound: { timbre } });
    expect(written('timbre')).toEqual([['timbre', 0, -0.25, 0.5, 0]]);
    // In another patch what was moved before is forgotten.
    prepare([piano()], { id: 'another', sound: { timbre } });
    expect(written('timbre')).toHaveLength(1);
    stage.moveSound('organ', 'attack', { value: 1 });
    expect(written()).toEqual([]);
  });
});

describe('a voice', () => {
  it('begins and ends in the engine at its frame, with its sound', () => {
    prepare([piano(), organ()], { sound: { polyphony: 1, glideSeconds: 0.25 } });
    written();
    play('organ', { voice: 7, note: 61, velocity: 80, gain: 0.5, at: 2 });
    const record = new Float64Array(RECORD);
    ring.read(record);
    const [kind, frame, voice, strip, slot, instance, ...rest] = record;
    expect([kind, frame, voice, strip, slot]).toEqual([COMMAND.start, 2000, 7, 1, 5]);
    expect(rest).toEqual([1, 61, 80, 0.5, 0.25]);
    play('piano');
    ring.read(record);
    expect(record[5]).not.toBe(instance);
    expect(record[4]).toBe(0);
    stage.end(7, 3);
    stage.takeBack(7);
    stage.retime(7, 4, 5);
    stage.retime(7, 4, Infinity);
    expect(written()).toEqual([
      ['end', 7, 0, 0, 0],
      ['takeBack', 7, 0, 0, 0],
      ['retime', 7, 4000, 5000, 0],
      ['retime', 7, 4000, -1, 0],
    ]);
    stage.silence();
    expect(written()).toEqual([['silence', 0, 0, 0, 0]]);
  });

  it('is none of a layer that does not play, or whose sound is not there', () => {
    prepare([piano(), layer('unknown', { soundId: 'unknown' })]);
    const known = layerOf('piano');
    written();
    play('unknown');
    expect(written()).toEqual([]);
    const stranger = compilePatch(patchOf([organ()]), { rig, songShift: 0 });
    stage.start(1, stranger, stranger.layers[0], 60, 90, { gain: 1, at: 0 });
    expect(written()).toEqual([]);
    expect([stage.ringsOn(known), stage.ringsOn(stranger.layers[0])]).toEqual([true, false]);
  });

  it('rings on under the pedal if it dies away like a string', () => {
    prepare([piano(), organ(), outside()]);
    expect(['piano', 'organ', 'outside'].map((id) => stage.ringsOn(layerOf(id)))).toEqual([
      ...[true, false, false],
    ]);
  });

  it('has the polyphony of its own sound, and shares its instance with what plays that too', () => {
    const plain = patchOf([
      piano(),
      organ(),
      piano({ ...organ({ soundId: 'piano' }), id: 'third' }),
    ]);
    const sounds_ = plain.sounds.map((one) => ({ ...one, polyphony: one.id === 'organ' ? 7 : 3 }));
    playing = compilePatch({ ...plain, sounds: sounds_ }, { rig, songShift: 0 });
    stage.prepare(playing, { ...plain, sounds: sounds_ }, sounds, null, []);
    written();
    for (const id of ['piano', 'organ', 'third']) play(id);
    const record = new Float64Array(RECORD);
    const found: number[][] = [];
    while (ring.read(record)) found.push([record[5], record[6]]);
    expect(found.map(([, polyphony]) => polyphony)).toEqual([3, 7, 3]);
    expect(found[0][0]).toBe(found[2][0]);
    expect(found[0][0]).not.toBe(found[1][0]);
  });

  it('of many is struck at once, whatever number it has', () => {
    prepare([piano()], { sound: { polyphony: 'many' } });
    written();
    play('piano');
    const record = new Float64Array(RECORD);
    ring.read(record);
    expect(record[6]).toBe(0);
  });
});

describe('a layer that a module plays', () => {
  const bytes = () => sent.splice(0).map(([told]) => told);

  it('is told of its program, its level and its notes, and its strip stays silent', () => {
    prepare([outside({ level: -6, pan: -1 })]);
    const told = bytes();
    expect(told).toContainEqual([0xc2, 7]);
    expect(told).toContainEqual([0xb2, 10, 0]);
    written();
    play('outside', { voice: 3, note: 64, velocity: 100 });
    expect(bytes()).toEqual([[0x92, 64, 100]]);
    play('outside', { voice: 4, note: 65, velocity: 100, gain: 0.25 });
    expect(bytes()).toEqual([[0x92, 65, 50]]);
    play('outside', { voice: 5, note: 66, velocity: 1, gain: 0.01 });
    expect(bytes()).toEqual([[0x92, 66, 1]]);
    stage.voicePressure(3, 9);
    stage.end(3, 0);
    expect(bytes()).toEqual([
      [0xa2, 64, 9],
      [0x82, 64, 64],
    ]);
    expect(written()).toEqual([]);
    stage.voicePressure(99, 127);
    expect(written()).toEqual([['pressure', 99, 1, 0, 0]]);
  });

  it('is handed over shortly before its time, and can be taken back until then', () => {
    prepare([outside()]);
    bytes();
    play('outside', { voice: 3, at: now + 0.05 });
    expect(stage.needsClock).toBe(true);
    now += 0.045;
    stage.advance();
    expect(bytes()).toEqual([[0x92, 60, 90]]);
    play('outside', { voice: 4, at: now + 0.05 });
    stage.retime(4, now + 0.06, Infinity);
    stage.takeBack(4);
    now += 1;
    stage.advance();
    expect(bytes()).toEqual([]);
    expect([...written('takeBack'), ...written('retime')]).toEqual([]);
  });

  it('has its volume moved by controls, trims and cues', () => {
    prepare([outside()]);
    bytes();
    const volumes = (seconds: number) => {
      for (let i = 0; i < 50; i++) {
        now += seconds / 50;
        stage.advance();
      }
      return bytes().filter(([, controller]) => controller === 7);
    };
    stage.moveLayer('outside', 'level', { value: -20 });
    expect(volumes(0.1).at(-1)).toEqual([0xb2, 7, 40]);
    prepare([outside()]);
    expect(sent).toEqual([]);
    expect(volumes(0.1)).toEqual([]);
    prepare([outside({ level: -40 })], { seconds: 2 });
    const fading = volumes(1);
    expect(fading.length).toBeGreaterThan(3);
    // Half of the way from −20 to −40 dB.
    expect(fading.at(-1)?.[2]).toBeGreaterThan(20);
    expect(volumes(1.5).at(-1)?.[2]).toBe(13);
    stage.trim(new Map([['outside', 10]]));
    expect(volumes(0.1).at(-1)?.[2]).toBe(23);
    prepare([outside({ level: -40, muted: true })]);
    expect(volumes(0.1).at(-1)?.[2]).toBe(0);
  });

  it('is told anew when another device stands behind its port, and nothing else is', () => {
    prepare([piano(), outside()]);
    stage.moveLayer('outside', 'level', { value: -20 });
    now += 1;
    stage.advance();
    bytes();
    written();
    stage.renewOutside('elsewhere');
    expect(bytes()).toEqual([]);
    stage.renewOutside('module');
    const told = bytes();
    expect(told).toContainEqual([0xc2, 7]);
    // As loud as a hand has left it.
    expect(told).toContainEqual([0xb2, 7, 40]);
    expect(written()).toEqual([]);
  });

  it('is silent where its module is not there', () => {
    target = null;
    prepare([outside()]);
    written();
    play('outside');
    expect([sent, written()]).toEqual([[], []]);
  });
});
