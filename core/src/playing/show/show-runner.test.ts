import { beforeEach, describe, expect, it } from 'vitest';
import type { ControlTarget } from '../../model/patch/control-target.js';
import { newChooser } from '../../model/patch/chooser.js';
import { PLAIN_ZONE } from '../../model/library/sample-zone.js';
import type { Sound } from '../../model/library/sound.js';
import { newLayer } from '../../model/patch/layer.js';
import { newPatchSound, type Patch } from '../../model/patch/patch.js';
import { usualManner, type Tie } from '../../model/patch/tie.js';
import { newTreatment } from '../../model/patch/treatment.js';
import type { Night } from '../../model/show/night.js';
import { songEntry } from '../../model/show/show.js';
import { COMMAND } from '../../sampler/command-ring.js';
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
import { keys, velocities } from '../../testing/fixtures.js';
import type { NowPlaying, ShowPlan } from './show-plan.js';

let small: SmallShow;
beforeEach(() => void (small = new SmallShow()));
const cueOne: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: false },
};
const desk: NowPlaying = { ...cueOne, asCue: false };
const layers = [
  { ...newLayer('layer', 'Layer', 'sound'), level: -6 },
  { ...newLayer('other', 'Other', 'sound'), muted: true },
];
const first: Patch = {
  ...patchOf('first', 'house'),
  layers,
  treatments: [
    newTreatment('doubling', 'double', ['layer']),
    { ...newTreatment('chord', 'chord', ['other']), on: false },
  ],
};
const planned = (patch: Partial<Patch> = {}, more: Partial<ShowPlan> = {}): ShowPlan => ({
  ...plan,
  patches: { ...plan.patches, first: { ...first, ...patch } },
  ...more,
});
const notes = (key = 60) => {
  small.commands();
  small.host.receive('upper port', [0x90, key, 90]);
  const found = small.ofKind(COMMAND.start).map((command) => command[6]);
  small.host.receive('upper port', [0x80, key, 0]);
  return found.sort((a, b) => a - b);
};
const levels = () => small.ofKind(COMMAND.level).map(([, , level, seconds]) => [level, seconds]);

describe('whether a thing of the patch is on', () => {
  const lift = (layerId: string): ControlTarget => ({
    ...{ kind: 'layer', layerId, parameter: 'lift' },
  });
  const mute = (layerId: string): ControlTarget => ({
    ...{ kind: 'layer', layerId, parameter: 'mute' },
  });
  const solo = (layerId: string): ControlTarget => ({
    ...{ kind: 'layer', layerId, parameter: 'solo' },
  });
  const treatment = (treatmentId: string): ControlTarget => ({ kind: 'treatment', treatmentId });
  const isOn = (target: ControlTarget) => small.runner.isOn(target);

  it('is as the patch has it, until it is switched', () => {
    expect([lift('layer'), mute('layer'), solo('layer'), treatment('double')].map(isOn)).toEqual([
      ...[false, false, false, false],
    ]);
    const lifted = { ...layers[0], lift: { ...layers[0].lift, on: true } };
    small.runner.follow(planned({ layers: [lifted, layers[1]] }), desk);
    expect([lift('layer'), lift('other'), lift('nobody')].map(isOn)).toEqual([true, false, false]);
    expect([mute('layer'), mute('other'), mute('nobody')].map(isOn)).toEqual([false, true, false]);
    expect([treatment('double'), treatment('chord'), treatment('nobody')].map(isOn)).toEqual([
      ...[true, false, false],
    ]);
    expect(isOn({ kind: 'letter', layer: 0, parameter: 'level' })).toBe(false);
    small.runner.switchTo(lift('layer'), false);
    small.runner.switchTo(mute('layer'), true);
    small.runner.switchTo(solo('other'), true);
    small.runner.switchTo(treatment('chord'), true);
    expect([lift('layer'), mute('layer'), solo('other'), treatment('chord')].map(isOn)).toEqual([
      ...[false, true, true, true],
    ]);
    expect(isOn(solo('layer'))).toBe(false);
  });

  it('is heard, and let go of when nothing could bring it back', () => {
    small.runner.follow(planned({ treatments: [] }), desk);
    expect([isOn(treatment('double')), isOn(treatment('chord'))]).toEqual([false, false]);
    expect(notes()).toHaveLength(1);
    small.runner.switchTo(mute('other'), false);
    expect(notes()).toHaveLength(2);
    small.runner.switchTo(solo('other'), true);
    expect(notes()).toHaveLength(1);
    small.runner.switchTo(mute('layer'), true);
    small.runner.switchTo(solo('other'), false);
    expect(notes()).toHaveLength(1);
    small.runner.switchTo(mute('nobody'), true);
    small.runner.letGoOf(mute('layer'));
    small.runner.letGoOf(mute('other'));
    small.runner.letGoOf(treatment('double'));
    small.runner.recallAgain();
    expect(notes()).toHaveLength(1);
    expect([mute('layer'), mute('other')].map(isOn)).toEqual([false, true]);
  });

  it('solos with those that the desk solos', () => {
    small.runner.follow(planned({ layers: [layers[0], { ...layers[1], muted: false }] }), {
      ...desk,
      soloed: new Set(['other']),
    });
    expect(notes()).toHaveLength(1);
    small.runner.switchTo(solo('layer'), true);
    expect(notes()).toHaveLength(3);
  });
});

