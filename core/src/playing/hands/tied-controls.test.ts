import { beforeEach, describe, expect, it } from 'vitest';
import { newChooser } from '../../model/patch/chooser.js';
import type { ControlTarget } from '../../model/patch/control-target.js';
import type { Patch } from '../../model/patch/patch.js';
import { usualManner, type Tie } from '../../model/patch/tie.js';
import { newTreatment } from '../../model/patch/treatment.js';
import { layer, patchOf } from '../../testing/fixtures.js';
import { devices } from '../../testing/small-show.js';
import { jobsNow } from '../../ties/in-force.js';
import type { ControlOutput } from './control-output.js';
import { TiedControls } from './tied-controls.js';

const KEYS = devices.findIndex(({ place }) => place === 'keys1');
const PADS = devices.findIndex(({ place }) => place === 'pads1');
const layers = [layer('a', { level: -6, pan: 0 }), layer('b', { level: -9 })];
const plain: Patch = {
  ...patchOf(layers),
  treatments: [newTreatment('chord', 'chord', ['a'])],
  choosers: [newChooser('hand', 'Hand', layers)],
};
const levelOf = (layerId: string): ControlTarget => ({
  ...{ kind: 'layer', layerId, parameter: 'level' },
});
const pan: ControlTarget = { kind: 'layer', layerId: 'a', parameter: 'pan' };
const mute: ControlTarget = { kind: 'layer', layerId: 'a', parameter: 'mute' };
const bright: ControlTarget = { kind: 'sound', patchSoundId: 'sound-a', parameter: 'brightness' };
const octave: ControlTarget = { kind: 'octave', place: 'keys1' };
const trim: ControlTarget = { kind: 'letter', layer: 0, parameter: 'trim' };
const knob = (number: number, target: ControlTarget, more: Partial<Tie> = {}): Tie => ({
  ...{ id: `knob ${number}`, place: 'keys1', target, from: 0, to: 127 },
  ...{ message: { kind: 'controller', controller: number } },
  ...usualManner({ kind: 'controller', controller: 20 }),
  ...more,
});
const pad = (note: number, target: ControlTarget, more: Partial<Tie> = {}): Tie =>
  knob(note, target, {
    ...{ id: `pad ${note}`, place: 'pads1', message: { kind: 'note', note }, pickUp: false },
    ...more,
  });

/** What was asked of the output, and where things stand there. */
let asked: unknown[][];
let on: Set<string>;
let standing: Map<string, number>;
let choice: number;
let tied: TiedControls;
const nameOf = (target: ControlTarget) => JSON.stringify(target);
beforeEach(() => {
  asked = [];
  on = new Set();
  standing = new Map();
  choice = 0;
  const output: ControlOutput = {
    moveLayer: (id, what, { value }) => void asked.push(['layer', id, what, value]),
    moveSound: (id, part, { value }) => void asked.push(['sound', id, part, value]),
    isOn: (target) => on.has(nameOf(target)),
    switchTo: (target, isOn) => {
      asked.push(['switch', isOn]);
      if (isOn) on.add(nameOf(target));
      else on.delete(nameOf(target));
    },
    untied: (target) => void asked.push(['untied', target.kind]),
    standingOf: (target) => standing.get(nameOf(target)) ?? null,
    put: (target, value) => {
      asked.push(['put', target.kind, value]);
      standing.set(nameOf(target), value);
    },
    press: (target, time) => void asked.push(['press', target.kind, time]),
    pickedBy: () => choice,
    pick: (_chooser, picked) => {
      asked.push(['pick', picked]);
      choice = picked;
    },
  };
  tied = new TiedControls(output);
  tied.setSources({ devices, show: null, rig: null });
});
const take = (controls: Tie[], more: Partial<Patch> = {}, song?: Tie[]) => {
  tied.take({ ...plain, controls, ...more }, song);
};
const turn = (number: number, ...values: number[]) =>
  values.map((value) => tied.message(KEYS, 0xb0, number, value, 3)).at(-1);
