import * as fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  bytesOfTake,
  CannotRead,
  levelAsController,
  midiAsItCameIn,
  midiAsItSounded,
  panAsController,
  readTake,
  takeOfMidi,
  writeMidiFile,
  type MidiTakeSources,
} from '../exchange/index.js';
import { midiChunks } from '../exchange/midi-chunks.js';
import { readTrackEvents } from '../exchange/midi-events.js';
import { readMidiFile } from '../exchange/midi-file.js';
import { newTreatment } from '../model/patch/treatment.js';
import { newNight } from '../model/show/night.js';
import type { NowPlaying } from '../playing/show/show-plan.js';
import {
  COMMAND,
  COMMAND_RING_BYTES,
  CommandRing,
  RECORD,
  START,
} from '../sampler/command-ring.js';
import { sourceOf } from '../synthesis/source.js';
import { devices, plan, SmallShow } from '../testing/small-show.js';
import {
  bytesOfMessage,
  goneOnWith,
  KIND,
  messagesIn,
  newTake,
  RECORD_BYTES,
  recordsOf,
  Roll,
  soundedIn,
  standingAt,
  stretchOf,
  strokesOf,
  TakeAgain,
  TakeRecorder,
  TakeRun,
  type WholeTake,
} from './index.js';

const place: NowPlaying = {
  ...{ entryId: 'entry', songId: 'song', cueId: 'one', patchId: 'first' },
  ...{ soloed: new Set<string>(), asCue: true, showtime: true },
};
/** The first patch with an arpeggio on its clock, so that notes are handed over ahead and called off. */
const arpeggio = { ...newTreatment('arpeggio', 'up', ['layer']), on: true };
const first = { ...plan.patches.first, treatments: [arpeggio] };
const shown = { ...plan, patches: { ...plan.patches, first } };
const about = {
  ...{ id: 'take', name: 'A night', where: 'showtime' as const, began: 1_800_000_000_000 },
  ...{ showId: 's', show: 'Show' },
};

/** Milliseconds between two looks of the page at its clock. */
const TICK = 4;

/** A command as it was written: when, seconds since the beginning, and all of it. */
type Written = [number, ...number[]];

/** A show that is played from its beginning; times are seconds since then. */
class Evening {
  readonly small = new SmallShow();
  readonly written: Written[] = [];
  private readonly recorder = new TakeRecorder(this.small.live, () => this.small.time);

  constructor() {
    this.small.time = 100;
    this.small.live.follow(shown, place);
    this.small.runner.takeNight(newNight('s'));
    this.small.commands();
    this.recorder.begin(newTake(about));
  }

  /** Lets time go on to a moment, in steps as fine as the page's. */
  until(seconds: number): void {
    const end = Math.round((100 + seconds) * 1000);
    for (let ms = Math.round(this.small.time * 1000); ms < end;) {
      ms = Math.min(end, ms + TICK - (ms % TICK));
      this.small.time = ms / 1000;
      if (ms % TICK === 0) this.small.live.advance();
      this.hear();
    }
  }

  /** Remembers what was written meanwhile. */
  hear(): void {
    const record = new Float64Array(RECORD);
    while (this.small.ring.read(record)) this.written.push([this.small.time - 100, ...record]);
  }

  end(): WholeTake {
    const found = this.recorder.takeAway();
    this.recorder.end();
    if (!found) throw new Error('nothing was written');
    return found;
  }
}

/** What hands do: how long they wait before, milliseconds, and the message; or a step on the screen. */
const deed = fc.record({
  wait: fc.integer({ min: 0, max: 400 }),
  does: fc.oneof(
    {
      weight: 6,
      arbitrary: fc.tuple(
        fc.constantFrom(0x90, 0x80),
        fc.integer({ min: 48, max: 60 }),
        fc.integer({ min: 0, max: 127 }),
      ),
    },
    {
      weight: 1,
      arbitrary: fc.tuple(
        fc.constant(0xb0),
        fc.constantFrom(64, 1, 11, 7),
        fc.integer({ min: 0, max: 127 }),
      ),
    },
    {
      weight: 1,
      arbitrary: fc.tuple(
        fc.constant(0xe0),
        fc.integer({ min: 0, max: 127 }),
        fc.integer({ min: 0, max: 127 }),
      ),
    },
    {
      weight: 1,
      arbitrary: fc.constantFrom(
        'pad on' as const,
        'pad back' as const,
        'screen' as const,
        'trim' as const,
        'faster' as const,
      ),
    },
  ),
});
type Deed = typeof deed extends fc.Arbitrary<infer T> ? T : never;

