import { beforeEach, describe, expect, it } from 'vitest';
import { newLayer } from '../model/patch/layer.js';
import { usualManner, type Tie } from '../model/patch/tie.js';
import type { ControlTarget } from '../model/patch/control-target.js';
import { songEntry } from '../model/show/show.js';
import { COMMAND } from '../sampler/command-ring.js';
import { steps } from '../setlist/running-order.js';
import { cueOf, cues, patchOf, plan, show, SmallShow, songs } from '../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show/show-plan.js';

const here: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
};
const layers = [patchOf('first', 'house').layers[0], newLayer('other', 'Other', 'sound')];
const target = (layerId: string, parameter: 'level' | 'mute'): ControlTarget => ({
  ...{ kind: 'layer', layerId, parameter },
});
const tie = (id: string, message: Tie['message'], what: ControlTarget, more = {}): Tie => ({
  ...{ id, place: 'pads1', message, target: what, from: -24, to: 0 },
  ...usualManner(message),
  ...{ pickUp: false, ...more },
});
const planned = (controls: Tie[], more: Partial<ShowPlan> = {}, own = layers): ShowPlan => ({
  ...plan,
  patches: { ...plan.patches, first: { ...patchOf('first', 'house'), layers: own, controls } },
  ...more,
});
const PAD = { kind: 'note', note: 39 } as const;

let small: SmallShow;
beforeEach(() => {
  small = new SmallShow();
});
const pads = (...bytes: number[]) => small.host.receive('pad port', bytes);
const keys = (...bytes: number[]) => small.host.receive('upper port', bytes);
const levels = () => small.ofKind(COMMAND.level).map(([, strip, level]) => [strip, level]);
const mutedNow = () => small.runner.current?.layers.map(({ muted }) => muted);

describe('a pad', () => {
  it('that holds several ties lets all of them go', () => {
    const holds = layers.map(({ id }) =>
      tie(`mute ${id}`, PAD, target(id, 'mute'), { acts: 'holds' }),
    );
    small.host.setRig(plan.devices, []);
    small.runner.follow(planned(holds, { show: { ...show, controls: [] } }), here);
    pads(0x99, 39, 90);
    expect(mutedNow()).toEqual([true, true]);
    pads(0x89, 39, 0);
    expect(mutedNow()).toEqual([false, false]);
  });

  it('that leads to a patch in which it is tied acts again in the next', () => {
    const second = {
      ...patchOf('second', 'outside'),
      controls: [tie('tied', PAD, target('layer', 'mute'))],
    };
    const whole = planned([], { patches: { first: patchOf('first', 'house'), second } });
    small.runner.follow(whole, { ...here, cueId: 'two' });
    pads(0x99, 39, 90);
    pads(0x89, 39, 0);
    expect(small.runner.isAt({ ...here, cueId: 'three' })).toBe(true);
    small.runner.follow(whole, here);
    pads(0x99, 39, 90);
    expect(small.runner.isAt({ ...here, cueId: 'two' })).toBe(true);
  });
});

describe('a device that goes', () => {
  it('takes its bend, its pedals and what it holds of ties and of the show along', () => {
    const hold = tie('hold', PAD, target('layer', 'mute'), { acts: 'holds' });
    const whole = planned([hold]);
    small.runner.follow(whole, here);
    small.commands();
    keys(0xe0, 0, 127, 0xb0, 11, 10, 0xb0, 1, 90);
    keys(0xb0, 80, 127);
    expect(small.runner.isAt({ ...here, cueId: 'two' })).toBe(true);
    pads(0x99, 39, 90);
    expect(mutedNow()?.[0]).toBe(true);
    small.commands();
    small.host.portGone('upper port');
    const told = small.commands();
    const last = (command: number) => told.filter(([kind]) => kind === command).at(-1);
    expect(last(COMMAND.bend)?.[1]).toBe(0);
    expect(last(COMMAND.expression)?.[2]).toBe(1);
    expect(last(COMMAND.modulation)?.[2]).toBe(0);
    small.host.portGone('pad port');
    expect(mutedNow()?.[0]).toBe(false);
    // Its pedal is up: pressed again it acts again.
    keys(0xb0, 80, 127);
    expect(small.runner.isAt({ ...here, cueId: 'three' })).toBe(true);
  });

  it('is one of those there is room for: what others say is passed over', () => {
    small.runner.follow(planned([]), here);
    for (const device of [31, 32, 40]) small.player.message(device, 0x90, 60, 90);
    expect(small.player.noteCount).toBe(1);
  });
});

it('a pedal that comes up while it is learnt lets go of what it holds', () => {
  small.runner.follow(planned([]), here);
  keys(0xb0, 64, 127, 0x90, 60, 90, 0x80, 60, 0);
  expect(small.player.voicesHeld).toBe(2);
  const stop = small.host.listenToControls(() => true);
  keys(0xb0, 64, 0);
  stop();
  expect(small.player.voicesHeld).toBe(0);
});

it('a layer at silence that a hand has raised is muted, soloed out and brought back where the hand has it', () => {
  const knob = tie('knob', { kind: 'controller', controller: 20 }, target('other', 'level'));
  const own = [layers[0], { ...layers[1], level: -60 }];
  const desk = { ...here, asCue: false };
  small.runner.follow(planned([knob], {}, own), desk);
  pads(0xb9, 20, 127);
  levels();
  const muted = [own[0], { ...own[1], muted: true }];
  small.runner.follow(planned([knob], {}, muted), desk);
  expect(levels()).toEqual([[1, -60]]);
  small.runner.follow(planned([knob], {}, own), desk);
  expect(levels()).toEqual([[1, 0]]);
  small.runner.follow(planned([knob], {}, own), { ...desk, soloed: new Set(['layer']) });
  expect(levels()).toEqual([[1, -60]]);
});

it('the same song in its second place of the night is played as written: hands, trims and programs anew', () => {
  const order = [songEntry('entry', 'song'), songEntry('again', 'song')];
  const programs = [{ place: 'module1' as const, channel: 3, bank: null, program: 9 }];
  const one = cueOf('one', 0, 'first', { programs });
  const mute = tie('mute', { kind: 'controller', controller: 20 }, target('layer', 'mute'));
  const whole = planned([mute], {
    cues: { one },
    show: { ...show, order },
    steps: steps(order, songs, [one]),
  });
  small.live.follow(whole, here);
  small.runner.trim('layer', -6);
  pads(0xb9, 20, 127);
  expect([mutedNow()?.[0], small.runner.trimOf('layer')]).toEqual([true, -6]);
  small.commands();
  small.sent.length = 0;
  expect(small.runner.moveSong(1)).toBe(true);
  expect([mutedNow()?.[0], small.runner.trimOf('layer')]).toEqual([false, 0]);
  expect(levels()).toContainEqual([0, -6]);
  expect(small.sent).toContainEqual([0xc2, 9]);
});

it('what stands otherwise than written is told with what moved it', () => {
  const knob = tie('knob', { kind: 'controller', controller: 20 }, target('layer', 'level'));
  small.runner.follow(planned([knob]), here);
  expect(small.runner.levelsNow()).toEqual({});
  pads(0xb9, 20, 0);
  small.runner.trim('layer', -3);
  expect(small.runner.levelsNow()).toEqual({
    layer: { level: -27, by: 'by Pads CC 20, trimmed' },
  });
  expect(cues.one.balance).toEqual({});
});
