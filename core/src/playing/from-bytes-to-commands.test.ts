import { beforeEach, describe, expect, it } from 'vitest';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { newLayer } from '../model/patch/layer.js';
import { newPatchSound } from '../model/patch/patch.js';
import { COMMAND } from '../sampler/command-ring.js';
import { patchOf, plan, SmallShow } from '../testing/small-show.js';
import { expressionGain } from './controllers.js';
import { volumeOf } from './outside-voices.js';
import type { PlayerHost } from './player-host.js';
import type { Player } from './player.js';
import type { ShowPlan } from './show-plan.js';
import type { ShowRunner } from './show-runner.js';

let sent: number[][];
let player: Player;
let runner: ShowRunner;
let host: PlayerHost;
let small: SmallShow;
beforeEach(() => {
  small = new SmallShow();
  ({ sent, player, runner, host } = small);
});
const commands = () => small.commands();
const ofKind = (kind: number) => small.ofKind(kind);
const showtime = {
  entryId: 'entry',
  songId: 'song',
  cueId: 'one',
  patchId: 'first',
  soloed: new Set<string>(),
  asCue: true,
  showtime: false,
};

describe('from bytes to commands', () => {
  it('sounds a key through its layer’s strip, transposed with the song, and ends it', () => {
    runner.follow(plan, showtime);
    const strip = ofKind(COMMAND.level)[0][1];
    host.receive('upper port', [0x90, 60, 100]);
    const [[, voice, onStrip, slot, , polyphony, note, velocity]] = ofKind(COMMAND.start);
    expect([onStrip, slot, polyphony, note, velocity]).toEqual([strip, 5, 3, 62, 100]);
    host.receive('upper port', [60, 0]);
    expect(ofKind(COMMAND.end)).toEqual([[COMMAND.end, voice, 0, 0, 0, 0, 0, 0, 0, 0]]);
  });

  it('keeps show controls from the layers, acts on the way down only, and tells the desk', () => {
    const reached: (string | null)[] = [];
    runner.onStep = (step) => reached.push(step.cueId);
    runner.follow(plan, showtime);
    commands();
    host.receive('pad port', [0x99, 39, 100, 39, 0]);
    host.receive('upper port', [0xb0, 80, 100, 80, 127, 80, 0]);
    host.receive('pad port', [0x99, 36, 100, 36, 0]);
    expect(reached).toEqual(['two', 'three', 'two']);
    expect(player.noteCount).toBe(0);
    expect(ofKind(COMMAND.start)).toEqual([]);
  });

  it('plays a port the rig does not know as the keyboard of its channel', () => {
    runner.follow(plan, showtime);
    host.receive('borrowed', [0x90, 60, 100]);
    expect(host.last.device).toBe('Upper');
    expect(ofKind(COMMAND.start)).toHaveLength(1);
  });

  it('counts broken bytes and keeps the running status of each cable apart', () => {
    host.receive('upper port', [0x90, 60, 100]);
    host.receive('upper port', [61, 100], 'another cable');
    expect(host.brokenBytes).toBe(2);
    host.receive('upper port', [62, 100]);
    expect(player.lastNote.key).toBe(62);
  });
});

describe('cues', () => {
  it('glide within a patch over the cue’s seconds, and play another patch at once', () => {
    runner.follow(plan, showtime);
    const [[, strip, level, seconds]] = ofKind(COMMAND.level);
    expect([level, seconds]).toEqual([-6, 0]);
    runner.move(1);
    expect(ofKind(COMMAND.level)).toEqual([[COMMAND.level, strip, -20, 4, 0, 0, 0, 0, 0, 0]]);
    host.receive('upper port', [0x90, 60, 100]);
    const [[, held]] = ofKind(COMMAND.start);
    runner.move(1);
    host.receive('upper port', [64, 100]);
    expect(sent).toContainEqual([0x92, 66, 100]);
    host.receive('upper port', [60, 0]);
    expect(ofKind(COMMAND.end).map(([, voice]) => voice)).toEqual([held]);
    host.receive('upper port', [64, 0]);
    expect(sent.at(-1)).toEqual([0x82, 66, 64]);
  });

  it('on the desk play the patch as it is written', () => {
    runner.follow(plan, { ...showtime, cueId: 'two', asCue: false });
    expect(ofKind(COMMAND.level)[0][2]).toBe(-6);
    runner.follow(plan, { ...showtime, cueId: 'two' });
    expect(ofKind(COMMAND.level)[0][2]).toBe(-20);
  });

  it('stay where they are at the ends, and are left alone when nothing changed', () => {
    runner.follow(plan, showtime);
    commands();
    runner.move(-1);
    runner.follow(plan, { ...showtime, soloed: new Set() });
    expect(commands()).toEqual([]);
  });

  it('put controllers where they say', () => {
    runner.follow(plan, { ...showtime, cueId: 'three', patchId: 'second' });
    expect(ofKind(COMMAND.expression)[0][2]).toBeCloseTo(expressionGain(64));
  });
});