function playEvening(deeds: readonly Deed[]): { whole: WholeTake; written: Written[] } {
  const evening = new Evening();
  const { small } = evening;
  let at = 0;
  for (const { wait, does } of deeds) {
    at += wait / 1000;
    evening.until(at);
    if (does === 'screen') small.live.orders.press('nextCue', small.time);
    else if (does === 'trim') small.runner.trim('layer', -3);
    else if (does === 'faster') small.runner.setTempo(small.player.clock.tempo + 30);
    else if (typeof does === 'string') {
      const note = does === 'pad on' ? 39 : 36;
      small.host.receive('pad port', [0x99, note, 100, 0x89, note, 0]);
    } else small.host.receive('upper port', [...does]);
    evening.hear();
  }
  evening.until(at + 0.5);
  return { whole: evening.end(), written: evening.written };
}

/** Plays a take again through the same show, on the same grid of time. */
function playAgain(whole: WholeTake): Written[] {
  const again = new TakeAgain(whole);
  const evening = new Evening();
  const { small } = evening;
  const to = {
    message: (m: Parameters<typeof bytesOfMessage>[0]) =>
      small.host.receive(whole.take.senders[m.sender].port, bytesOfMessage(m)),
    step: ({ cueId }: { cueId: string | null }) => {
      if (!small.runner.isAt({ ...place, cueId })) small.runner.goTo('song', cueId);
    },
    night: (night: ReturnType<typeof newNight>) => small.runner.takeNight(night),
  };
  again.beginAt(0, to);
  evening.hear();
  for (let at = again.nextAt; at < Infinity; at = again.nextAt) {
    evening.until(at);
    again.playUntil(at, to);
    evening.hear();
  }
  evening.until(whole.take.seconds);
  return evening.written;
}

/** What hands do on the screen but steps is known only a moment later: it is played again, but not at the same frame. */
const isExact = ({ does }: Deed) => does !== 'trim' && does !== 'faster';