describe('what is heard', () => {
  it('is nothing while nothing plays, or something is tried out', () => {
    expect([small.runner.heard(), small.runner.current, small.runner.night.trims]).toEqual([
      ...[null, null, []],
    ]);
    small.runner.follow(planned(), { ...desk, patchId: null });
    expect([small.runner.heard(), small.runner.current]).toEqual([null, null]);
    small.runner.follow(planned(), desk);
    expect(small.runner.heard()?.patchId).toBe('first');
    small.runner.audition({ sound: newPatchSound('try', 'house'), transpose: 0 });
    expect(small.runner.heard()).toBeNull();
    small.runner.audition(null);
    expect(small.runner.heard()?.patchId).toBe('first');
  });

  it('is what hands have switched and picked', () => {
    const chooser = newChooser('chooser', 'Chooser', layers);
    const quick = new Map([['song', { ...song, tempo: 93 }]]);
    small.runner.follow(planned({ choosers: [chooser] }, { songs: quick }), desk);
    expect(small.runner.heard()).toMatchObject({
      layers: { layer: { muted: false, lift: false }, other: { muted: true } },
      treatments: { double: true, chord: false },
      choices: { chooser: 0 },
      tempo: 93,
    });
    for (const target of [
      { kind: 'layer', layerId: 'layer', parameter: 'lift' },
      { kind: 'layer', layerId: 'layer', parameter: 'mute' },
      { kind: 'treatment', treatmentId: 'chord' },
    ] as ControlTarget[])
      small.runner.switchTo(target, true);
    small.player.pick('chooser', 1);
    expect(small.runner.heard()).toMatchObject({
      layers: { layer: { muted: true, lift: true }, other: { muted: true } },
      treatments: { double: true, chord: true },
      choices: { chooser: 1 },
    });
  });

  it('of a patch without its song goes at the usual tempo, and untransposed', () => {
    const stray = { ...patchOf('stray', 'house'), songId: 'nowhere' };
    const whole = planned({}, { patches: { stray } });
    small.runner.follow(whole, { ...desk, patchId: 'stray' });
    expect([small.runner.heard()?.tempo, small.player.clock.tempo, notes()]).toEqual([
      ...[100, 100, [60]],
    ]);
  });
});