const hit = (note: number, velocity: number) => tied.message(PADS, 0x90, note, velocity, 3);
/** What was asked since, a line each; and the numbers of it, in thousandths. */
const told = () => asked.splice(0).map((row) => row.join(' '));
const moved = () => asked.splice(0).map((row) => thousandths(row.at(-1) as number));
const thousandths = (value: number) => Math.round(value * 1000) / 1000 + 0;
const recalled = () =>
  tied.positionsToRecall.map(({ controller, value }) => `${controller} at ${value}`);
const jobs = (controls: Tie[]) =>
  jobsNow({ devices, patch: { ...plain, controls }, song: null, show: null, rig: null });

describe('a knob', () => {
  it('moves its setting once the hand has come by, and says where it stands', () => {
    const tie = knob(20, levelOf('a'), { from: -127, to: 0 });
    take([tie]);
    const [job] = jobs([tie]);
    expect(tied.stateOf(job)).toEqual({ position: -1, waits: true, value: -6 });
    turn(20, 100);
    expect([told(), tied.stateOf(job)]).toEqual([[], { position: 100, waits: true, value: -6 }]);
    const before = tied.changes;
    expect(turn(20, 125)).toBe(false);
    expect(told()).toEqual(['layer a level -2']);
    expect(tied.changes).toBeGreaterThan(before);
    expect(tied.stateOf(job)).toEqual({ position: 125, waits: false, value: -2 });
    expect([...tied.movedSettings]).toEqual([{ target: levelOf('a'), value: -2, tie }]);
    turn(20, 10);
    expect(told()).toEqual(['layer a level -117']);
    // A place that the rig has not stands nowhere.
    for (const sent of [null, { device: 99, kind: 0xb0, number: 20 }])
      expect(tied.stateOf({ ...job, sent })).toEqual({ position: -1, waits: false, value: null });
  });

  it('that presses or picks has no value, and switches or presses from 64 on', () => {
    const press: ControlTarget = { kind: 'show', action: 'click' };
    const pick: ControlTarget = { kind: 'choose', chooser: 0, picks: 'position' };
    const controls = [knob(20, press), knob(21, pick), knob(22, mute)];
    for (const target of [press, pick]) standing.set(nameOf(target), 5);
    take(controls);
    expect(jobs(controls).map((job) => tied.stateOf(job).value)).toEqual([null, null, false]);
    for (const value of [63, 64]) for (const number of [20, 22]) turn(number, value);
    expect(told()).toEqual(['press show 3', 'switch true']);
    // What a chooser has not got is not picked.
    take([knob(21, { ...pick, chooser: 3 }), pad(41, { ...pick, chooser: 3, picks: 'next' })]);
    told();
    turn(21, 100);
    hit(41, 100);
    expect(told()).toEqual([]);
  });

  it('switches a thing on from 64, and only when that changes it', () => {
    take([knob(20, mute)]);
    turn(20, 10);
    expect(told()).toEqual([]);
    turn(20, 64, 100, 63, 0);
    expect(told()).toEqual(['switch true', 'switch false']);
    turn(20, 100);
    expect(tied.stateOf(jobs([knob(20, mute)])[0]).value).toBe(true);
  });

  it('that is pressed acts as it goes over the middle, once each time', () => {
    take([knob(20, levelOf('a'), { acts: 'turnsOver', from: -20, to: 0 })]);
    turn(20, 10, 64, 100, 63, 127);
    expect(told()).toEqual(['layer a level -20', 'layer a level 0']);
  });

  it('of two controllers follows both of its numbers', () => {
    take([knob(20, levelOf('a'), { reads: 'fine', pickUp: false, from: 0, to: 127 })]);
    turn(52, 9);
    expect(told()).toEqual([]);
    turn(20, 64);
    turn(52, 127);
    const of = (whole: number) => thousandths((whole * 127) / 16_383);
    expect(moved()).toEqual([of(64 * 128), of(64 * 128 + 127)]);
    // Down to nothing too; and what lies above the two halves has no part in it.
    turn(20, 0);
    turn(52, 1, 0);
    expect(told().at(-1)).toBe('layer a level 0');
    tied.recall([]);
    told();
    turn(84, 3);
    tied.message(KEYS, 0xe0, 52, 64, 3);
    expect(told()).toEqual([]);
    turn(20, 64);
    turn(52, 3);
    told();
    take([knob(20, levelOf('a'), { reads: 'fine', pickUp: false })], { id: 'yet another' });
    expect(moved()).toEqual([of(64 * 128 + 3)]);
    // Above the first 32 there is no partner; one that nobody reads finely is another controller.
    take([knob(20, levelOf('a'), { pickUp: false })], { id: 'another' });
    told();
    turn(52, 3);
    expect(told()).toEqual([]);
    const [job] = jobs([knob(20, levelOf('a'), { reads: 'fine' })]);
    expect(thousandths(tied.stateOf(job).position)).toBe(of(64 * 128 + 3));
  });
});