describe('a take', () => {
  it('played again through the same show makes the same commands at the same frames', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 60 }), (deeds) => {
        const { whole, written } = playEvening(deeds.filter(isExact));
        expect(playAgain(whole)).toEqual(written);
      }),
      { numRuns: 60 },
    );
  });

  it('run through the show without a player sounds the same notes at the same frames', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 60 }), (deeds) => {
        const { whole, written } = playEvening(deeds.filter(isExact));
        const { seconds } = whole.take;
        expect(heardOf(runOf(whole), seconds, 0)).toEqual(heardOf(written, seconds, 100));
      }),
      { numRuns: 40 },
    );
  });

  it('run with layers alone sounds those, and another time the very same', () => {
    const { whole } = playEvening(fc.sample(deed, { seed: 9, numRuns: 60 }).filter(isExact));
    expect(heardOf(runOf(whole), whole.take.seconds, 0)).not.toEqual([]);
    expect(runOf(whole)).toEqual(runOf(whole));
    const alone = (id: string) => heardOf(runOf(whole, new Set([id])), whole.take.seconds, 0);
    expect(alone('layer')).toEqual(heardOf(runOf(whole), whole.take.seconds, 0));
    expect(alone('another')).toEqual([]);
  });

  it('holds every note as the engine was told of it: when it began, how long it was, and of which layer', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 60 }), (deeds) => {
        const { whole, written } = playEvening(deeds);
        const { notes } = soundedIn(whole.roll, whole.take.seconds);
        const own = notes.filter(({ layer }) => whole.take.layers[layer].patchId === 'first');
        const inFrames = own.map(({ seconds, length, key, velocity }) => [
          ...[Math.round(seconds * 48_000), Math.round((seconds + length) * 48_000)],
          ...[key, velocity],
        ]);
        expect(inFrames).toEqual(heardOf(written, whole.take.seconds, 100));
      }),
      { numRuns: 60 },
    );
  });

  it('is the same after it was bytes, and what is damaged of it is refused in words', () => {
    const { whole } = playEvening(fc.sample(deed, { seed: 5, numRuns: 80 }));
    const bytes = bytesOfTake(whole);
    expect(readTake(bytes)).toEqual(whole);
    expect(readTake(bytes.subarray(0, bytes.length - 1))).toBe('its roll is cut off');
    expect(readTake(bytes.subarray(0, 40))).toBe('it is cut off');
    expect(readTake(Uint8Array.of(1, 2, 3, 4, 5, 6, 7, 8, 9, 10))).toBe('it is no take');
    expect(readTake(bytes.with(4, 2))).toBe('it was made by another version of the program');
    expect(readTake(bytes.with(12, 0xff))).toMatch(/heading is damaged/);
    expect(readTake(bytes.with(bytes.length - RECORD_BYTES + 8, 9))).toBe('its roll is damaged');
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.nat(255), (at, value) => {
        const read = readTake(bytes.with(at, value));
        if (typeof read === 'string') return;
        // What is read is sound: all that is made of it can be made.
        soundedIn(read.roll, read.take.seconds);
        midiAsItSounded(read);
        midiAsItCameIn(read);
      }),
      { numRuns: 300 },
    );
  });

  it('goes on with what was played later as if it were one', () => {
    const { whole: first } = playEvening(fc.sample(deed, { seed: 3, numRuns: 40 }));
    const { whole: second } = playEvening(fc.sample(deed, { seed: 4, numRuns: 40 }));
    const turned = { ...second.take, senders: [...second.take.senders].reverse() };
    const last = turned.senders.length - 1;
    const roll = new Roll(10_000);
    for (const { seconds, kind, a, b, c, who, more } of recordsOf(second.roll))
      roll.add(seconds, kind, a, b, c, kind === KIND.message ? last - who : who, more);
    const later = goneOnWith(first.take, { take: turned, roll: roll.take() }, 1000);
    const whole = { take: later.take, roll: Uint8Array.of(...first.roll, ...later.roll) };
    expect(readTake(bytesOfTake(whole))).toEqual(whole);
    expect(whole.take.senders).toEqual(first.take.senders);
    const moved = messagesIn(second.roll).map((one) => ({ ...one, seconds: one.seconds + 1000 }));
    expect(messagesIn(whole.roll)).toEqual([...messagesIn(first.roll), ...moved]);
    const notes = soundedIn(whole.roll, whole.take.seconds).notes.length;
    const each = [first, second].map((one) => soundedIn(one.roll, one.take.seconds).notes.length);
    expect(notes).toBe(each[0] + each[1]);
    // The place at which the second begins counts as another only where the first was elsewhere.
    const isSame = first.take.steps.at(-1)?.cueId === second.take.steps[0].cueId;
    const all = first.take.steps.length + second.take.steps.length;
    expect(whole.take.steps).toHaveLength(isSame ? all - 1 : all);
    const gone = goneOnWith(first.take, first, 1000).take;
    const again = goneOnWith(
      gone,
      {
        ...first,
        take: { ...first.take, steps: gone.steps.slice(-1), cues: 1 },
        roll: new Uint8Array(0),
      },
      2000,
    ).take;
    expect([again.steps.length, again.cues]).toEqual([gone.steps.length, gone.cues]);
  });

  it('says how things stood at a moment', () => {
    const evening = new Evening();
    const { small } = evening;
    small.host.receive('upper port', [0x90, 60, 80, 0xb0, 64, 127]);
    evening.until(1);
    small.host.receive('upper port', [0x80, 60, 0]);
    small.host.receive('pad port', [0x99, 39, 100]);
    small.host.receive('strange port', [0xfa]);
    evening.until(3);
    const { take, roll } = evening.end();
    const strokes = strokesOf(messagesIn(roll), take.seconds);
    const tempo = take.tempos[0].tempo;
    expect(standingAt(take, strokes.keys, 0.5)).toMatchObject({
      step: { cue: 'one', song: 'Song', patch: 'first' },
      bar: { bar: 1, beat: Math.floor(tempo / 120) + 1 },
      held: [{ key: 60, velocity: 80, from: 0, until: 1 }],
    });
    expect(standingAt(take, strokes.keys, 2.9)).toMatchObject({
      step: { cue: 'two', byHand: false },
    });
    expect(strokes.pedals).toMatchObject([{ from: 0, until: 3 }]);
    expect(take).toMatchObject({ keys: 2, cues: 2, songs: ['Song'], lost: 0 });
    expect(take.senders.map(({ name }) => name)).toEqual([
      'Upper',
      'Pads',
      'Right pedal',
      'Module',
      'strange port',
    ]);
    expect(take.nights).toMatchObject([{ seconds: 0 }]);
    expect(stretchOf({ take, roll }, 0, 2).take).toMatchObject({ keys: 2, cues: 2 });
    const later = stretchOf({ take, roll }, 1.5, 2.5);
    expect(later.take).toMatchObject({
      seconds: 1,
      keys: 0,
      cues: 1,
      steps: [{ seconds: 0, cue: 'two', byHand: true }],
    });
    expect(messagesIn(later.roll)).toMatchObject([
      { seconds: 0, status: 0xb0, data1: 64, data2: 127 },
    ]);
    expect(soundedIn(later.roll, 1).levels).toMatchObject([{ seconds: 0, value: -20 }]);
    expect(readTake(bytesOfTake(later))).toEqual(later);
  });

  it('can be read whatever was tried out, and however fast another clock went', () => {
    const evening = new Evening();
    const { small } = evening;
    small.runner.audition({ patch: plan.patches.second });
    small.player.clock.tempo = 900;
    evening.until(1);
    small.player.clock.tempo = 5;
    small.runner.audition(null);
    evening.until(2);
    const whole = evening.end();
    expect(readTake(bytesOfTake(whole))).toEqual(whole);
    expect(whole.take.cues).toBe(1);
  });

  it('counts what found no room, and goes on behind', () => {
    const roll = new Roll(4);
    for (let i = 0; i < 6; i++) roll.add(i, 0, 0x90, i, 1, 0, 0);
    expect([roll.lost, messagesIn(roll.take()).map(({ data1 }) => data1)]).toEqual([
      2,
      [0, 1, 2, 3],
    ]);
    for (let i = 6; i < 9; i++) roll.add(i, 0, 0x90, i, 1, 0, 0);
    expect(messagesIn(roll.take()).map(({ data1 }) => data1)).toEqual([6, 7, 8]);
  });
});

