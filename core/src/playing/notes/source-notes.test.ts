import { beforeEach, expect, it } from 'vitest';
import { NOW } from '../../clock/show-clock.js';
import { newTreatment, type Treatment } from '../../model/patch/treatment.js';
import type { Layer } from '../../model/patch/layer.js';
import { compilePatch, compileRig } from '../../routing/compile.js';
import { demoRig, keys, layer, patchOf, velocities } from '../../testing/fixtures.js';
import { ScheduledOutput } from '../../testing/scheduled-output.js';
import { Player } from './player.js';
import type { NoteSource } from './source-notes.js';

let output: ScheduledOutput;
let player: Player;
let first: number;
beforeEach(() => {
  output = new ScheduledOutput();
  player = new Player(output, () => output.time);
  player.clock.tempo = 120;
  player.clock.join();
  first = player.clock.firstBeat;
});
const compile = (layers: Layer[], treatments: Treatment[] = [], id = 'patch', songShift = 0) =>
  compilePatch({ ...patchOf(layers, id), treatments }, { rig: compileRig(demoRig), songShift });
const of = (...ids: string[]): NoteSource => ({
  layerIds: new Set(ids),
  patch: null,
  isKit: false,
});
const play = (source: NoteSource, key: number, from: number, until: number, velocity = 90) =>
  player.playNote(source, key, velocity, first + from, first + until);
const wait = (seconds: number) => output.wait(seconds, () => player.advance());
const sounding = () => [...output.sounding.values()].sort((a, b) => a - b);
const began = () => output.began.splice(0).map(({ at, note, layer: on }) => `${on} ${note} ${at}`);

it('a source plays at its beats on its layers alone, wherever their keys lie, on those of that strength', () => {
  const soft = { velocities: velocities(1, 80) };
  player.take(
    compile([
      layer('bass', { keys: keys(0, 40), transpose: -12 }),
      layer('soft', soft),
      layer('hard', { velocities: velocities(81, 127) }),
      layer('muted', { muted: true }),
    ]),
  );
  play(of('bass', 'soft', 'hard', 'muted'), 60, 0.5, 1);
  wait(0.2);
  expect(began()).toEqual([]);
  wait(0.1);
  expect([began(), sounding()]).toEqual([
    ['bass 48 250', 'hard 60 250'],
    [48, 60],
  ]);
  wait(0.25);
  expect(sounding()).toEqual([]);
});

it('pieces of a kit are played where it says that it has them, whatever its layer is moved by, and not where it has none', () => {
  const kit = Int8Array.from({ length: 128 }, (_, key) => (key === 36 ? 60 : -1));
  const laid = compile([layer('kit', { followsSong: true, transpose: 12 })], [], 'patch', -3);
  const patch = { ...laid, layers: laid.layers.map((one) => ({ ...one, kit })) };
  player.take(patch);
  for (const isKit of [true, false])
    for (const key of [36, 40]) play({ ...of('kit'), isKit }, key, 0, 1);
  expect(sounding()).toEqual([48, 52, 60]);
});

it('the key that a source plays is the one that sounds: the song’s own shift is not added again', () => {
  player.take(compile([layer('a', { followsSong: true, transpose: 12 })], [], 'patch', -3));
  play(of('a'), 60, 0, 1);
  player.noteOn(0, 1, 60, 90);
  expect(sounding()).toEqual([69, 72]);
  // Where that is no note of MIDI it is silent.
  play(of('a'), 120, 0, 1);
  expect(sounding()).toEqual([69, 72]);
});

it('it ends before its time, or does not begin, when its source is ended; hands and other sources go on', () => {
  player.take(compile([layer('a')]));
  const [one, other] = [of('a'), of('a')];
  play(one, 60, 0, 4);
  play(one, 61, 0.08, 4);
  play(other, 64, 0, 4);
  player.noteOn(0, 1, 67, 90);
  expect(sounding()).toEqual([60, 64, 67]);
  player.endSource(one);
  wait(0.3);
  expect(sounding()).toEqual([64, 67]);
  player.endSource(other, first + 1);
  wait(0.15);
  expect(sounding()).toEqual([64, 67]);
  wait(0.1);
  expect(sounding()).toEqual([67]);
  player.endSource(other);
  player.noteOff(0, 1, 67);
  expect(sounding()).toEqual([]);
});

it('it comes at another time when the tempo changes, and goes on in an edited patch as in one that was left', () => {
  player.take(compile([layer('a')]));
  const source = of('a');
  play(source, 60, 1, 2);
  player.clock.tempo = 60;
  player.take(compile([layer('a', { transpose: 12 })]));
  wait(0.95);
  expect(began()).toEqual([]);
  wait(0.1);
  expect(began()).toEqual(['a 60 1000']);
  play(source, 62, 1.5, 2);
  player.take(compile([layer('b')], [], 'other'));
  play(source, 64, 1.5, 2);
  wait(0.6);
  expect([began(), sounding()]).toEqual([['a 74 1500'], [60, 74]]);
  wait(0.5);
  expect(sounding()).toEqual([]);
});

it.each([
  ['all notes off', () => player.allNotesOff()],
  ['another patch that cuts', () => player.take(compile([layer('b')], [], 'other'), 'cut')],
])('nothing of it is left after %s', (_what, ends) => {
  player.take(compile([layer('a')]));
  play(of('a'), 60, 0, 4);
  play(of('a'), 62, 0.08, 4);
  ends();
  wait(1);
  expect(sounding()).toEqual([]);
});

it('of a patch of its own it goes on though another patch cuts what hands hold', () => {
  const own = compile([layer('a')]);
  player.take(own);
  player.playNote({ layerIds: new Set(['a']), patch: own, isKit: false }, 60, 90, first, first + 4);
  player.noteOn(0, 1, 67, 90);
  player.take(compile([layer('b')], [], 'other'), 'cut');
  wait(0.3);
  expect(sounding()).toEqual([60]);
});

it('goes the way of its layer’s treatments', () => {
  const arpeggio = { ...newTreatment('arpeggio', 'arp', ['a']), rate: '1/4', gate: 0.5 };
  player.take(compile([layer('a')], [arpeggio as Treatment]));
  const source = of('a');
  play(source, 60, 0, 2);
  play(source, 64, 0, 2);
  wait(1.2);
  expect(began()).toEqual(['a 60 0', 'a 64 500']);
  expect(sounding()).toEqual([]);
  play(source, 60, 3, 9);
  player.endSource(source, NOW);
  wait(2);
  expect(began()).toEqual([]);
});
