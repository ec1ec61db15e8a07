import { beforeEach, describe, expect, it } from 'vitest';
import { newLayer } from '../model/patch/layer.js';
import { newChooser } from '../model/patch/chooser.js';
import { newPatch, type Patch } from '../model/patch/patch.js';
import type { ControlTarget } from '../model/patch/control-target.js';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { newTreatment, type Treatment } from '../model/patch/treatment.js';
import { COMMAND } from '../sampler/command-ring.js';
import { patchOf, plan, SmallShow, song } from '../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show/show-plan.js';

let small: SmallShow;
beforeEach(() => void (small = new SmallShow()));

const place: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
};
const first: Patch = {
  ...patchOf('first', 'house'),
  layers: [
    newLayer('layer', 'Layer', 'sound'),
    { ...newLayer('other', 'Other', 'sound'), level: -9 },
  ],
};
const levelOfA: ControlTarget = { kind: 'letter', layer: 0, parameter: 'level' };
const knob = (target: ControlTarget, more: Partial<Tie> = {}): Tie => ({
  ...{ id: `knob ${more.id ?? ''}`, place: 'keys1', target, from: -24, to: 0 },
  ...{ message: { kind: 'controller', controller: 20 }, ...usualManner({ kind: 'pedal' }) },
  ...more,
});
const pad = (target: ControlTarget, more: Partial<Tie> = {}): Tie =>
  knob(target, { place: 'pads1', message: { kind: 'note', note: 41 }, from: 0, to: 1, ...more });
/** Plays with these ties of the patch, the song and the rig. */
function play(
  ties: { patch?: Tie[]; song?: Tie[]; rig?: Tie[]; first?: Patch },
  at: Partial<NowPlaying> = {},
): void {
  const whole: ShowPlan = {
    ...plan,
    ties: ties.rig ?? [],
    songs: new Map([['song', { ...song, ties: ties.song ?? [] }]]),
    patches: { ...plan.patches, first: { ...(ties.first ?? first), controls: ties.patch ?? [] } },
  };
  small.live.follow(whole, { ...place, ...at });
  small.commands();
}
const turn = (value: number, number = 20) =>
  small.host.receive('upper port', [0xb0, number, value]);
const hit = (velocity: number, note = 41) => small.host.receive('pad port', [0x99, note, velocity]);
const strike = (key = 60) => {
  small.host.receive('upper port', [0x90, key, 90]);
  const notes = small.ofKind(COMMAND.start).map((command) => command[6]);
  small.host.receive('upper port', [0x80, key, 0]);
  small.commands();
  return notes;
};
const levels = () => small.ofKind(COMMAND.level).map(([, , level]) => level);

describe('ties of the rig, the song and the patch', () => {
  it('move the layer of a letter in whichever patch is played, the nearest tie alone', () => {
    play({ rig: [knob(levelOfA)] });
    turn(127);
    expect(levels()).toEqual([0]);
    play({ rig: [knob(levelOfA)], song: [knob(levelOfA, { from: -12, to: -12 })] });
    turn(0);
    expect(levels()).toEqual([-12]);
    const own = knob({ kind: 'layer', layerId: 'other', parameter: 'level' }, { from: -3, to: -3 });
    play({ rig: [knob(levelOfA)], song: [knob(levelOfA)], patch: [own] });
    turn(64);
    expect(levels()).toEqual([-3]);
  });

  it('take a pad from the show while a patch has it, and give it back', () => {
    const mute = pad(
      { kind: 'layer', layerId: 'layer', parameter: 'mute' },
      {
        message: { kind: 'note', note: 39 },
      },
    );
    play({ patch: [mute] });
    hit(100, 39);
    expect(small.runner.isAt({ entryId: 'entry', songId: 'song', cueId: 'one' })).toBe(true);
    play({ rig: [mute] });
    hit(100, 39);
    expect(small.runner.isAt({ entryId: 'entry', songId: 'song', cueId: 'two' })).toBe(true);
  });

  it('move several settings by one knob', () => {
    const both = [levelOfA, { ...levelOfA, layer: 1 } as ControlTarget];
    play({ rig: both.map((target, at) => knob(target, { id: String(at) })) });
    turn(127);
    expect(levels()).toEqual([0, 0]);
  });
});