/** A take run through the show: every command, and when it was due at the latest. */
function runOf(whole: WholeTake, alone: ReadonlySet<string> = new Set()): Written[] {
  const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
  const written: Written[] = [];
  const run = new TakeRun({
    ...{ whole, plan: shown, place, alone, rate: 48_000, commands: ring },
    playedBy: (id) => ({ slot: 5, ringsOn: sourceOf(id)?.ringsOn ?? false }),
    setEffects: () => undefined,
  });
  for (let at = 0.02; at < whole.take.seconds; at += 0.02) {
    run.playUntil(Math.min(at, whole.take.seconds));
    const record = new Float64Array(RECORD);
    // Each bears its frame: the moment at which it was read says nothing.
    while (ring.read(record)) written.push([record[1] / 48_000, ...record]);
  }
  return written;
}

/** What an engine that is told of every command sounds: first and last frame, key and velocity of each note. */
function heardOf(written: readonly Written[], end: number, began: number): number[][] {
  interface Voice {
    from: number;
    until: number;
    key: number;
    velocity: number;
  }
  const voices: Voice[] = [];
  const byNumber = new Map<number, Voice>();
  const last = Math.round(end * 48_000);
  for (const [seconds, ...record] of written) {
    const [kind, frame, voice] = record;
    const now = Math.round(seconds * 48_000);
    const at = frame === 0 ? now : Math.round(frame - began * 48_000);
    const known = byNumber.get(voice);
    if (kind === COMMAND.start) {
      const begun = {
        from: at,
        until: Infinity,
        key: record[START.note],
        velocity: record[START.velocity],
      };
      voices.push(begun);
      byNumber.set(voice, begun);
    } else if (kind === COMMAND.silence)
      for (const one of voices) one.until = Math.min(one.until, now);
    else if (!known) continue;
    else if (kind === COMMAND.end) known.until = Math.min(known.until, at);
    else if (kind === COMMAND.takeBack && known.from > now) known.until = known.from;
    else if (kind === COMMAND.takeBack && known.until > now) known.until = Infinity;
    else if (kind === COMMAND.retime) {
      if (known.from > now) known.from = Math.round(record[3] - began * 48_000);
      known.until = record[4] < 0 ? Infinity : Math.round(record[4] - began * 48_000);
    }
  }
  return voices
    .map(({ from, until, key, velocity }) => [from, Math.min(until, last), key, velocity])
    .filter(([from, until]) => until > from)
    .sort((a, b) => a[0] - b[0] || a[2] - b[2]);
}

