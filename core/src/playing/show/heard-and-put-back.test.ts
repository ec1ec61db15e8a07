import { beforeEach, describe, expect, it } from 'vitest';
import { usualManner, type Tie } from '../../model/patch/tie.js';
import { newTreatment } from '../../model/patch/treatment.js';
import { songEntry } from '../../model/show/show.js';
import { COMMAND } from '../../sampler/command-ring.js';
import { taken } from '../../setlist/cue-differences.js';
import { steps } from '../../setlist/running-order.js';
import {
  cueOf,
  cues,
  patchOf,
  plan,
  show,
  SmallShow,
  song,
  songs,
} from '../../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show-plan.js';

let small: SmallShow;
beforeEach(() => void (small = new SmallShow()));
const tie = (id: string, controller: number, target: Tie['target']): Tie => ({
  ...{ id, place: 'keys1', message: { kind: 'controller', controller }, target },
  ...{ from: target.kind === 'layer' ? -30 : -1, to: target.kind === 'layer' ? 0 : 1 },
  ...usualManner({ kind: 'pedal' }),
});
const first = {
  ...patchOf('first', 'house'),
  treatments: [newTreatment('doubling', 'double', ['layer'])],
  controls: [
    tie('fader', 20, { kind: 'layer', layerId: 'layer', parameter: 'level' }),
    tie('send', 21, { kind: 'layer', layerId: 'layer', parameter: 'delay' }),
    tie('bright', 22, { kind: 'sound', patchSoundId: 'sound', parameter: 'brightness' }),
  ],
};
const two = {
  ...cues.two,
  balance: { layer: { level: -20, sends: { delay: -12 } } },
  treatments: { double: false },
  tempo: 72,
};
const tied: ShowPlan = {
  ...plan,
  patches: { ...plan.patches, first },
  cues: { ...plan.cues, two },
};
const at: NowPlaying = {
  entryId: 'entry',
  ...{ songId: 'song', cueId: 'two', patchId: 'first', soloed: new Set(), asCue: true },
  showtime: false,
};
const turn = (controller: number, value: number) =>
  small.host.receive('upper port', [0xb0, controller, value]);

describe('what is heard', () => {
  it('is the cue, until hands move something; then it is that', () => {
    small.runner.follow(tied, at);
    const heard = small.runner.heard();
    expect(heard?.layers['layer']).toMatchObject({ level: -20, sends: { delay: -12 } });
    expect([heard?.treatments, heard?.tempo]).toEqual([{ double: false }, 72]);
    const before = small.runner.changes;
    // The fader comes by where the cue has put it, and goes on.
    turn(20, 0);
    turn(20, 127);
    turn(22, 64 + 25);
    small.runner.switchTo({ kind: 'treatment', treatmentId: 'double' }, true);
    expect(small.runner.changes).toBeGreaterThan(before);
    const now = small.runner.heard();
    expect(now?.layers['layer'].level).toBe(0);
    expect(now?.treatments).toEqual({ double: true });
    expect(now?.controllers).toEqual([{ controller: 22, value: 89 }]);
    turn(21, 0);
    turn(21, 127);
    expect(small.runner.heard()?.layers['layer']).toMatchObject({ level: 0, sends: { delay: 0 } });
    expect(small.runner.heard()?.layers['layer'].sends.reverb).toBe(first.layers[0].sends.reverb);
    // An edit of something else leaves it all.
    const edited = { ...tied, patches: { ...tied.patches, first: { ...first, name: 'Edited' } } };
    small.runner.follow(edited, at);
    expect(small.runner.heard()?.controllers).toEqual([{ controller: 22, value: 89 }]);
    expect(small.runner.heard()?.layers['layer'].level).toBe(0);
  });

  it('taken over by the cue is recalled as it was, also after another patch', () => {
    small.runner.follow(tied, at);
    turn(20, 0);
    turn(20, 127);
    turn(22, 100);
    const heard = small.runner.heard();
    if (!heard) throw new Error('nothing is heard');
    const takenOver = { ...two, ...taken(heard, first, song.tempo) };
    const next = { ...tied, cues: { ...tied.cues, two: takenOver } };
    small.runner.follow(next, { ...at, cueId: 'three', patchId: 'second' });
    small.commands();
    small.runner.follow(next, at);
    expect(small.runner.heard()?.layers['layer'].level).toBe(0);
    expect(small.runner.heard()?.controllers).toEqual([{ controller: 22, value: 100 }]);
    const bright = small.ofKind(COMMAND.timbre).at(-1)?.[2];
    expect(bright).toBeCloseTo(-1 + (2 * 100) / 127, 9);
  });

  it('put back is the cue once more, over its seconds, with whatever hands had moved', () => {
    small.runner.follow(tied, at);
    turn(20, 0);
    turn(20, 127);
    turn(21, 0);
    turn(21, 127);
    turn(22, 127);
    small.runner.switchTo({ kind: 'treatment', treatmentId: 'double' }, true);
    small.commands();
    small.runner.recallAgain();
    const commands = small.commands();
    const of = (kind: number) => commands.filter(([command]) => command === kind);
    expect(of(COMMAND.level).map(([, , level, seconds]) => [level, seconds])).toEqual([[-20, 4]]);
    expect(
      of(COMMAND.send).map(([, , bus, level, seconds]) => [bus, level, seconds]),
    ).toContainEqual([1, -12, 4]);
    expect(of(COMMAND.timbre).at(-1)?.[2]).toBe(0);
    expect(small.runner.isOn({ kind: 'treatment', treatmentId: 'double' })).toBe(false);
    expect(small.runner.heard()).toEqual({
      ...small.runner.heard(),
      treatments: { double: false },
      controllers: [],
    });
  });
});