describe('a press', () => {
  const layerSwitch = (parameter: 'mute' | 'solo'): ControlTarget => ({
    ...{ kind: 'letter', layer: 0, parameter },
  });

  it('mutes a layer and brings it back where a knob has left it', () => {
    play({ rig: [pad(layerSwitch('mute')), knob(levelOfA)] });
    turn(127);
    small.commands();
    hit(100);
    expect(levels()).toEqual([-60]);
    expect(strike()).toHaveLength(1);
    turn(0);
    expect(levels()).toEqual([]);
    hit(0);
    hit(100);
    expect(levels()).toEqual([-24]);
    expect(strike()).toHaveLength(2);
  });

  it('solos a layer, and lets go of what it had when it is untied', () => {
    play({ rig: [pad(layerSwitch('solo'))] });
    hit(100);
    expect(strike()).toHaveLength(1);
    play({});
    expect(strike()).toHaveLength(2);
  });

  it('holds only while it is down, if that is how it is tied', () => {
    play({ rig: [pad(layerSwitch('mute'), { acts: 'holds' })] });
    hit(100);
    expect(strike()).toHaveLength(1);
    hit(0);
    expect(strike()).toHaveLength(2);
  });

  it('shifts the octave, by steps, to and fro, or while it is held; held keys end as they began', () => {
    const octave: ControlTarget = { kind: 'octave', place: 'keys1' };
    play({ rig: [pad(octave, { acts: 'steps', to: 2 })] });
    hit(100);
    expect(strike()).toEqual([74, 74]);
    small.host.receive('upper port', [0x90, 60, 90]);
    hit(100);
    hit(100);
    small.commands();
    small.host.receive('upper port', [0x80, 60, 0]);
    expect(small.ofKind(COMMAND.end)).toHaveLength(2);
    expect(strike()).toEqual([86, 86]);
    play({ rig: [pad(octave, { acts: 'turnsOver', from: 0, to: -1, id: 'back' })] });
    hit(100);
    expect(strike()).toEqual([50, 50]);
    hit(100);
    expect(strike()).toEqual([62, 62]);
    hit(100);
    play({});
    expect(strike()).toEqual([62, 62]);
  });

  it('goes to the next cue, trims, and picks, for the whole rig', () => {
    play({
      rig: [pad({ kind: 'show', action: 'nextCue' }, { message: { kind: 'note', note: 50 } })],
    });
    hit(100, 50);
    expect(small.runner.isAt({ entryId: 'entry', songId: 'song', cueId: 'two' })).toBe(true);
    play({ rig: [knob({ kind: 'letter', layer: 1, parameter: 'trim' }, { from: -12, to: 12 })] });
    turn(127);
    expect(small.runner.trimOf('other')).toBe(12);
    play({ song: [pad({ kind: 'goTo', songId: 'song', cueId: 'three' })] });
    hit(100);
    expect(small.runner.isAt({ entryId: 'entry', songId: 'song', cueId: 'three' })).toBe(true);
  });
});

