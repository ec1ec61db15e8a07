import { beforeEach, describe, expect, it } from 'vitest';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { newLayer } from '../model/patch/layer.js';
import { newTreatment } from '../model/patch/treatment.js';
import { COMMAND } from '../sampler/command-ring.js';
import { cueOf, devices, patchOf, plan, SmallShow } from '../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show/show-plan.js';

let small: SmallShow;
beforeEach(() => void (small = new SmallShow()));
const showtime: NowPlaying = {
  entryId: 'entry',
  songId: 'song',
  cueId: 'one',
  patchId: 'first',
  soloed: new Set(),
  asCue: true,
  showtime: false,
};
const first = patchOf('first', 'house');
/** The plan with another first patch, and cues beside those that are there. */
const planWith = (patch: Partial<typeof first>, cues: ShowPlan['cues'] = {}): ShowPlan => ({
  ...plan,
  patches: { ...plan.patches, first: { ...first, ...patch } },
  cues: { ...plan.cues, ...cues },
});
const fader: Tie = {
  id: 'fader',
  place: 'keys1',
  message: { kind: 'controller', controller: 20 },
  target: { kind: 'layer', layerId: 'layer', parameter: 'level' },
  from: -30,
  to: 0,
  ...usualManner({ kind: 'knob', knob: 0 }),
};
const turn = (value: number) => small.host.receive('upper port', [0xb0, 20, value]);

describe('whatever prepares the stage anew', () => {
  it('leaves a glide and the player’s wheel alone', () => {
    const wheel = cueOf('two', 1, 'first', {
      balance: { layer: { level: -20 } },
      fadeSeconds: 4,
      controllers: [{ controller: 1, value: 90 }],
    });
    const show = planWith({}, { two: wheel });
    small.runner.follow(show, showtime);
    small.runner.move(1);
    expect(small.ofKind(COMMAND.modulation).at(-1)?.[2]).toBeCloseTo(90 / 127);
    small.host.receive('upper port', [0xb0, 1, 30]);
    small.commands();
    // A favourite was marked: the library is another object.
    small.runner.follow({ ...show, sounds: new Map(show.sounds) }, { ...showtime, cueId: 'two' });
    expect(small.commands()).toEqual([]);
  });

  it('does not switch a treatment that a control has switched, and puts switches where they are at once', () => {
    const treatment = { ...newTreatment('chord', 'chord', ['layer']), on: true };
    const lever: Tie = {
      ...fader,
      target: { kind: 'treatment', treatmentId: 'chord' },
      from: 0,
      to: 1,
    };
    const tied = planWith({ controls: [lever], treatments: [treatment] });
    small.runner.follow(tied, { ...showtime, cueId: 'three' });
    turn(0);
    small.runner.follow(tied, showtime);
    expect(small.player.switchedTo('chord')).toBe(false);
  });
});

describe('pads', () => {
  const any = planWith({ layers: [newLayer('layer', 'Layer', 'sound')] });

  it('that are tied to nothing play no layer: “any” means keyboards', () => {
    small.runner.follow(any, showtime);
    small.host.receive('pad port', [0x99, 40, 100]);
    expect(small.ofKind(COMMAND.start)).toEqual([]);
    small.host.receive('upper port', [0x90, 40, 100]);
    expect(small.ofKind(COMMAND.start)).toHaveLength(1);
  });

  it('and keys that were struck before they were tied, or became show controls, still end what they began', () => {
    for (const becomes of ['tied', 'a show control']) {
      small = new SmallShow();
      small.runner.follow(any, showtime);
      small.host.receive('upper port', [0x90, 40, 100]);
      if (becomes === 'tied') {
        const pad: Tie = { ...fader, message: { kind: 'note', note: 40 } };
        small.runner.follow(
          planWith({ layers: any.patches.first.layers, controls: [pad] }),
          showtime,
        );
      } else
        small.host.setRig(devices, [
          { action: 'nextCue', place: 'keys1', message: { kind: 'note', note: 40 } },
        ]);
      small.host.receive('upper port', [0x80, 40, 64]);
      expect(small.ofKind(COMMAND.end), becomes).toHaveLength(1);
      expect(small.player.voicesHeld).toBe(0);
    }
  });
});

describe('held notes', () => {
  beforeEach(() => {
    small.runner.follow(plan, showtime);
    small.host.receive('upper port', [0x90, 60, 100, 0xb0, 64, 127]);
  });

  it('end when a borrowed keyboard that the rig does not know is unplugged', () => {
    small.player.allNotesOff();
    small.host.receive('borrowed', [0x90, 62, 100]);
    expect(small.player.voicesHeld).toBe(1);
    small.host.portGone('borrowed');
    expect(small.player.voicesHeld).toBe(0);
  });

  it.each([124, 125, 126, 127])('end with the mode message %d', (mode) => {
    small.host.receive('upper port', [0xb0, 64, 0, mode, 0]);
    expect(small.player.voicesHeld).toBe(0);
  });
});

describe('strips', () => {
  it('last for any number of layers that come and go in one patch', () => {
    for (let i = 0; i < 300; i++) {
      const layers = [0, 1, 2].map((n) => ({ ...newLayer(`layer ${i + n}`, 'L', 'sound') }));
      small.runner.follow(planWith({ layers }), showtime);
      small.host.receive('upper port', [0x90, 60, 100, 60, 0]);
      const starts = small.ofKind(COMMAND.start);
      expect(starts.map(([, , strip]) => strip >= 0 && strip < 127)).toEqual([true, true, true]);
      expect(new Set(starts.map(([, , strip]) => strip)).size).toBe(3);
    }
  });

  it('take one record for a bend, however many there are', () => {
    for (let i = 0; i < 40; i++)
      small.runner.follow(planWith({ layers: [newLayer(`l${i}`, 'L', 'sound')] }), showtime);
    small.commands();
    small.host.receive('upper port', [0xe0, 0, 127]);
    expect(small.commands()).toHaveLength(1);
  });
});

describe('an outside module', () => {
  const outside = (changes = {}) =>
    patchOf('first', 'outside').layers.map((layer) => ({ ...layer, ...changes }));
  const play = (layers: ReturnType<typeof outside>) => {
    small.runner.follow(planWith({ ...patchOf('first', 'outside'), layers }), showtime);
    const sent = small.sent.splice(0);
    return sent
      .filter(([status, controller]) => status === 0xb2 && controller === 7)
      .map(([, , v]) => v);
  };

  it('keeps its volume when another layer of its channel is muted, and softer ones strike more gently', () => {
    const [one] = outside({ level: 0 });
    expect(play([one, { ...one, id: 'two', muted: true }])).toEqual([127]);
    expect(
      play([one, { ...one, id: 'two', level: -20, velocities: { ...one.velocities, high: 50 } }]),
    ).toEqual([]);
    small.host.receive('upper port', [0x90, 60, 40]);
    const struck = small.sent.map(([, , velocity]) => velocity);
    expect(struck).toEqual([40, Math.round(40 * Math.sqrt(10 ** (-20 / 20)))]);
  });

  it('keeps the level that a hand has given it when the patch is only told again', () => {
    const layers = outside({ level: 0 });
    const show = planWith({ ...patchOf('first', 'outside'), layers, controls: [fader] });
    small.runner.follow(show, showtime);
    turn(0);
    small.sent.length = 0;
    small.runner.follow({ ...show, sounds: new Map(show.sounds) }, showtime);
    expect(small.sent.filter(([, controller]) => controller === 7)).toEqual([]);
  });
});