const stepNamed = (cueId: string) => ({
  ...{ entryId: 'entry', songId: 'song', cueId, song: 'Song', cue: cueId },
  ...{ patchId: plan.cues[cueId].patchId, patch: plan.cues[cueId].patchId },
});
const midiSources: MidiTakeSources = {
  ...{ about, devices, steps: ['one', 'two', 'three'].map(stepNamed), first: stepNamed('one') },
};

describe('as a MIDI file', () => {
  it('levels and pans are controllers of the usual law', () => {
    expect([0, -6, -12, 6, -60, -80].map(levelAsController)).toEqual([127, 90, 64, 127, 0, 0]);
    expect([-1, 0, 1, 0.5].map(panAsController)).toEqual([0, 64, 127, 95]);
  });

  it('as it came in holds every message, a track a place, within half a tick', () => {
    fc.assert(
      fc.property(fc.array(deed, { maxLength: 40 }), (deeds) => {
        const { whole } = playEvening(deeds);
        const { tracks } = midiChunks(midiAsItCameIn(whole));
        const tempo = whole.take.tempos[0].tempo;
        const sent = messagesIn(whole.roll);
        const senders = [...new Set(sent.map(({ sender }) => sender))].sort((a, b) => a - b);
        const read = tracks
          .slice(1)
          .map((track) => readTrackEvents(track, 0).events.filter(({ status }) => status < 0xf0));
        expect(
          read.map((events) => events.map(({ status, data1, data2 }) => [status, data1, data2])),
        ).toEqual(
          senders.map((sender) =>
            sent
              .filter((one) => one.sender === sender)
              .map(({ status, data1, data2 }) => [status, data1, data2]),
          ),
        );
        if (whole.take.tempos.some((one) => one.tempo !== tempo)) return;
        senders.forEach((sender, i) =>
          sent
            .filter((one) => one.sender === sender)
            .forEach(({ seconds }, n) =>
              expect(Math.abs(read[i][n].tick - (seconds * tempo * 960) / 60)).toBeLessThan(0.51),
            ),
        );
      }),
      { numRuns: 30 },
    );
  });

  it('as it came in and back is the same take: the same messages within half a tick, at the same places', () => {
    fc.assert(
      fc.property(fc.array(deed, { minLength: 1, maxLength: 40 }), (deeds) => {
        const struck: Deed = { wait: 0, does: [0x90, 60, 90] };
        const { whole } = playEvening([struck, ...deeds]);
        const back = takeOfMidi(midiAsItCameIn(whole), midiSources);
        expect(back.doubts).toEqual([]);
        const told = ({ take, roll }: WholeTake) =>
          messagesIn(roll).map(({ sender, status, data1, data2 }) =>
            [take.senders[sender].place, status, data1, data2].join(' '),
          );
        // What came at one tick from two places may change places.
        expect(told(back.whole).sort()).toEqual(told(whole).sort());
        const times = ({ roll }: WholeTake) =>
          messagesIn(roll)
            .map(({ seconds }) => seconds)
            .sort((a, b) => a - b);
        const [before, after] = [times(whole), times(back.whole)];
        before.forEach((at, i) => expect(Math.abs(at - after[i])).toBeLessThan(0.001));
        const cuesOf = ({ take }: WholeTake) => take.steps.map(({ cueId }) => cueId);
        const isIn = whole.take.steps.filter(({ seconds }) => seconds <= before[before.length - 1]);
        expect(cuesOf(back.whole)).toEqual(isIn.map(({ cueId }) => cueId));
        expect(readTake(bytesOfTake(back.whole))).toEqual(back.whole);
      }),
      { numRuns: 40 },
    );
  });

  it('of anybody plays the keyboards one after the other; what it holds damaged is read or refused in words', () => {
    const note = { beat: 1, length: 1, key: 60, velocity: 80 };
    const track = (name: string, channel: number) => ({
      name,
      channel,
      notes: [note],
      programs: [],
    });
    const tracks = [track('Piano', 4), track('Strings', 5)];
    const bytes = writeMidiFile({ tracks, tempos: [{ beat: 0, tempo: 60 }] });
    const { whole, doubts } = takeOfMidi(bytes, midiSources);
    expect(doubts).toEqual(['“Strings” finds no keyboard of its own: Upper plays it']);
    expect(messagesIn(whole.roll).map(({ seconds, status }) => [seconds, status])).toEqual([
      ...[
        [1, 0x90],
        [1, 0x90],
      ],
      ...[
        [2, 0x80],
        [2, 0x80],
      ],
    ]);
    expect(whole.take.steps).toMatchObject([{ seconds: 0, cueId: 'one' }]);
    expect(() => takeOfMidi(writeMidiFile({ tracks: [] }), midiSources)).toThrow(
      'it holds no note',
    );
    fc.assert(
      fc.property(fc.nat(bytes.length - 1), fc.nat(255), (at, value) => {
        try {
          const read = takeOfMidi(bytes.with(at, value), midiSources).whole;
          expect(readTake(bytesOfTake(read))).toEqual(read);
        } catch (fault) {
          expect(fault).toBeInstanceOf(CannotRead);
        }
      }),
      { numRuns: 500 },
    );
  });

  it('as it sounded holds every note of every layer, its level and pan, and cues as markers', () => {
    const evening = new Evening();
    const { small } = evening;
    small.host.receive('upper port', [0x90, 60, 80]);
    evening.until(1);
    small.live.orders.press('nextCue', small.time);
    evening.until(6);
    small.host.receive('upper port', [0x80, 60, 0]);
    evening.until(6.5);
    // Another patch is there at once, whatever its cue's fade.
    small.live.orders.press('nextCue', small.time);
    evening.until(7);
    const whole = evening.end();
    const levels = soundedIn(whole.roll, 7).levels.map(({ value, within }) => [value, within]);
    expect(levels).toEqual([
      [-6, 0],
      [-20, 4],
      [-6, 0],
    ]);
    const bytes = midiAsItSounded(whole);
    const file = readMidiFile(bytes);
    expect(file.doubts).toEqual([]);
    expect(file.tracks.map(({ name }) => name)).toEqual(['Song · first · A Layer']);
    const { notes } = soundedIn(whole.roll, whole.take.seconds);
    expect(notes.length).toBeGreaterThan(10);
    expect(file.tracks[0].notes.map(({ key, velocity }) => [key, velocity])).toEqual(
      notes.map(({ key, velocity }) => [key, velocity]),
    );
    const drums = whole.take.layers.map((layer) => ({ ...layer, drums: true }));
    const asKit = readMidiFile(
      midiAsItSounded({ ...whole, take: { ...whole.take, layers: drums } }),
    );
    expect([file, asKit].map(({ tracks }) => tracks[0].channel)).toEqual([1, 10]);
    const [heading, track] = midiChunks(bytes).tracks.map(
      (chunk) => readTrackEvents(chunk, 0).events,
    );
    const markers = heading.filter(({ status, data1 }) => status === 0xff && data1 === 6);
    expect(markers.map(({ bytes: text }) => new TextDecoder().decode(text))).toEqual([
      'Song: one',
      'Song: two',
      'Song: three',
    ]);
    const told = (controller: number) =>
      track
        .filter(({ status, data1 }) => status === 0xb0 && data1 === controller)
        .map(({ data2 }) => data2);
    expect(told(10)).toEqual([95]);
    // −6 dB, and over four seconds down to −20.
    const steps = told(7);
    expect([steps[0], steps.at(-1)]).toEqual([90, 40]);
    expect(steps.length).toBeGreaterThan(20);
    expect(steps).toEqual([...steps].sort((a, b) => b - a));
  });
});