describe('aftertouch and the pitch wheel', () => {
  const bright: ControlTarget = { kind: 'letter', layer: 0, parameter: 'brightness' };
  const brightness = () => small.ofKind(COMMAND.timbre).map(([, , value]) => value);

  it('move what they are tied to', () => {
    const from = { from: -1, to: 1 };
    play({ patch: [knob(bright, { message: { kind: 'pressure' }, ...from })] });
    small.host.receive('upper port', [0xd0, 127]);
    expect(brightness()[0]).toBe(1);
    play({ patch: [knob(bright, { message: { kind: 'keyPressure' }, ...from })] });
    small.host.receive('upper port', [0xa0, 61, 0]);
    expect(brightness()[0]).toBe(-1);
    play({ patch: [knob(bright, { message: { kind: 'bend' }, ...from })] });
    small.host.receive('upper port', [0xe0, 127, 127]);
    expect(brightness()[0]).toBe(1);
  });

  it('are obeyed by layers that do, inside and outside, and by no other', () => {
    const deaf = { ...first, layers: [{ ...first.layers[0], obeys: [] }, first.layers[1]] };
    play({ first: deaf });
    small.host.receive('upper port', [0x90, 60, 90]);
    const voices = small.ofKind(COMMAND.start).map(([, voice]) => voice);
    small.host.receive('upper port', [0xd0, 127]);
    expect(small.ofKind(COMMAND.modulation)).toHaveLength(1);
    small.host.receive('upper port', [0xa0, 60, 127]);
    expect(small.ofKind(COMMAND.pressure).map(([, voice, depth]) => [voice, depth])).toEqual([
      [voices[1], 1],
    ]);
    const outside = { ...newPatch('first', 'song', 0, 'first'), ...patchOf('first', 'outside') };
    play({ first: { ...outside, layers: [newLayer('layer', 'Layer', 'sound')] } });
    small.host.receive('upper port', [0x90, 60, 90]);
    small.sent.length = 0;
    small.host.receive('upper port', [0xd0, 70, 0xa0, 60, 33]);
    expect(small.sent).toEqual([
      [0xd2, 70],
      [0xa2, 62, 33],
    ]);
  });
});

describe('aftertouch of a key', () => {
  const chord = {
    ...newTreatment('chord', 'chord', ['layer']),
    ...{ intervals: [0, 7], inKey: false },
  } as Treatment;
  const treated = (patch: Patch): Patch => ({
    ...{ ...patch, treatments: [chord] },
    layers: [newLayer('layer', 'Layer', 'sound')],
  });

  it('is that of everything its treatments have struck, inside and outside', () => {
    play({ first: treated(first) });
    small.host.receive('upper port', [0x90, 60, 90]);
    const voices = small.ofKind(COMMAND.start).map(([, voice]) => voice);
    expect(voices).toHaveLength(2);
    small.host.receive('upper port', [0xa0, 60, 127, 0xa0, 61, 127]);
    expect(small.ofKind(COMMAND.pressure).map(([, voice]) => voice)).toEqual(voices);
    small.host.receive('upper port', [0x80, 60, 0, 0xa0, 60, 127]);
    expect(small.ofKind(COMMAND.pressure)).toEqual([]);
    const outside = { ...newPatch('first', 'song', 0, 'first'), ...patchOf('first', 'outside') };
    play({ first: treated(outside) });
    small.host.receive('upper port', [0x90, 60, 90]);
    small.sent.length = 0;
    small.host.receive('upper port', [0xa0, 60, 33]);
    expect(small.sent).toEqual([
      [0xa2, 62, 33],
      [0xa2, 69, 33],
    ]);
  });
});

describe('what a control stands at', () => {
  it('is remembered while it is learnt, so that tying it tears nothing away', () => {
    play({});
    const stop = small.host.listenToControls(() => true);
    turn(100);
    stop();
    play({ patch: [knob(levelOfA, { pickUp: true })] });
    expect(small.live.tied.positionsToRecall).toEqual([]);
    turn(90);
    expect(levels()).toHaveLength(1);
    turn(80);
    expect(levels()).toHaveLength(1);
  });
});

describe('a chooser', () => {
  it('is reached from the rig by its place, and by the sectors of a knob', () => {
    const layers = first.layers.map((one) => ({ ...one }));
    const chooser = { ...newChooser('hand', 'Hand', layers), controls: [] };
    const choosing = { ...first, choosers: [chooser] };
    play({ first: choosing, rig: [pad({ kind: 'choose', chooser: 0, picks: 'next' })] });
    expect(strike()).toHaveLength(1);
    hit(100);
    expect(small.player.pickedBy('hand')).toBe(1);
    hit(0);
    hit(100);
    expect(small.player.pickedBy('hand')).toBe(0);
    play({ first: choosing, rig: [knob({ kind: 'choose', chooser: 0, picks: 'position' })] });
    turn(127);
    expect(small.player.pickedBy('hand')).toBe(1);
    turn(3);
    expect(small.player.pickedBy('hand')).toBe(0);
    // A patch without choosers has nothing to pick.
    play({ rig: [pad({ kind: 'choose', chooser: 0, picks: 1 })] });
    hit(100);
    expect(strike()).toHaveLength(2);
  });
});