describe('following the desk', () => {
  it('plays anew only what is otherwise', () => {
    const whole = planned();
    small.runner.follow(whole, cueOne);
    const { changes } = small.runner;
    small.commands();
    small.runner.follow(whole, { ...cueOne, soloed: new Set() });
    small.runner.follow({ ...whole, cues: { ...whole.cues } }, cueOne);
    expect([small.runner.changes, small.commands()]).toEqual([changes, []]);
    small.runner.follow(planned({ layers: [{ ...layers[0], level: -7 }, layers[1]] }), cueOne);
    expect(small.runner.changes).toBeGreaterThan(changes);
    expect(levels()).toEqual([[-7, 0.03]]);
  });

  it('knows where a kit of recordings has its pieces, on the desk and in Showtime', () => {
    const kick = {
      ...{ ...PLAIN_ZONE, id: 'kick', recordingId: 'a'.repeat(64), root: 60, piece: 36 },
      ...{ keys: keys(60, 60), velocities: velocities(1, 127) },
    };
    const house = plan.sounds.get('house') ?? expect.fail();
    const kit: Sound = {
      ...{ ...house, id: 'kit', category: 'drums and percussion' },
      origin: { kind: 'recordings', dynamics: 0, zones: [kick] },
    };
    const whole = planned(
      { sounds: [newPatchSound('sound', 'kit')] },
      { sounds: new Map([...plan.sounds, ['kit', kit]]) },
    );
    for (const place of [desk, cueOne]) {
      small.runner.follow(whole, place);
      expect(small.runner.current?.layers[0].kit?.[36]).toBe(60);
    }
  });

  it('fades to a cue over its seconds, else over the show’s; an edit is heard at once', () => {
    const two = { ...cues.two, fadeSeconds: null };
    const whole = planned(
      {},
      { cues: { ...plan.cues, two }, show: { ...show, defaultFadeSeconds: 7 } },
    );
    small.runner.follow(whole, cueOne);
    levels();
    small.runner.follow(whole, { ...cueOne, cueId: 'two' });
    expect(levels()[0]).toEqual([-20, 7]);
    const edited = { ...two, balance: { layer: { level: -21 } } };
    small.runner.follow(
      { ...whole, cues: { ...whole.cues, two: edited } },
      { ...cueOne, cueId: 'two' },
    );
    expect(levels()).toEqual([[-21, 0.03]]);
    // From the cue to the patch as it is written.
    small.runner.follow(whole, { ...desk, cueId: 'two' });
    expect(levels()[0][0]).toBe(-6);
    small.runner.follow(whole, { ...cueOne, cueId: 'two' });
    expect(levels()[0]).toEqual([-20, 7]);
  });

  it('cuts held notes or lets them finish as the show has it', () => {
    const cut = planned({}, { show: { ...show, heldNotes: 'cut' } });
    small.runner.follow(cut, cueOne);
    small.host.receive('upper port', [0x90, 60, 90]);
    small.commands();
    small.runner.follow(cut, { ...cueOne, patchId: null, cueId: null });
    expect(small.ofKind(COMMAND.end).length).toBeGreaterThan(0);
    expect(notes()).toEqual([]);
  });

  it('knows where it is', () => {
    small.runner.follow(planned(), cueOne);
    const at = (changes: Partial<NowPlaying>) => small.runner.isAt({ ...cueOne, ...changes });
    expect([at({}), at({ cueId: 'two' }), at({ songId: null }), at({ entryId: 'x' })]).toEqual([
      ...[true, false, false, false],
    ]);
    expect(small.runner.guardSeconds).toBe(0);
    expect(new SmallShow().runner.guardSeconds).toBe(0);
    small.runner.follow(
      planned({}, { show: { ...show, going: { ...show.going, guardSeconds: 0.7 } } }),
      cueOne,
    );
    expect(small.runner.guardSeconds).toBe(0.7);
  });
});

describe('going on', () => {
  it('is told with its step and its patch, and takes solos of the desk away', () => {
    const told: unknown[] = [];
    small.runner.onStep = ({ cueId }, patchId) => told.push([cueId, patchId]);
    expect([small.runner.move(1), small.runner.goTo('song', null)]).toEqual([false, false]);
    small.runner.follow(planned(), { ...cueOne, soloed: new Set(['other']) });
    expect(notes()).toEqual([]);
    expect(small.runner.move(1)).toBe(true);
    expect(notes().length).toBeGreaterThan(0);
    expect(small.runner.goTo('song', 'three')).toBe(true);
    expect(small.runner.goTo('song', 'nowhere')).toBe(false);
    expect(small.runner.move(1)).toBe(false);
    expect(told).toEqual([
      ['two', 'first'],
      ['three', 'second'],
    ]);
  });
});

