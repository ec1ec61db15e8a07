import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { Leading } from '../../clock/leading.js';
import { NOW, ShowClock } from '../../clock/show-clock.js';
import { CONTINUE_CLOCK, START_CLOCK, STOP_CLOCK, TIMING_CLOCK } from '../../midi/messages.js';
import type { Pattern } from '../../model/library/pattern.js';
import {
  newAccompanist,
  placedPattern,
  type Accompanist,
  type BandKey,
} from '../../model/patch/accompanist.js';
import { movedAccompanist } from '../../model/patch/band-moves.js';
import { newLayer } from '../../model/patch/layer.js';
import { newPatch, newPatchSound, type Patch } from '../../model/patch/patch.js';
import { readyPattern } from '../../patterns/ready-pattern.js';
import { readMusicalKey } from '../../pitch/musical-keys.js';
import { compilePatch, compileRig, type CompiledPatch } from '../../routing/compile.js';
import { devices } from '../../testing/small-show.js';
import type { Beats } from '../../units/times.js';
import { AUDITION_ID } from '../show/audition.js';
import type { NoteSource } from '../notes/source-notes.js';
import { Band } from './band.js';

const A_MINOR = readMusicalKey('Am') ?? expect.fail();

function pattern(id: string, length: number, more: Partial<Pattern> = {}): Pattern {
  return {
    ...{ id, name: id, category: 'basses', tags: [], favourite: false, length, tempo: 60 },
    ...{ metre: { beats: 4, unit: 4 }, key: A_MINOR, quantise: null },
    notes: [{ beat: 0, length: 1, key: 57, velocity: 80 }],
    ...more,
  };
}
/** One note a beat, from A up by semitones. */
const run = (id: string, length: number) =>
  pattern(id, length, {
    notes: Array.from({ length }, (_, i) => ({ beat: i, length: 0.5, key: 57 + i, velocity: 80 })),
  });
const patterns = new Map(
  [
    pattern('four', 4),
    pattern('three', 3),
    run('run', 4),
    pattern('long', 8, { notes: [{ beat: 0, length: 8, key: 45, velocity: 60 }] }),
    pattern('kit', 4, { key: null, notes: [{ beat: 0, length: 0.25, key: 36, velocity: 90 }] }),
    pattern('chord', 1, {
      notes: [57, 60, 64, 62].map((key) => ({ beat: 0, length: 1, key, velocity: 80 })),
    }),
  ].map((one): [string, Pattern] => [one.id, one]),
);

/** A band on keys from 40 up, on a clock of 120 beats a minute that the test turns. */
class BandAlone {
  seconds = 0;
  tick = 0.01;
  readonly clock = new ShowClock(() => this.seconds);
  private notes: { by: NoteSource; key: number; from: Beats; until: Beats }[] = [];
  readonly band = new Band(this.clock, {
    playNote: (by, key, _velocity, from, until) =>
      this.notes.push({ by, key, from: from === NOW ? this.clock.beats : from, until }),
    endSource: (by, at) => {
      const cut = at === NOW ? this.clock.beats : at;
      this.notes = this.notes.filter((note) => note.by !== by || note.from < cut);
      for (const note of this.notes) if (note.by === by) note.until = Math.min(note.until, cut);
    },
    takeBack: (by) => {
      this.notes = this.notes.filter((note) => note.by !== by || note.from <= this.clock.beats);
    },
  });
  private first = 0;

  constructor(
    public accompanists: Accompanist[],
    public bandKeys: BandKey[] = [],
    sounding = A_MINOR,
  ) {
    this.clock.tempo = 120;
    this.band.take(this.compiled('patch', sounding));
  }

  compiled(id = 'patch', sounding = A_MINOR): CompiledPatch {
    const patch: Patch = {
      ...newPatch(id, 'song', 0, id),
      sounds: [newPatchSound('sound', 'house')],
      layers: [newLayer('layer', 'Layer', 'sound')],
      ...{ accompanists: this.accompanists, bandKeys: this.bandKeys },
    };
    return compilePatch(patch, { rig: compileRig(devices), songShift: 0, sounding, patterns });
  }

  /** Strikes a key of the upper keyboard, and lets it go. */
  tap(key: number): this {
    return this.press(key).release(key);
  }

  press(key: number): this {
    if (!this.clock.isRunning) this.first = NaN;
    if (this.band.takes(0, key)) this.band.press(0, key, key);
    else this.band.hear(key);
    if (Number.isNaN(this.first)) this.first = this.clock.firstBeat;
    return this;
  }

