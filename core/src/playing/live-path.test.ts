import { beforeEach, describe, expect, it } from 'vitest';
import type { ControlTarget } from '../model/patch/control-target.js';
import { usualManner, type Tie } from '../model/patch/tie.js';
import { newTreatment } from '../model/patch/treatment.js';
import type { Cue } from '../model/show/cue.js';
import { USUAL_GOING } from '../model/show/going.js';
import { COMMAND } from '../sampler/command-ring.js';
import { cues, patchOf, plan, show, SmallShow } from '../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show/show-plan.js';

let small: SmallShow;
beforeEach(() => void (small = new SmallShow()));
const place: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
};
const follow = (more: Partial<ShowPlan> = {}, at: Partial<NowPlaying> = {}) => {
  small.live.follow({ ...plan, ...more }, { ...place, ...at });
};
const pad = (note: number, target: ControlTarget, more: Partial<Tie> = {}): Tie => ({
  ...{ id: `pad ${note}`, place: 'pads1', message: { kind: 'note', note }, target },
  ...{ from: 0, to: 1, ...usualManner({ kind: 'note', note }) },
  ...more,
});
const hit = (note: number) => {
  small.host.receive('pad port', [0x99, note, 100]);
  small.host.receive('pad port', [0x99, note, 0]);
};

describe('ties of the rig', () => {
  it('move octaves on from where they stand, and none of a place that is not there', () => {
    const octave = (at: 'keys1' | 'keys9', note: number) =>
      pad(note, { kind: 'octave', place: at }, { acts: 'steps', from: -3, to: 3 });
    follow({ ties: [octave('keys1', 50), octave('keys9', 51)] });
    hit(50);
    hit(50);
    hit(51);
    expect(small.player.shiftOf(0)).toBe(24);
  });

  it('trim the layer of a letter in tenths of a decibel, if there is one', () => {
    const trim = (layer: number, note: number) =>
      pad(note, { kind: 'letter', layer, parameter: 'trim' }, { acts: 'steps', from: -3, to: 3.3 });
    follow({ ties: [trim(0, 50), trim(4, 51)] });
    hit(50);
    // An eighth of the way from −3: 0.7875 dB on from 0.
    expect(small.runner.trimOf('layer')).toBe(0.8);
    hit(50);
    expect(small.runner.trimOf('layer')).toBe(1.6);
    hit(51);
    expect(small.runner.night.trims).toHaveLength(1);
    follow({ ties: [trim(0, 50)] }, { patchId: null, cueId: null, songId: null });
    hit(50);
    expect(small.runner.night.trims).toHaveLength(1);
  });

  it('let go of what only they could have switched', () => {
    const latch = { ...newTreatment('latch', 'latch', ['layer']), on: true };
    const first = { ...patchOf('first', 'house'), treatments: [latch] };
    const switches = pad(50, { kind: 'nthTreatment', treatment: 0 });
    const patches = { ...plan.patches, first };
    follow({ patches, ties: [switches] });
    small.host.receive('upper port', [0x90, 60, 90]);
    small.host.receive('upper port', [0x80, 60, 0]);
    expect(small.ofKind(COMMAND.end)).toEqual([]);
    follow({ patches, ties: [] });
    expect(small.ofKind(COMMAND.end)).toHaveLength(1);
  });
});

describe('a show that is followed', () => {
  it('has its controls at the rig, and others when they are changed', () => {
    const reached: (string | null)[] = [];
    small.runner.onStep = ({ cueId }) => reached.push(cueId);
    follow();
    hit(39);
    follow({ show: { ...show, controls: [] } }, { cueId: 'two' });
    hit(39);
    follow({ show: { ...show, controls: [...show.controls] } }, { cueId: 'two' });
    hit(39);
    expect(reached).toEqual(['two', 'three']);
  });

  it('needs the clock for treatments, for modules and for keeping time, and not else', () => {
    const { live } = small;
    follow();
    expect(live.needsClock).toBe(false);
    const arpeggio = newTreatment('arpeggio', 'up', ['layer']);
    follow({
      patches: { ...plan.patches, first: { ...patchOf('first', 'house'), treatments: [arpeggio] } },
    });
    small.host.receive('upper port', [0x90, 60, 90]);
    expect(live.needsClock).toBe(true);
    small.host.receive('upper port', [0x80, 60, 0]);
    small.time += 1;
    live.advance();
    expect(live.needsClock).toBe(false);
    follow({}, { cueId: 'three', patchId: 'second' });
    small.stage.moveLayer('layer', 'level', { value: -40 });
    expect(live.needsClock).toBe(true);
    small.time += 1;
    live.advance();
    expect(live.needsClock).toBe(false);
    const clock = { ...USUAL_GOING.clock, click: { ...USUAL_GOING.clock.click, on: true } };
    follow({ show: { ...show, going: { ...show.going, clock } } }, { cueId: 'three' });
    expect(live.needsClock).toBe(true);
  });

  it('chooses programs on instruments that no layer plays, with a bank or without', () => {
    const programs: Cue['programs'] = [
      { place: 'module1', channel: 5, bank: null, program: 9 },
      { place: 'module9', channel: 5, bank: null, program: 9 },
      { place: 'module1', channel: 6, bank: { msb: 1, lsb: 2 }, program: 8 },
    ];
    follow({ cues: { ...cues, one: { ...cues.one, programs } } });
    expect(small.sent).toEqual([
      [0xc4, 9],
      [0xb5, 0, 1],
      [0xb5, 32, 2],
      [0xc5, 8],
    ]);
  });
});