describe('the tempo', () => {
  const tempo = () => small.player.clock.tempo;
  const own = { ...plan.cues, two: { ...cues.two, tempo: 72 } };

  it('that is tapped on the desk holds until the next cue', () => {
    small.runner.follow(planned({}, { cues: own }), cueOne);
    expect(tempo()).toBe(song.tempo);
    small.runner.setTempo(133);
    expect(tempo()).toBe(133);
    small.runner.audition({ sound: newPatchSound('try', 'house'), transpose: 0 });
    expect(tempo()).toBe(133);
    small.runner.audition(null);
    expect(tempo()).toBe(133);
    small.runner.follow(planned({ name: 'Edited' }, { cues: own }), cueOne);
    expect(tempo()).toBe(133);
    small.runner.move(1);
    expect(tempo()).toBe(72);
    small.runner.setTempo(140);
    expect(tempo()).toBe(140);
    small.runner.move(-1);
    expect(tempo()).toBe(song.tempo);
  });

  it('that is tapped in Showtime holds for the night, but for cues with one of their own', () => {
    const nights: Night[] = [];
    small.runner.onNight = (night) => nights.push(night);
    small.runner.follow(planned({}, { cues: own }), { ...cueOne, showtime: true });
    small.runner.setTempo(133);
    expect([tempo(), nights.length]).toEqual([133, 1]);
    small.runner.move(1);
    expect(tempo()).toBe(72);
    small.runner.setTempo(80);
    expect([tempo(), nights.length]).toEqual([80, 1]);
    small.runner.move(-1);
    expect(tempo()).toBe(133);
  });
});

describe('what holds for the night', () => {
  it('is taken over, as after a reload', () => {
    const night = { ...cueOne, showtime: true };
    small.runner.follow(planned({ treatments: [] }), night);
    const plain = notes()[0];
    small.runner.trim('layer', -4);
    small.runner.transpose(2);
    expect(notes()).toEqual([plain + 2]);
    const kept = small.runner.night;
    small = new SmallShow();
    small.runner.follow(planned({ treatments: [] }), night);
    levels();
    small.runner.takeNight(kept);
    expect([small.runner.trimOf('layer'), small.runner.trimOf('other')]).toEqual([-4, 0]);
    expect(levels()).toContainEqual([-10, 0.03]);
    expect(notes()).toEqual([plain + 2]);
    // Outside of Showtime nothing of it is heard, nor can it be moved.
    small.runner.follow(planned({ treatments: [] }), cueOne);
    expect([notes(), small.runner.trimOf('layer'), small.runner.transpose(1)]).toEqual([
      ...[[plain], 0, false],
    ]);
    small.runner.trim('layer', 3);
    expect(small.runner.night).toEqual(kept);
    // Nor where no patch is played.
    small.runner.follow(planned(), { ...night, cueId: null, patchId: null });
    small.runner.trim('layer', 3);
    expect(small.runner.night).toEqual(kept);
  });

  it('is of the song that is played, not of another whose patch is on the desk', () => {
    const other = { ...patchOf('other', 'house'), songId: 'otherSong' };
    const whole = planned(
      { treatments: [] },
      {
        patches: { ...plan.patches, other },
        songs: new Map([
          ...songs,
          ['otherSong', { ...song, id: 'otherSong', sounding: song.fingered }],
        ]),
      },
    );
    small.runner.follow(whole, { ...cueOne, showtime: true });
    small.runner.transpose(3);
    small.runner.follow(whole, { ...desk, showtime: true, patchId: 'other' });
    expect(notes()).toEqual([60]);
  });

  it('has a place of the night sound as it is tonight', () => {
    const order = [{ ...songEntry('entry', 'song'), tonight: { leftOut: [], tempo: 61 } }];
    const whole = planned(
      {},
      { show: { ...show, order }, steps: steps(order, songs, Object.values(cues)) },
    );
    small.runner.follow(whole, cueOne);
    expect(small.player.clock.tempo).toBe(61);
    small.runner.follow(whole, { ...cueOne, entryId: null });
    expect(small.player.clock.tempo).toBe(song.tempo);
  });
});