  release(key: number): this {
    if (this.band.takes(0, key)) this.band.release(key);
    else this.band.hearRelease(key);
    return this;
  }

  /** Turns the clock to a beat from where it began. */
  to(beat: Beats): this {
    while (this.clock.beats < this.first + beat - 1e-9) {
      this.seconds += Math.min(this.tick, this.clock.timeAt(this.first + beat) - this.seconds);
      this.band.advance();
    }
    return this;
  }

  /** Turns the clock on by some beats, wherever it is. */
  turn(beats: Beats): void {
    const until = this.seconds + (beats * 60) / this.clock.tempo;
    while (this.seconds < until) {
      this.seconds = Math.min(until, this.seconds + this.tick);
      this.band.advance();
    }
  }

  /** What sounded up to now, as `key from–until` in beats from where the clock began. */
  get sounded(): string {
    const words = (beat: Beats) => String(+(beat - this.first).toFixed(3));
    return this.notes
      .filter(({ from }) => from <= this.clock.beats)
      .sort((a, b) => a.from - b.from || a.key - b.key)
      .map(({ key, from, until }) => `${key} ${words(from)}–${words(until)}`)
      .join(', ');
  }

  /** The same, and what has begun then. */
  turned(beats: Beats): readonly { key: number; from: Beats }[] {
    this.turn(beats);
    return this.begun();
  }

  /** What has begun, in its order. */
  begun(): readonly { key: number; from: Beats }[] {
    return this.notes.filter(({ from }) => from <= this.clock.beats);
  }

  /** Notes that one pattern began twice at one beat. */
  get doubled(): string[] {
    const seen = new Map<NoteSource, Set<string>>();
    return this.notes.flatMap(({ by, key, from }) => {
      const mine = seen.get(by) ?? new Set();
      seen.set(by, mine);
      const place = `${key} ${from.toFixed(6)}`;
      const isTwice = mine.has(place);
      mine.add(place);
      return isTwice ? [place] : [];
    });
  }

  /** Notes that sound at this moment. */
  get sounding(): number {
    const { beats } = this.clock;
    return this.notes.filter(({ from, until }) => from <= beats && until > beats).length;
  }
}

function accompanist(settings: Partial<Accompanist>, ...ids: string[]): Accompanist {
  return {
    ...newAccompanist('bass', 'Bass', 'keys1'),
    ...{ layerIds: ['layer'], stopKey: 39 },
    patterns: ids.map((id, i) => placedPattern(`on-${40 + i}`, id, 40 + i)),
    ...settings,
  };
}
const other = (settings: Partial<Accompanist>, ...ids: string[]): Accompanist => ({
  ...accompanist({ stopKey: null, ...settings }, ...ids),
  id: 'other',
  patterns: ids.map((id, i) => placedPattern(`other-${50 + i}`, id, 50 + i)),
});