describe('controls tied to the patch', () => {
  const wheel: Tie = {
    id: 'wheel',
    place: 'keys1',
    message: { kind: 'controller', controller: 1 },
    target: { kind: 'layer', layerId: 'layer', parameter: 'level' },
    from: -30,
    to: 0,
    ...usualManner({ kind: 'pedal' }),
  };
  const lift: Tie = {
    id: 'pad',
    place: 'pads1',
    message: { kind: 'note', note: 41 },
    target: { kind: 'layer', layerId: 'layer', parameter: 'lift' },
    from: 0,
    to: 1,
    ...usualManner({ kind: 'pedal' }),
  };
  const bright: Tie = {
    ...wheel,
    id: 'knob',
    message: { kind: 'controller', controller: 20 },
    target: { kind: 'sound', patchSoundId: 'sound', parameter: 'brightness' },
    from: -1,
    to: 1,
  };
  const second = { ...newLayer('second', 'Second', 'sound'), level: -9, obeys: [] };
  const first = patchOf('first', 'house');
  const tiedPlan: ShowPlan = {
    ...plan,
    patches: {
      ...plan.patches,
      first: { ...first, layers: [...first.layers, second], controls: [wheel, lift, bright] },
    },
  };
  const desk = { ...showtime, asCue: false };

  it('move one layer’s level and leave the one that shares its sound alone', () => {
    runner.follow(tiedPlan, desk);
    const [[, strip], [, other]] = ofKind(COMMAND.level);
    expect(strip).not.toBe(other);
    host.receive('upper port', [0xb0, 1, 127]);
    expect(ofKind(COMMAND.level)).toEqual([[COMMAND.level, strip, 0, 0.03, 0, 0, 0, 0, 0, 0]]);
  });

  it('move a sound’s timbre on every layer that shares it', () => {
    runner.follow(tiedPlan, desk);
    commands();
    host.receive('upper port', [0xb0, 20, 0]);
    expect(ofKind(COMMAND.timbre).map(([, , brightness]) => brightness)).toEqual([-1, -1]);
  });

  it('begin where the hand is when the patch is taken again', () => {
    runner.follow(tiedPlan, desk);
    host.receive('upper port', [0xb0, 1, 0]);
    runner.follow(tiedPlan, { ...desk, patchId: 'second' });
    commands();
    runner.follow(tiedPlan, desk);
    expect(ofKind(COMMAND.level).at(-1)?.[2]).toBe(-30);
  });

  it('turn a switch over with each strike of a pad, which then plays nothing', () => {
    runner.follow(tiedPlan, desk);
    const strike = () => {
      host.receive('pad port', [0x99, 41, 100, 41, 0]);
      return player.switchedTo('layer');
    };
    expect([strike(), strike()]).toEqual([true, false]);
    expect(player.noteCount).toBe(0);
  });

  it('are learnt by touching them, and what is learnt is used up', () => {
    runner.follow(tiedPlan, desk);
    const learnt: unknown[] = [];
    const stop = host.listenToControls((device, message) => learnt.push([device, message]) > 0);
    host.receive('pad port', [0x99, 39, 100]);
    host.receive('upper port', [0xb0, 7, 1]);
    stop();
    host.receive('upper port', [0xb0, 7, 2]);
    expect(learnt).toEqual([
      ['pads1', { kind: 'pad', pad: 1 }],
      ['keys1', { kind: 'controller', controller: 7 }],
    ]);
  });
});

describe('trying a sound out', () => {
  const audition = { sound: newPatchSound('try', 'house'), transpose: 12 };

  it('plays it on every keyboard, transposed, and gives the keyboards back to the patch', () => {
    runner.follow(plan, { ...showtime, asCue: false });
    runner.audition(audition);
    commands();
    host.receive('upper port', [0x90, 20, 100]);
    expect(ofKind(COMMAND.start)[0].slice(6, 8)).toEqual([32, 100]);
    runner.audition(null);
    host.receive('upper port', [20, 0, 60, 100]);
    expect(ofKind(COMMAND.start)[0][6]).toBe(62);
  });
});

describe('all notes off', () => {
  it('silences the engine and sends CC 120, 121 and 123 to the module', () => {
    runner.follow(plan, { ...showtime, cueId: 'three', patchId: 'second' });
    host.receive('upper port', [0x90, 60, 100]);
    player.allNotesOff();
    expect(ofKind(COMMAND.silence)).toHaveLength(1);
    expect(sent.slice(-4)).toEqual([
      [0xb2, 120, 0],
      [0xb2, 121, 0],
      [0xb2, 123, 0],
      // The pedal has not moved.
      [0xb2, 11, 64],
    ]);
  });

  it('writes volumes as channel volume, 0 dB at the top and silence at 0', () => {
    expect([0, -6, -60].map(volumeOf)).toEqual([127, 90, 0]);
  });
});