describe('what is worked out beforehand', () => {
  /** Which of the patches of three cues are looked into by making ready at one of them. */
  const ready = (at: Partial<NowPlaying>) => {
    const looked = new Set<string>();
    const patches = Object.fromEntries(
      ['one', 'two', 'three'].map((id) => {
        const patch = patchOf(id, 'house');
        const watched = {
          ...patch,
          get layers() {
            looked.add(id);
            return patch.layers;
          },
        };
        return [id, watched];
      }),
    );
    const own = Object.fromEntries(
      ['one', 'two', 'three'].map((id, i) => [id, cueOf(id, i, id)]),
    ) as unknown as ShowPlan['cues'];
    small = new SmallShow();
    small.runner.follow(planned({}, { patches, cues: own }), { ...cueOne, patchId: 'one', ...at });
    looked.clear();
    small.runner.makeReady();
    return [...looked];
  };

  it('is the next step and the one before', () => {
    expect(ready({ cueId: 'two' })).toEqual(['three', 'one']);
    expect(ready({ cueId: 'one' })).toEqual(['two']);
    expect(ready({ cueId: 'three' })).toEqual(['two']);
  });

  it('is nothing on the desk, or before there is a plan', () => {
    expect(ready({ cueId: 'two', asCue: false })).toEqual([]);
    new SmallShow().runner.makeReady();
  });
});