describe('an accompanist', () => {
  it.each<[string, Partial<Accompanist>, (at: BandAlone) => BandAlone, string]>([
    ['begins at once where nothing ran', {}, (at) => at.tap(40).to(5), '57 0–1, 57 4–5'],
    [
      'is stopped by its key at the bar, and goes on to there',
      {},
      (at) => at.tap(41).to(4.5).tap(41).to(9),
      '57 0–1, 57 3–4, 57 6–7',
    ],
    [
      'is stopped at once when it is asked twice',
      {},
      (at) => at.tap(42).to(1.25).tap(39).tap(39).to(9),
      '57 0–0.5, 58 1–1.25',
    ],
    [
      'has the next take over at the bar',
      {},
      (at) => at.tap(42).to(2.1).tap(40).to(5),
      '57 0–0.5, 58 1–1.5, 59 2–2.5, 60 3–3.5, 57 4–5',
    ],
    [
      'lets it be through',
      { takesOver: 'through' },
      (at) => at.tap(41).to(0.5).tap(40).to(4),
      '57 0–1, 57 3–4',
    ],
    [
      'has it take over at once, in its place in the bar',
      { takesOver: 'atOnce' },
      (at) => at.tap(40).to(0.25).tap(42).to(2.2),
      // What would sound there sounds from there.
      '57 0–0.25, 57 0.25–0.5, 58 1–1.5, 59 2–2.5',
    ],
    [
      'plays while a key is held',
      { starting: 'whileHeld' },
      (at) => at.press(43).to(2.5).release(43).to(4),
      '45 0–2.5',
    ],
    [
      'plays once',
      { starting: 'once' },
      (at) => at.tap(42).to(9),
      '57 0–0.5, 58 1–1.5, 59 2–2.5, 60 3–3.5',
    ],
    [
      'plays until another begins, and is not begun anew',
      { starting: 'untilNext' },
      (at) => at.tap(41).to(1).tap(41).to(3.5).tap(40).to(5),
      '57 0–1, 57 3–4, 57 4–5',
    ],
    [
      'plays several at a time',
      { several: true, begins: 'beat' },
      (at) => at.tap(40).to(0.5).tap(41).to(4.5),
      '57 0–1, 57 1–2, 57 4–5, 57 4–5',
    ],
    [
      'waits for the fourth bar',
      { begins: 'fourBars', several: true },
      (at) => at.tap(43).to(1).tap(40).to(17),
      '45 0–8, 45 8–16, 45 16–24, 57 16–17',
    ],
    ['cuts what sounds where it stops', {}, (at) => at.tap(43).to(1).tap(39).to(9), '45 0–4'],
    ['is silent while muted', { muted: true }, (at) => at.tap(42).to(9), ''],
  ])('%s', (_what, settings, play, sounded) => {
    const at = new BandAlone([accompanist(settings, 'four', 'three', 'run', 'long')]);
    expect(play(at).sounded).toBe(sounded);
  });

  it('begins on the bar of whatever runs already, and what waits moves when bars do', () => {
    const at = new BandAlone([accompanist({}, 'four'), other({}, 'run')]);
    at.tap(40).to(1).tap(50).to(2);
    at.clock.countFrom(at.clock.firstBeat + 3);
    expect(at.to(5.1).sounded).toBe('57 0–1, 57 3–3.5, 57 4–5, 58 4–4.5, 59 5–5.5');
  });

  it.each<[string, Partial<Accompanist>, (at: BandAlone) => BandAlone, string]>([
    [
      'stopped while another waits, it ends at the bar and not before',
      {},
      (at) => at.tap(42).to(1.2).tap(40).tap(39).to(9),
      '57 0–0.5, 58 1–1.5, 59 2–2.5, 60 3–3.5',
    ],
    [
      'of another key that is let go before its bar nothing is left: what was held goes on',
      { starting: 'whileHeld' },
      (at) => at.press(43).to(1).press(40).to(2).release(40).to(9).release(43),
      '45 0–8, 45 8–9',
    ],
    [
      'a long note is not cut by an end that was thought better of',
      {},
      (at) => at.tap(43).to(7.9).tap(39).to(7.96).tap(43).tap(43).to(13),
      '45 0–8, 45 8–13',
    ],
  ])('%s', (_what, settings, play, sounded) => {
    const at = new BandAlone([accompanist(settings, 'four', 'three', 'run', 'long')]);
    expect(play(at).sounded.replace('45 8–16', '45 8–13')).toBe(sounded);
  });

  it('hands over late what a pause of the machine held up, though a chord is played first', () => {
    const at = new BandAlone([accompanist({ follows: 'chord' }, 'long', 'run')]);
    at.tap(41).to(0.8);
    // Half a second without a look at the clock, then a hand before the next look.
    at.seconds += 0.3;
    at.press(64).to(3.1);
    expect(at.sounded.split(', ').map((note) => note.split(' ')[1])).toEqual([
      '0–0.5',
      '1.4–1.5',
      '2–2.5',
      '3–3.5',
    ]);
  });

  it('takes back a choice before it is heard: what would have ended goes on', () => {
    const at = new BandAlone([accompanist({}, 'four', 'run')]);
    at.tap(40).to(1).tap(41).to(2).tap(41);
    expect(at.to(9).sounded).toBe('57 0–1, 57 4–5, 57 8–9');
  });

  it.each<[Accompanist['follows'], boolean, number[], number[], string]>([
    ['stays', true, [50, 53, 57], [], '57,60,62,64'],
    ['root', true, [50], [50], '62,65,67,69'],
    // Its third and fifth go to those of the chord; what is between them moves along.
    ['chord', true, [48, 52, 55], [48, 52, 55], '60,64,65,67'],
    ['chord', false, [48, 52, 55], [48, 52, 55], '57,60,62,64'],
    ['chord', false, [48, 52, 55], [], '60,64,65,67'],
  ])('follows: %s, remembers %s: %j', (follows, remembers, pressed, released, keys) => {
    const one = accompanist({ follows, remembers, stopKey: null }, 'chord');
    const at = new BandAlone([{ ...one, patterns: [placedPattern('c', 'chord', 30)] }]);
    for (const key of pressed) at.press(key);
    for (const key of released) at.release(key);
    at.tap(30).to(0.5);
    expect(at.sounded.replaceAll(/ [^,]*,? ?/g, ',').replace(/,$/, '')).toBe(keys);
  });

  it('plays in the key that sounds, at its own tempo where that is wished, changed while it runs', () => {
    const [own] = accompanist({}, 'run').patterns;
    const one = accompanist({ patterns: [{ ...own, ownTempo: true, steps: 1 }], transpose: 12 });
    const at = new BandAlone([one], [], readMusicalKey('C') ?? expect.fail());
    // Written at 60, the clock runs at 120: twice as many beats; A minor becomes C major, a step and an octave up.
    at.tap(40).to(3);
    expect(at.sounded).toBe('74 0–1, 75 2–3');
    at.clock.tempo = 60;
    expect(at.to(5.5).sounded).toBe('74 0–1, 75 2–3, 76 3.5–4, 77 4.5–5');
  });

  /** A leader at 120 whose ticks the band’s clock follows, one at a time. */
  const behind = (at: BandAlone) => {
    const leading = new Leading(at.clock);
    leading.follow('leader');
    leading.onStop = () => at.band.clockStopped();
    leading.onGo = (anew) => at.band.clockWentOn(anew);
    leading.onAligned = () => at.band.clockAligned();
    const say = (status: number) => leading.take('leader', status, 0, 0, at.seconds);
    const wait = (ticks: number, isHeard = true) => {
      for (let i = 0; i < ticks; i++) {
        at.seconds += 60 / 120 / 24;
        if (isHeard) say(TIMING_CLOCK);
        leading.look();
        // As whoever keeps time has it.
        at.clock.isKept = leading.now === 'following';
        at.band.advance();
      }
    };
    return { say, wait };
  };

  it.each([
    ['goes on ticking', true],
    ['falls silent', false],
  ])(
    'stands with a leader that stops in the midst of a beat and %s, and goes on in its beat',
    (_what, ticksOn) => {
      const at = new BandAlone([accompanist({}, 'run'), other({}, 'run')]);
      const { say, wait } = behind(at);
      say(START_CLOCK);
      wait(24 * 8);
      at.tap(40);
      wait(24 * 5 + 17);
      // One that waits for its bar waits on.
      at.tap(50);
      const begun = at.begun().length;
      say(STOP_CLOCK);
      expect([at.sounding, at.clock.isRunning]).toEqual([0, false]);
      wait(31, ticksOn);
      say(CONTINUE_CLOCK);
      wait(24 * 12);
      expect(at.band.look('other').playing?.name).toBe('run');
      const inBars = at.begun().map(({ key, from }) => [key - 57, from - at.clock.firstBeat]);
      const since = inBars.slice(begun).filter(([, beat]) => beat > 0);
      expect(since.length).toBeGreaterThan(12);
      for (const [step, beat] of since) {
        expect(beat).toBeCloseTo(Math.round(beat), 6);
        expect(step).toBe(Math.round(beat) % 4);
      }
    },
  );

  it('begins anew with a leader that does; what was ending has ended; a key pressed meanwhile is heard', () => {
    const at = new BandAlone([accompanist({}, 'run'), other({}, 'four')]);
    const { say, wait } = behind(at);
    say(START_CLOCK);
    wait(24 * 8);
    at.tap(40).tap(50);
    wait(24 * 5);
    at.tap(50);
    say(STOP_CLOCK);
    wait(24);
    say(START_CLOCK);
    wait(24 * 3);
    expect(at.band.look('bass')).toMatchObject({ playing: { name: 'run' }, isEnding: false });
    expect(at.band.look('other').playing).toBeNull();
    say(STOP_CLOCK);
    wait(24);
    expect(at.sounding).toBe(0);
    at.tap(50);
    wait(6);
    expect(at.sounding).toBe(1);
  });
});