describe('a cue', () => {
  it('whose patch is gone plays the first of its song instead of nothing', () => {
    const gone = { ...cues.two, patchId: 'gone' };
    small.runner.follow({ ...plan, cues: { ...plan.cues, two: gone } }, at);
    expect(small.runner.current?.id).toBe('first');
    small.runner.follow({ ...plan, cues: { ...plan.cues, two: gone } }, { ...at, cueId: 'one' });
    small.runner.move(1);
    expect(small.runner.current?.id).toBe('first');
  });
});

describe('one song twice in a night', () => {
  const order = [
    songEntry('entry', 'song'),
    {
      ...songEntry('again', 'song'),
      tonight: { leftOut: ['one', 'two'], tempo: 132, sounding: { ...song.sounding, tonic: 5 } },
    },
  ];
  const night = { ...show, order };
  const twice: ShowPlan = {
    ...plan,
    show: night,
    steps: steps(order, songs, Object.values(cues)),
  };

  it('is gone through twice, each time as that place has it tonight', () => {
    small.runner.follow(twice, { ...at, cueId: 'three', patchId: 'second' });
    expect([small.player.clock.tempo, small.runner.current?.layers[0].shift]).toEqual([100, 2]);
    const reached: (string | null)[] = [];
    small.runner.onStep = ({ entryId, cueId }) => reached.push(entryId, cueId);
    small.runner.move(1);
    expect(reached).toEqual(['again', 'three']);
    expect([small.player.clock.tempo, small.runner.current?.layers[0].shift]).toEqual([132, 5]);
    small.runner.move(-1);
    expect(small.player.clock.tempo).toBe(100);
  });
});

it('a whole patch is tried out on every keyboard, and gives the old one back', () => {
  const narrow = patchOf('point', 'house');
  small.runner.follow(plan, at);
  small.runner.audition({ patch: narrow });
  expect(small.runner.current?.layers[0].source).toMatchObject({
    keyboards: 'any',
    channel: 'any',
  });
  expect(small.runner.heard()).toBeNull();
  small.runner.audition(null);
  expect(small.runner.current?.id).toBe('first');
  expect(cueOf('x', 0, 'first').balance).toEqual({});
});