describe('an endless knob', () => {
  const endless = (target: ControlTarget, more: Partial<Tie> = {}) =>
    knob(20, target, { reads: 'offset', from: -127, to: 0, ...more });

  it('goes on by its steps from where the setting is, as far as its ends', () => {
    take([endless(levelOf('a'))]);
    turn(20, 66, 63, 64, 127, 0, 0);
    expect(moved()).toEqual([-4, -5, 0, -64, -127]);
  });

  it('moves octaves one by one, switches by its direction, and presses with each turn', () => {
    standing.set(nameOf(octave), 0);
    take([endless(octave, { from: -1, to: 1 })]);
    turn(20, 70, 70, 60, 60, 60);
    expect(moved()).toEqual([1, 1, 0, -1, -1]);
    take([endless(mute)]);
    told();
    turn(20, 65, 65, 63);
    expect(told()).toEqual(['switch true', 'switch false']);
    take([endless({ kind: 'show', action: 'click' })]);
    told();
    turn(20, 65, 63, 64);
    expect(told()).toEqual(['press show 3', 'press show 3']);
  });

  it('moves nothing that is not there', () => {
    take([endless(trim)]);
    turn(20, 70);
    expect(told()).toEqual([]);
    standing.set(nameOf(trim), -3);
    turn(20, 65);
    expect(moved()).toEqual([-2]);
  });
});

describe('a pad', () => {
  it('is used up, whether it goes down or comes up, and nothing else is', () => {
    take([pad(41, mute)]);
    expect([hit(41, 90), hit(41, 0), tied.message(PADS, 0x80, 41, 0)]).toEqual([true, true, true]);
    expect([hit(42, 90), tied.message(KEYS, 0x90, 41, 90), turn(41, 90)]).toEqual([
      ...[false, false, false],
    ]);
    expect(told()).toEqual(['switch true']);
    hit(41, 90);
    // Struck anew before it was let go it acts again.
    hit(41, 80);
    expect(told()).toEqual(['switch false', 'switch true']);
  });

  it('holds a switch or a setting as long as it is down', () => {
    take([
      pad(41, mute, { acts: 'holds' }),
      pad(42, levelOf('b'), { acts: 'holds', from: -30, to: 0 }),
    ]);
    hit(41, 90);
    hit(41, 0);
    hit(41, 0);
    expect(told()).toEqual(['switch true', 'switch false']);
    on.add(nameOf(mute));
    hit(41, 90);
    expect(told()).toEqual(['switch true']);
    hit(42, 1);
    hit(42, 0);
    expect(told()).toEqual(['layer b level 0', 'layer b level -30']);
  });

  it('sets a value by how hard it is struck, and by steps from where it is', () => {
    take([
      pad(41, levelOf('b'), { from: -127, to: 0 }),
      pad(42, pan, { acts: 'steps', from: -1, to: 1 }),
    ]);
    hit(41, 100);
    expect(told()).toEqual(['layer b level -27']);
    hit(41, 0);
    for (let i = 0; i < 10; i++) hit(42, i % 2 ? 0 : 90);
    expect(moved()).toEqual([0.25, 0.5, 0.75, 1, 1]);
  });

  it('presses what can be pressed, at its time, and does nothing as it comes up', () => {
    take([
      pad(41, { kind: 'goTo', songId: 'song', cueId: null }, { acts: 'holds' }),
      pad(42, { kind: 'choose', chooser: 0, picks: 'next' }),
      pad(43, { kind: 'choose', chooser: 0, picks: 1 }),
      pad(44, { kind: 'choose', chooser: 5, picks: 1 }),
      pad(45, { kind: 'choose', chooser: 0, picks: 'position' }),
    ]);
    const before = tied.changes;
    for (const note of [41, 42, 43, 44]) {
      hit(note, 90);
      hit(note, 0);
    }
    expect(told()).toEqual(['press goTo 3', 'pick 1', 'pick 1']);
    expect(tied.changes).toBeGreaterThan(before);
    hit(45, 10);
    expect(told()).toEqual(['pick 0']);
  });

  it('tells that something has changed, also by what a chooser picks', () => {
    take([pad(41, mute), knob(23, mute), knob(24, { kind: 'choose', chooser: 0, picks: 'next' })]);
    const rises = (act: () => unknown) => {
      const before = tied.changes;
      act();
      return tied.changes > before;
    };
    expect(rises(() => hit(41, 90))).toBe(true);
    expect(rises(() => turn(23, 127))).toBe(true);
    expect(rises(() => turn(24, 127))).toBe(true);
    expect(rises(() => tied.recall([]))).toBe(false);
    take([pad(41, mute)]);
    expect(rises(() => tied.recall([]))).toBe(true);
  });
});