describe('what hands have done', () => {
  const lift: ControlTarget = { kind: 'layer', layerId: 'layer', parameter: 'lift' };
  const mute: ControlTarget = { kind: 'layer', layerId: 'layer', parameter: 'mute' };
  const isMuted = () => small.runner.isOn(mute);

  it('counts until a cue says something of it, even if that is what the patch says', () => {
    const chooser = newChooser('chooser', 'Chooser', layers);
    const says = {
      ...cues.two,
      balance: { layer: { level: -20, lift: false } },
      ...{ treatments: { double: true }, choices: { chooser: 0 } },
    };
    const hears = () => [
      small.runner.isOn(lift),
      small.runner.isOn({ kind: 'treatment', treatmentId: 'double' }),
      small.player.pickedBy('chooser'),
    ];
    const play = (two: typeof says | typeof cues.two) => {
      small = new SmallShow();
      small.runner.follow(
        planned({ choosers: [chooser] }, { cues: { ...plan.cues, two } }),
        cueOne,
      );
      small.runner.switchTo(lift, true);
      small.runner.switchTo({ kind: 'treatment', treatmentId: 'double' }, false);
      small.player.pick('chooser', 1);
      small.runner.move(1);
      return hears();
    };
    expect(play(says)).toEqual([false, true, null]);
    // A cue that speaks of levels alone leaves it.
    expect(play(cues.two)).toEqual([true, false, 1]);
  });

  it('is let go of with the tie that did it, and heard so', () => {
    const pad: Tie = {
      ...{ id: 'pad', place: 'pads1', message: { kind: 'note', note: 50 }, target: mute },
      ...{ from: 0, to: 1, ...usualManner({ kind: 'note', note: 50 }) },
    };
    for (const parameter of ['mute', 'solo'] as const) {
      const layerId = parameter === 'mute' ? 'layer' : 'other';
      const tie: Tie = { ...pad, target: { kind: 'layer', layerId, parameter } };
      small = new SmallShow();
      small.runner.follow(planned({ treatments: [], controls: [tie] }), desk);
      small.host.receive('pad port', [0x99, 50, 100]);
      expect(notes(), parameter).toEqual([]);
      small.runner.follow(planned({ treatments: [] }), desk);
      expect(notes(), parameter).toHaveLength(1);
    }
  });

  it('follows what is tied in the rig, taken by the show, and brought by other devices', () => {
    const message = { kind: 'note', note: 50 } as const;
    const pad: Tie = {
      ...{ id: 'pad', place: 'pads1', message, from: 0, to: 1, ...usualManner(message) },
      target: { kind: 'letter', layer: 0, parameter: 'mute' },
    };
    const strike = () => {
      const before = isMuted();
      small.host.receive('pad port', [0x99, 50, 100]);
      small.host.receive('pad port', [0x89, 50, 0]);
      return isMuted() !== before;
    };
    const plain = planned();
    small.runner.follow(plain, desk);
    expect(strike()).toBe(false);
    const tied = { ...plain, ties: [pad] };
    small.runner.follow(tied, desk);
    expect(strike()).toBe(true);
    const taking = { action: 'nextCue', place: 'pads1', message } as const;
    small.runner.follow({ ...tied, show: { ...show, controls: [taking] } }, desk);
    expect(strike()).toBe(false);
    small.runner.follow({ ...tied, devices: tied.devices.filter(({ id }) => id !== 'pads') }, desk);
    expect(strike()).toBe(false);
    small.runner.follow(tied, desk);
    expect(strike()).toBe(true);
  });

  it('moves a place in the sound without its being taken for a send', () => {
    const message = { kind: 'controller', controller: 21 } as const;
    const tie: Tie = {
      ...{ id: 'knob', place: 'pads1', message, from: -1, to: 1, ...usualManner(message) },
      ...{ target: { kind: 'layer', layerId: 'layer', parameter: 'pan' } },
    };
    small.runner.follow(planned({ controls: [tie] }), desk);
    const before = small.runner.heard()?.layers['layer'];
    for (const value of [0, 64, 127]) small.host.receive('pad port', [0xb9, 21, value]);
    expect(small.runner.heard()?.layers['layer']).toEqual(before);
  });

  it('goes back with a recalled cue, the same song’s next place too, and with nothing else', () => {
    const order = [songEntry('entry', 'song'), songEntry('again', 'song')];
    const whole = planned(
      {},
      { show: { ...show, order }, steps: steps(order, songs, Object.values(cues)) },
    );
    const night = { ...cueOne, showtime: true };
    small.runner.follow(whole, night);
    small.stage.moveLayer('layer', 'level', { value: -30 });
    levels();
    small.runner.transpose(1);
    small.runner.setTempo(111);
    expect(levels()).toEqual([]);
    small.runner.follow(whole, { ...night, entryId: 'again' });
    expect(levels()[0][0]).toBe(-6);
  });
});

describe('bars', () => {
  it('begin with a cue, and not with an edit', () => {
    const { clock } = small.player;
    small.runner.follow(planned(), cueOne);
    small.time = 1.23;
    small.runner.move(1);
    expect(clock.beatsInBars).toBeCloseTo(0, 6);
    small.time = 2.34;
    small.runner.follow(planned({ name: 'Edited' }), { ...cueOne, cueId: 'two' });
    expect(clock.beatsInBars).toBeGreaterThan(1);
  });
});

describe('before there is a show', () => {
  it('nothing is played, trimmed or tapped, and nothing fails', () => {
    const { runner } = small;
    expect(runner.isAt({ entryId: null, songId: null, cueId: null })).toBe(true);
    expect([runner.trimOf('layer'), runner.heard(), runner.transpose(1)]).toEqual([0, null, false]);
    runner.trim('layer', 3);
    runner.takeNight(runner.night);
    runner.setTempo(90);
    runner.recallAgain();
    expect([small.commands(), runner.night.trims]).toEqual([[], []]);
    small.runner.follow(planned(), desk);
    small.runner.setTempo(99);
    expect(small.player.clock.tempo).toBe(99);
  });
});