describe('patterns that are tried out', () => {
  const ready = (id: string, transpose = 0) => {
    const placed = placedPattern(id, id, 0);
    const shape = { ...placed.shape, transpose };
    const written = patterns.get(id) ?? expect.fail();
    return readyPattern({ ...placed, shape }, written, { transpose: 0 }, A_MINOR);
  };
  const layers = new Set(['layer']);

  it('begin together on the beat, become another version where they are, and end with their patch', () => {
    const at = new BandAlone([accompanist({}, 'four')]);
    const { auditioned } = at.band;
    at.tap(40).to(0.3);
    auditioned.hear(ready('run'), layers);
    at.to(0.9);
    auditioned.hear(ready('kit'), layers);
    expect(at.to(1.6).sounded).toBe('57 0–1, 36 1–1.25, 57 1–1.5');
    auditioned.hear(ready('run', 12), layers);
    expect(at.to(2.1).sounded).toContain('70 2–2.5');
    expect(auditioned.placeOf('run')).toBeCloseTo(1.1 / 4, 2);
    at.band.take(at.compiled('second'));
    expect(auditioned.placeOf('run')).toBeNull();
    expect([at.sounding, at.clock.isRunning]).toEqual([0, false]);
  });
});

describe('a band', () => {
  const starts = { bass: 'on-41', other: 'other-50' };
  const bandKeys: BandKey[] = [
    { id: 'go', does: 'start', place: 'keys1', starters: 'notes', key: 70, starts },
    { id: 'end', does: 'stop', place: 'keys1', starters: 'notes', key: 71, starts: {} },
    { id: 'on', does: 'next', place: 'keys1', starters: 'notes', key: 72, starts: {} },
  ];
  let at: BandAlone;
  beforeEach(() => {
    at = new BandAlone(
      [accompanist({}, 'four', 'three'), other({ begins: 'beat' }, 'kit', 'run')],
      bandKeys,
    );
  });

  it('is started, brought to its next, and stopped by one key', () => {
    at.tap(70).to(2);
    expect(at.sounded).toBe('36 0–0.25, 57 0–1');
    at.tap(72).to(5.1);
    expect(at.sounded).toBe('36 0–0.25, 57 0–1, 57 3–4, 57 4–5, 57 4–4.5, 58 5–5.5');
    expect(at.band.look('other')).toMatchObject({ playing: { name: 'run' }, next: null });
    at.tap(71).to(7);
    expect(at.band.look('other')).toMatchObject({ isEnding: true });
    at.to(20);
    expect(at.sounding).toBe(0);
    expect(at.clock.isRunning).toBe(false);
  });

  it('goes on, stops or finishes its bar when another patch comes, as each has it', () => {
    const three = (['carryOn', 'stop', 'finishBar'] as const).map((leaving, i) => ({
      ...accompanist({ leaving, stopKey: null }),
      id: leaving,
      patterns: [placedPattern(leaving, 'run', 40 + i)],
    }));
    at = new BandAlone(three);
    at.tap(40).tap(41).tap(42).to(5.25);
    const before = at.sounded.split(', ').length;
    at.band.take({ ...at.compiled('second'), band: new BandAlone([]).compiled().band });
    at.to(9.25);
    const since = at.sounded.split(', ').slice(before);
    expect(since).toEqual(['59 6–6.5', '59 6–6.5', '60 7–7.5', '60 7–7.5', '57 8–8.5', '58 9–9.5']);
    // Back again it can be stopped by its key.
    at.band.take(at.compiled());
    at.tap(40).to(20);
    expect(at.sounding).toBe(0);
  });

  it('goes on where it is when it is edited; what is taken away ends', () => {
    at.tap(41).tap(51).to(1.25);
    const [one, two] = at.accompanists;
    at.accompanists = [
      { ...one, patterns: [] },
      { ...two, transpose: 12 },
    ];
    // A sound is tried out meanwhile, on all keys.
    at.band.take(at.compiled(AUDITION_ID));
    expect(at.band.takes(0, 41)).toBe(false);
    at.band.take(at.compiled());
    expect(at.to(4.1).sounded).toBe('57 0–1, 57 0–0.5, 58 1–1.5, 71 2–2.5, 72 3–3.5, 69 4–4.5');
  });

  it('has settings moved by hand while it plays, until a cue puts them back', () => {
    const { moved } = at.band;
    at.tap(51).to(0.5);
    moved.put('other', 'transpose', 11.7);
    moved.put('other', 'turned', 1);
    at.to(2.1);
    // Backward the run begins with its last note, half a beat later.
    expect(at.sounded).toBe('57 0–0.5, 71 1.5–2');
    expect([moved.standingOf('other', 'transpose'), moved.standingOf('nobody', 'weight')]).toEqual([
      12,
      null,
    ]);
    moved.recall({ other: { turned: 0 } });
    expect([...moved.moved.values()]).toEqual([{}]);
    at.to(3.1);
    expect(at.sounded).toBe('57 0–0.5, 71 1.5–2, 60 3–3.5');
    moved.put('other', 'muted', 1);
    moved.recall({});
    const before = at.to(3.6).sounded;
    expect(at.to(8).sounded).toBe(before);
    at.band.take(at.compiled('second'));
    expect(moved.standingOf('other', 'muted')).toBe(0);
  });

  it('is started by buttons, which are held and let go', () => {
    const one = accompanist({ starters: 'controllers', starting: 'whileHeld' }, 'run');
    at = new BandAlone([one]);
    at.tap(40).to(1);
    expect([at.sounded, at.band.takes(0, 40)]).toEqual(['', false]);
    at.band.button(0, 40, true);
    expect([at.band.takesController(0, 40), at.turned(1.2).length]).toEqual([true, 2]);
    at.band.button(0, 40, false);
    expect(at.sounding).toBe(0);
    // Pulled out while it is held it is let go.
    at.band.button(0, 40, true);
    at.turn(0.2);
    at.band.deviceGone(1);
    expect(at.sounding).toBe(1);
    at.band.deviceGone(0);
    expect([at.sounding, at.clock.isRunning]).toEqual([0, false]);
  });

  it('is turned over once, whether a cue or a hand does so, and back by either', () => {
    const [one] = at.accompanists;
    const turned = movedAccompanist(one, { turned: 1 });
    const directionOf = ({ patterns: [first] }: Accompanist) => first.shape.direction;
    expect(directionOf(turned)).toBe('backward');
    expect(directionOf(movedAccompanist(turned, { turned: 1, weight: 1 }))).toBe('backward');
    expect(directionOf(movedAccompanist(turned, { turned: 0 }))).toBe('forward');
    at.accompanists = [turned];
    at.band.take(at.compiled());
    expect(at.band.moved.standingOf('bass', 'turned')).toBe(1);
  });

  it('leaves nothing sounding, whatever happens, and plays nothing twice', () => {
    const event = fc.oneof(
      {
        weight: 5,
        arbitrary: fc.record({
          kind: fc.constant('key'),
          key: fc.integer({ min: 38, max: 72 }),
          down: fc.boolean(),
        }),
      },
      {
        weight: 4,
        arbitrary: fc.record({
          kind: fc.constant('time'),
          beats: fc.double({ min: 0, max: 3, noNaN: true }),
        }),
      },
      fc.record({ kind: fc.constant('tempo'), tempo: fc.integer({ min: 40, max: 240 }) }),
      fc.record({ kind: fc.constant('patch'), id: fc.constantFrom('patch', 'second') }),
      fc.record({ kind: fc.constant('bars'), by: fc.integer({ min: 0, max: 5 }) }),
      fc.record({ kind: fc.constant('clock'), fresh: fc.boolean() }),
    );
    const settings = fc.record({
      starting: fc.constantFrom(
        'whileHeld' as const,
        'startStop' as const,
        'once' as const,
        'untilNext' as const,
      ),
      several: fc.boolean(),
      begins: fc.constantFrom('now' as const, 'beat' as const, 'bar' as const),
      takesOver: fc.constantFrom('atOnce' as const, 'bar' as const, 'through' as const),
      follows: fc.constantFrom('stays' as const, 'chord' as const),
      leaving: fc.constantFrom('carryOn' as const, 'stop' as const, 'finishBar' as const),
    });
    fc.assert(
      fc.property(settings, fc.array(event, { maxLength: 40 }), (how, events) => {
        const all = new BandAlone(
          [accompanist(how, 'four', 'three', 'run', 'long'), other(how, 'kit', 'run')],
          bandKeys,
        );
        all.tick = 0.02;
        for (const one of events) {
          if ('key' in one && one.down) all.press(one.key);
          if ('key' in one && !one.down) all.release(one.key);
          if ('beats' in one) all.turn(one.beats);
          if ('tempo' in one) all.clock.tempo = one.tempo;
          if ('id' in one) all.band.take(all.compiled(one.id));
          if ('by' in one) all.clock.countFrom(all.clock.firstBeat + one.by);
          if ('fresh' in one) {
            all.band.clockStopped();
            expect(all.sounding).toBe(0);
            all.band.clockWentOn(one.fresh);
          }
        }
        all.band.silence();
        expect(all.sounding).toBe(0);
        expect(all.clock.isRunning).toBe(false);
        expect(all.doubled).toEqual([]);
      }),
    );
  });
});