describe('another patch', () => {
  it('has what does not wait put where the hands are, and the rest waits', () => {
    const controls = [
      knob(20, levelOf('a'), { pickUp: false, from: -127, to: 0 }),
      knob(21, levelOf('b'), { from: -127, to: 0 }),
      knob(22, bright, { pickUp: false, from: -1, to: 1 }),
      knob(23, mute, { pickUp: false }),
      pad(41, pan, { from: -1, to: 1 }),
      knob(24, levelOf('b'), { pickUp: false, reads: 'offset' }),
    ];
    for (const number of [20, 21, 22, 23, 24]) turn(number, 127);
    hit(41, 90);
    take(controls);
    expect(told()).toEqual(['layer a level 0', 'sound sound-a brightness 1', 'switch true']);
    expect(recalled()).toEqual(['22 at 127']);
    turn(21, 126);
    expect(told()).toEqual([]);
    // What nobody has moved yet tears nothing away.
    take([knob(30, levelOf('a'), { pickUp: false })], { id: 'second' });
    expect(told()).toEqual([]);
    expect([...tied.movedSettings]).toEqual([]);
    tied.take(null);
    turn(20, 5);
    expect(told()).toEqual([]);
  });

  it('is not told that what it had tied is untied, but the same patch is', () => {
    take([pad(41, mute), knob(20, levelOf('a'))]);
    take([], { id: 'second' });
    expect(told()).toEqual([]);
    take([pad(41, mute), pad(42, { kind: 'treatment', treatmentId: 'chord' })], { id: 'second' });
    take([pad(42, mute)], { id: 'second' });
    expect(told()).toEqual(['untied treatment']);
    take([], { id: 'second' });
    expect(told()).toEqual(['untied layer']);
  });
});

describe('the same patch, edited', () => {
  const tie = knob(20, levelOf('a'), { from: -127, to: 0 });

  it('leaves what hands have moved, until the desk sets it', () => {
    take([tie]);
    turn(20, 127, 121, 100);
    told();
    take([tie], { name: 'edited' });
    turn(20, 101);
    expect(told()).toEqual(['layer a level -26']);
    take([tie], { layers: [{ ...layers[0], level: -60 }, layers[1]] });
    expect([...tied.movedSettings]).toEqual([]);
    turn(20, 102);
    expect(told()).toEqual([]);
    turn(20, 60);
    expect(told()).toEqual(['layer a level -67']);
  });

  it('does not have to be picked up if it is not to wait', () => {
    const follows = { ...tie, pickUp: false };
    take([follows]);
    turn(20, 100);
    take([follows], { layers: [{ ...layers[0], level: -60 }, layers[1]] });
    told();
    turn(20, 101);
    expect(told()).toEqual(['layer a level -26']);
  });

  it('has a tie that is new wait where its setting is', () => {
    turn(21, 0);
    take([tie]);
    take([tie, knob(21, levelOf('b'), { from: -127, to: 0 })]);
    turn(21, 5);
    expect(told()).toEqual([]);
    turn(21, 120);
    expect(told()).toEqual(['layer b level -7']);
    // Switches and choices do not wait.
    take([
      knob(22, mute, { pickUp: true }),
      knob(23, { kind: 'choose', chooser: 0, picks: 'position' }),
    ]);
    turn(22, 127);
    turn(23, 127);
    expect(told()).toEqual(['switch true', 'pick 1']);
  });
});

