import { describe, expect, it } from 'vitest';
import { noteOn } from '../../midi/messages.js';
import { newTreatment } from '../../model/patch/treatment.js';
import { newCue } from '../../model/show/cue.js';
import { USUAL_GOING } from '../../model/show/going.js';
import { songEntry } from '../../model/show/show.js';
import type { ShowControl } from '../../model/show/show-control.js';
import { newSong } from '../../model/show/song.js';
import { COMMAND } from '../../sampler/command-ring.js';
import { steps } from '../../setlist/running-order.js';
import {
  cues,
  devices,
  patchOf,
  plan,
  show,
  SmallShow,
  song,
  songs,
} from '../../testing/small-show.js';
import type { NowPlaying, ShowPlan } from './show-plan.js';

const other = { ...newSong('other', 'Other'), number: 9, tempo: 77 };
const allSongs = new Map([...songs, ['other', other]]);
const allCues = { ...cues, later: newCue('later', 'other', 0, 'later', 'third') };
const order = [songEntry('entry', 'song'), songEntry('again', 'other')];
const planned = (going: Partial<typeof USUAL_GOING> = {}): ShowPlan => ({
  ...plan,
  show: { ...show, order, going: { ...USUAL_GOING, ...going } },
  songs: allSongs,
  cues: allCues,
  patches: { ...plan.patches, third: { ...patchOf('third', 'house'), songId: 'other' } },
  steps: steps(order, allSongs, Object.values(allCues)),
});
const place: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
};

let night: SmallShow;
let reached: (string | null)[];
const begin = (controls: ShowControl[] = [], going: Partial<typeof USUAL_GOING> = {}) => {
  night = new SmallShow(devices, controls);
  const whole = planned(going);
  reached = [];
  night.runner.onStep = ({ cueId }) => reached.push(cueId);
  night.live.follow({ ...whole, show: { ...whole.show, controls } }, place);
};
const pads = { place: 'pads1' } as const;
const onPad = (note: number) => ({ ...pads, message: { kind: 'note' as const, note } });
const strike = (note: number) => {
  night.host.receive('pad port', noteOn(10, note, 100));
  night.host.receive('pad port', noteOn(10, note, 0));
};

describe('going through the show', () => {
  it('passes over whatever comes within the guard’s time, until the control rests', () => {
    begin([{ action: 'nextCue', ...onPad(36) }]);
    for (let blow = 0; blow < 80; blow++) {
      strike(36);
      night.time += 0.025;
    }
    expect(reached).toEqual(['two']);
    expect(night.live.orders.guarded).toBe(79);
    night.time += 0.15;
    strike(36);
    expect(reached).toEqual(['two', 'three']);
    // Another control in the same moment is meant.
    expect(night.live.orders.press('previousCue')).toBe(true);
    expect(reached).toHaveLength(3);
  });
});

describe('in Showtime', () => {
  const levels = () =>
    night.ofKind(COMMAND.level).map(([, , level]) => Math.round(level * 10) / 10);

  it('a layer is trimmed on top of its cue’s level, in every cue of the song, and nowhere else', () => {
    begin();
    levels();
    night.runner.trim('layer', -3);
    expect(levels()).toEqual([-9]);
    night.runner.move(1);
    expect(levels()).toEqual([-23]);
    night.live.orders.goTo('other', null);
    expect(levels()).toEqual([-6]);
    night.live.follow(planned(), { ...place, showtime: false });
    expect(levels()).toEqual([-6]);
    expect(night.runner.night.trims).toMatchObject([{ entryId: 'entry', cueId: 'one', by: -3 }]);
    night.runner.trim('layer', 5);
    expect(night.runner.night.trims).toHaveLength(1);
  });
});

describe('keeping time', () => {
  it('a leader’s tempo counts for more than the song’s, and the song’s again when it is gone', () => {
    begin([], { clock: { ...USUAL_GOING.clock, leader: 'pad port' } });
    for (let tick = 0; tick < 120; tick++) {
      night.time = 5 + (tick * 60) / 140 / 24;
      night.host.receive('pad port', [0xf8]);
    }
    expect(night.player.clock.tempo).toBeCloseTo(140, 3);
    night.live.orders.goTo('other', null);
    expect(night.player.clock.tempo).toBeCloseTo(140, 3);
    expect(night.live.needsClock).toBe(true);
    night.time += 1;
    night.live.advance();
    expect(night.live.timekeeping.leading.now).toBe('lost');
    night.time += 1;
    night.live.orders.goTo('song', null);
    expect(night.player.clock.tempo).toBe(song.tempo);
  });

  it('a count-in clicks a bar, then those who follow are started', () => {
    begin([], { clock: { ...USUAL_GOING.clock, followers: ['module port'] } });
    night.live.orders.press('countIn');
    for (let tick = 0; tick < 800; tick++) {
      night.time += 0.004;
      night.live.advance();
    }
    expect(night.clicks).toHaveLength(4);
    const started = night.sent.findIndex(([status]) => status === 0xfa);
    const before = night.sent.slice(0, started).filter(([status]) => status === 0xf8);
    expect(before.length).toBeGreaterThanOrEqual(95);
    expect(night.live.timekeeping.countsIn).toBe(false);
  });

  it('an outside instrument that was told of a note is not told again when the tempo moves a little', () => {
    const arpeggio = { ...newTreatment('arpeggio', 'up', ['layer']), rate: '1/8' as const };
    const outside = { ...plan.patches['second'], treatments: [arpeggio] };
    night = new SmallShow(devices, []);
    night.live.follow(
      { ...plan, patches: { ...plan.patches, second: outside } },
      { ...place, cueId: 'three', patchId: 'second' },
    );
    for (const key of [60, 64, 67]) night.host.receive('upper port', noteOn(1, key, 100));
    const { clock } = night.player;
    const before = clock.beats;
    for (let tick = 0; tick < 2000; tick++) {
      night.time += 0.004;
      night.live.advance();
      // As a clock that is followed through its jitter moves it.
      if (tick % 3 === 0) clock.tempo = 120 + ((tick / 3) % 3) / 10;
    }
    const strikes = night.sent.filter(([status, , velocity]) => status >> 4 === 9 && velocity > 0);
    expect(Math.abs(strikes.length - 2 * (clock.beats - before))).toBeLessThan(2);
  });
});