describe('a cue', () => {
  const controls = [
    knob(20, levelOf('a'), { from: -127, to: 0 }),
    knob(21, bright, { from: -1, to: 1 }),
    knob(22, pan, { from: -1, to: 1, pickUp: false }),
    knob(23, mute),
    pad(20, levelOf('b'), { id: 'pad' }),
  ];

  it('that puts a controller somewhere has what is tied to it follow, until the hand picks it up', () => {
    take(controls);
    told();
    const set = [20, 23, 99].map((controller, at) => ({ controller, value: [27, 127, 5][at] }));
    tied.recall(set);
    expect(told()).toEqual(['layer a level -100', 'switch true']);
    expect(recalled()).toEqual(['20 at 27', '23 at 127', '99 at 5']);
    turn(20, 90);
    expect(told()).toEqual([]);
    turn(20, 20);
    expect(told()).toEqual(['layer a level -107']);
    // What stands somewhere by the cue is followed by the hand.
    const before = tied.changes;
    turn(99, 6);
    expect(tied.changes).toBeGreaterThan(before);
    expect(recalled().at(-1)).toBe('99 at 6');
    turn(98, 6);
    expect(tied.positionsToRecall).toHaveLength(3);
    // Whose number is another thing’s is another thing.
    tied.message(KEYS, 0xe0, 99, 7, 3);
    expect(recalled().at(-1)).toBe('99 at 6');
  });

  it('recalls controllers in their order, and only what says one whole number', () => {
    const free = { from: -1, to: 1, pickUp: false };
    take([
      knob(22, pan, free),
      knob(21, bright, free),
      knob(20, { ...bright, parameter: 'attack' }, { ...free, reads: 'fine' }),
      knob(
        19,
        { ...bright, parameter: 'vibrato' },
        {
          ...free,
          message: { kind: 'pressure' },
        },
      ),
    ]);
    tied.message(KEYS, 0xd0, 30, 0, 3);
    turn(20, 64);
    turn(22, 3);
    turn(21, 5);
    expect(told()).toHaveLength(4);
    expect(recalled()).toEqual(['21 at 5', '22 at 3']);
  });

  it('has each setting that goes back wait where it goes itself', () => {
    const ties = [
      knob(20, levelOf('a'), { from: -127, to: 0 }),
      knob(21, levelOf('b'), { from: -127, to: 0 }),
    ];
    take(ties);
    take(ties);
    for (const number of [20, 21]) for (const value of [127, 0, 60]) turn(number, value);
    tied.recall([]);
    told();
    // −6 and −9 dB.
    turn(20, 119);
    turn(21, 116);
    expect(told()).toEqual([]);
    turn(20, 122);
    turn(21, 117);
    expect(told()).toEqual(['layer a level -5', 'layer b level -10']);
  });

  it('puts timbre and place back that hands had moved, and has them wait', () => {
    take(controls);
    take(controls);
    turn(21, 64, 127);
    turn(22, 127);
    turn(20, 127, 100);
    told();
    expect(recalled()).toEqual(['21 at 127', '22 at 127']);
    tied.recall([]);
    expect(told()).toEqual(['sound sound-a brightness 0', 'layer a pan 0']);
    expect([[...tied.movedSettings], tied.positionsToRecall]).toEqual([[], []]);
    turn(21, 120);
    turn(20, 99);
    expect(told()).toEqual([]);
    turn(22, 126);
    expect(told()).toHaveLength(1);
  });

  it('of another patch takes nothing back that hands have just put there', () => {
    turn(22, 127);
    take(controls);
    expect(told()).toEqual(['layer a pan 1']);
    tied.recall([]);
    expect(told()).toEqual([]);
    expect(recalled()).toEqual(['22 at 127']);
    tied.take({ ...plain, controls });
    tied.recall([]);
    expect(told()).toEqual(['layer a pan 0']);
  });
});

describe('an octave that was moved', () => {
  it('goes back when nothing moves it any more', () => {
    const rig = { ties: [pad(41, octave, { acts: 'steps', from: -1, to: 1 })] };
    standing.set(nameOf(octave), 0);
    tied.setSources({ devices, show: null, rig });
    take([]);
    hit(41, 90);
    expect(told()).toEqual(['put octave 1']);
    take([], { id: 'second' });
    tied.setSources({ devices, show: null, rig });
    expect(told()).toEqual([]);
    tied.setSources({ devices, show: null, rig: { ties: [] } });
    expect(told()).toEqual(['put octave 0']);
    tied.setSources({ devices, show: null, rig: null });
    expect(told()).toEqual([]);
  });
});

describe('whose a control is', () => {
  it('is the patch’s or the song’s before the show’s', () => {
    take([pad(41, mute)], {}, [knob(25, levelOf('a'))]);
    expect(tied.isNearer(PADS, 0x99, 41)).toBe(true);
    expect(tied.isNearer(PADS, 0x89, 41)).toBe(true);
    expect(tied.isNearer(PADS, 0x99, 42)).toBe(false);
    expect(tied.isNearer(KEYS, 0xb0, 25)).toBe(true);
    take([], {}, []);
    expect(tied.isNearer(KEYS, 0xb0, 25)).toBe(false);
  });

  it('does not matter to where it stands: what something else has used is known', () => {
    tied.seen(KEYS, 0xb3, 20, 100);
    tied.seen(99, 0xb0, 20, 1);
    take([knob(20, levelOf('a'), { pickUp: false, from: -127, to: 0 })]);
    expect(told()).toEqual(['layer a level -27']);
    // A message from what is no device of the rig moves nothing.
    expect(tied.message(99, 0xb0, 20, 5)).toBe(false);
    expect(told()).toEqual([]);
  });

  it('changes with the sources alone, and what was tied already goes on waiting or not', () => {
    const rig = { ties: [knob(20, trim, { from: -12, to: 12 })] };
    standing.set(nameOf(trim), 0);
    tied.setSources({ devices, show: null, rig });
    take([]);
    turn(20, 63, 64, 127);
    expect(told().at(-1)).toBe('put letter 12');
    const sources = { devices, show: { controls: [] }, rig };
    tied.setSources(sources);
    // Taken anew it waits where it stands, which is where the hand is.
    turn(20, 126);
    expect(told()).toHaveLength(1);
    standing.set(nameOf(trim), -12);
    tied.setSources({ ...sources });
    turn(20, 120);
    expect(told()).toHaveLength(1);
    tied.setSources({ ...sources, rig: { ties: [...rig.ties] } });
    turn(20, 119, 0);
    expect(told().length).toBeGreaterThan(0);
  });
});

describe('a setting that stands beyond the travel of its tie', () => {
  it('is picked up by a fader at the nearer end', () => {
    for (const [level, from, value] of [
      [-60, 127, -24],
      [3, 0, 0],
    ]) {
      const own = [layer('a', { level }), layers[1]];
      const tie = knob(20, levelOf('a'), { from: -24, to: 0, pickUp: true });
      tied.take(null);
      take([tie], { layers: own, id: `patch ${level}` });
      turn(20, from);
      turn(20, 64);
      expect(told()).toEqual([]);
      turn(20, value === 0 ? 127 : 0);
      expect(told()).toEqual([`layer a level ${value}`]);
      turn(20, 64);
      expect(told()).toHaveLength(1);
    }
  });

  it('goes towards it step by step with an endless knob, and never leaps or goes away', () => {
    const tie = knob(20, levelOf('a'), { from: -24, to: 0, reads: 'twos' });
    const from = (level: number) => {
      tied.take(null);
      take([tie], { layers: [layer('a', { level }), layers[1]], id: `patch ${level}` });
    };
    from(-40);
    turn(20, 1, 127);
    expect(moved()).toEqual([-39.811, -39.811]);
    from(6);
    turn(20, 1, 127);
    expect(moved()).toEqual([6, 5.811]);
  });

  it('moves with the steps that were rounded away', () => {
    standing.set(nameOf(trim), 0);
    const tie = knob(20, trim, { from: -3, to: 3, reads: 'twos' });
    take([tie]);
    const put = standing.set.bind(standing);
    standing.set = (name, value) => put(name, Math.round(value * 10) / 10);
    for (let i = 0; i < 21; i++) turn(20, 1);
    expect(standing.get(nameOf(trim))).toBeCloseTo(1, 1);
  });
});
