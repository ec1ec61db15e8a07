import {
  KIND,
  newTake,
  Roll,
  MOST_RECORDS,
  type AboutTake,
  type WholeTake,
} from '../logbook/index.js';
import { channelOf, NOTE_ON } from '../midi/messages.js';
import { placeInWords } from '../model/rig/place.js';
import { isKeyboard, type Device } from '../model/rig/rig.js';
import { FASTEST_TEMPO, FOUR_FOUR, SLOWEST_TEMPO, type Metre } from '../model/show/song.js';
import {
  asTold,
  LONGEST_TAKE,
  MOST_SENDERS,
  MOST_STEPS_TAKEN,
  MOST_TEMPOS_TAKEN,
  type StepTaken,
} from '../model/show/take.js';
import type { Seconds } from '../units/times.js';
import { CannotRead } from './cannot-read.js';
import { midiChunks, type Division } from './midi-chunks.js';
import { readTrackEvents, type TrackEvent } from './midi-events.js';
import { metreOf, textOf } from './midi-file.js';

/** A place of the show with its names. */
export type NamedStep = Pick<
  StepTaken,
  'entryId' | 'songId' | 'cueId' | 'patchId' | 'song' | 'cue' | 'patch'
>;

/** What a MIDI file is played on. */
export interface MidiTakeSources {
  about: AboutTake;
  /** Devices of the rig, in their order. */
  devices: readonly Device[];
  /** Places of the show that marks of the file may name, in the order of the night. */
  steps: readonly NamedStep[];
  /** Where it begins where no mark says otherwise. */
  first: NamedStep;
}

/** A device that sends something. */
type Sending = Exclude<Device, { kind: 'module' }>;

const META = { name: 0x03, marker: 0x06, cuePoint: 0x07, tempo: 0x51, metre: 0x58 };
/** Microseconds of a quarter where a file does not say. */
const USUAL_QUARTER = 500_000;
/** Doubts that are told. */
const MOST_DOUBTS = 20;
/** Seconds for which what was played last may ring on. */
const RINGS_ON = 1;

/**
 * A Standard MIDI File as a take: a track plays the place that its name says, as those that this program has written do, else the
 * next keyboard of the rig; marks that name cues of the show lead there.
 * @throws CannotRead where it is none, holds nothing that is played, or is longer than a take can be
 */
export function takeOfMidi(
  bytes: Uint8Array,
  { about, devices, steps, first }: MidiTakeSources,
): { whole: WholeTake; doubts: string[] } {
  const { division, tracks: chunks, doubts } = midiChunks(bytes);
  let running = 0;
  const tracks = chunks.map((chunk, i) => {
    const read = readTrackEvents(chunk, running);
    running = read.running;
    doubts.push(...read.doubts.map((doubt) => `track ${i + 1}: ${doubt}`));
    return read.events;
  });
  const line = secondsLine(division, tracks.flat());
  const played = tracks.flatMap(partsOf);
  if (!played.some(({ events }) => events.some(isStruck))) throw new CannotRead('it holds no note');
  const sending = devices.filter((device): device is Sending => device.kind !== 'module');
  if (!sending.some(isKeyboard)) throw new CannotRead('the rig has no keyboard to play it on');
  const take = newTake(about);
  const messages = onDevices(played, sending, doubts).flatMap(({ device, events }) => {
    const at = take.senders.findIndex(({ place }) => place === device.place);
    const { port, place, name } = device;
    const sender =
      at >= 0 ? at : take.senders.push({ port: port.slice(0, 200), place, name: asTold(name) }) - 1;
    return events.map(({ tick, status, data1, data2 }) => ({
      ...{ seconds: line(tick), sender, data1, data2 },
      status: (status & 0xf0) | (device.channel - 1),
    }));
  });
  messages.sort((a, b) => a.seconds - b.seconds);
  const last = messages.at(-1)?.seconds ?? 0;
  if (last + RINGS_ON > LONGEST_TAKE) throw new CannotRead('it is longer than a day');
  if (messages.length + MOST_STEPS_TAKEN > MOST_RECORDS || take.senders.length > MOST_SENDERS)
    throw new CannotRead('it holds more than a take can');
  take.seconds = last + RINGS_ON;
  take.steps = stepsOf(marksIn(tracks.flat(), line), steps, first, doubts).filter(
    ({ seconds }) => seconds <= last,
  );
  take.cues = take.steps.filter(({ cueId }) => cueId !== null).length;
  take.songs = [...new Set(take.steps.map(({ song }) => song))].filter((song) => song !== '');
  take.tempos = temposOf(tracks.flat(), line).filter(({ seconds }) => seconds <= last);
  take.keys = messages.filter(isStruck).length;
  const roll = new Roll(messages.length + take.steps.length + 1);
  let step = 0;
  const goUntil = (seconds: Seconds) => {
    while (step < take.steps.length && take.steps[step].seconds <= seconds)
      roll.add(take.steps[step].seconds, KIND.step, 0, 0, 0, step++, 0);
  };
  for (const { seconds, status, data1, data2, sender } of messages) {
    goUntil(seconds);
    roll.add(seconds, KIND.message, status, data1, data2, sender, 0);
  }
  if (doubts.length > MOST_DOUBTS)
    doubts.splice(MOST_DOUBTS, Infinity, `and ${doubts.length - MOST_DOUBTS} more doubts`);
  return { whole: { take, roll: roll.take() }, doubts };
}

function isStruck({ status, data2 }: { status: number; data2: number }): boolean {
  return (status & 0xf0) === NOTE_ON && data2 > 0;
}

/** What a track plays on one channel. */
interface Part {
  name: string;
  events: TrackEvent[];
}

/** The parts of a track: one, or one a channel where it plays on several. */
function partsOf(events: readonly TrackEvent[]): Part[] {
  const title = events.find(({ status, data1 }) => status === 0xff && data1 === META.name);
  const byChannel = new Map<number, TrackEvent[]>();
  for (const event of events) {
    if (event.status >= 0xf0) continue;
    const own = byChannel.get(channelOf(event.status));
    if (own) own.push(event);
    else byChannel.set(channelOf(event.status), [event]);
  }
  const name = title ? asTold(textOf(title.bytes)) : '';
  return [...byChannel].sort(([a], [b]) => a - b).map(([, own]) => ({ name, events: own }));
}

/** Which device plays each part: the one that its name says, else the next keyboard, those with notes first. */
function onDevices(parts: readonly Part[], sending: readonly Sending[], doubts: string[]) {
  const named = (part: Part) => {
    const name = part.name.toLowerCase();
    return sending.find(
      (device) =>
        name.startsWith(`${placeInWords(device.place)}:`) || name === device.name.toLowerCase(),
    );
  };
  const taken = new Set(parts.map(named));
  const free = sending.filter((device) => isKeyboard(device) && !taken.has(device));
  const [first] = sending.filter(isKeyboard);
  return parts.map((part) => {
    const device = named(part) ?? (part.events.some(isStruck) ? free.shift() : undefined);
    if (!device && part.events.some(isStruck))
      doubts.push(
        `“${part.name || 'a track'}” finds no keyboard of its own: ${first.name} plays it`,
      );
    return { device: device ?? first, events: part.events };
  });
}

/** Turns ticks into seconds along the tempos of a file. */
function secondsLine(division: Division, events: readonly TrackEvent[]): (tick: number) => Seconds {
  if (division.per === 'second') return (tick) => tick / division.ticks;
  const marks = [{ tick: 0, seconds: 0, quarter: USUAL_QUARTER }];
  const tempos = events.filter(isTempo).sort((a, b) => a.tick - b.tick);
  const secondsFrom = (mark: (typeof marks)[number], tick: number) =>
    mark.seconds + ((tick - mark.tick) / division.ticks) * (mark.quarter / 1e6);
  for (const { tick, bytes } of tempos) {
    const before = marks[marks.length - 1];
    const mark = { tick, seconds: secondsFrom(before, tick), quarter: quarterOf(bytes) };
    if (before.tick === tick) marks[marks.length - 1] = mark;
    else marks.push(mark);
  }
  return (tick) => {
    let low = 0;
    let high = marks.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (marks[middle].tick <= tick) low = middle;
      else high = middle;
    }
    return secondsFrom(marks[low], tick);
  };
}

function isTempo({ status, data1, bytes }: TrackEvent): boolean {
  return status === 0xff && data1 === META.tempo && bytes.length >= 3 && quarterOf(bytes) > 0;
}

function quarterOf(bytes: Uint8Array): number {
  return bytes[0] * 65_536 + bytes[1] * 256 + bytes[2];
}

function temposOf(
  events: readonly TrackEvent[],
  line: (tick: number) => Seconds,
): WholeTake['take']['tempos'] {
  const told = events
    .filter((event) => isTempo(event) || (event.status === 0xff && event.data1 === META.metre))
    .sort((a, b) => a.tick - b.tick);
  const found: WholeTake['take']['tempos'] = [];
  let tempo = 60e6 / USUAL_QUARTER;
  let metre: Metre = FOUR_FOUR;
  for (const event of told) {
    const seconds = line(event.tick);
    if (seconds > LONGEST_TAKE || found.length >= MOST_TEMPOS_TAKEN) break;
    if (event.data1 === META.metre) metre = metreOf(event.bytes) ?? metre;
    else tempo = Math.max(SLOWEST_TEMPO, Math.min(FASTEST_TEMPO, 60e6 / quarterOf(event.bytes)));
    const before = found.at(-1);
    const beat = before ? before.beat + ((seconds - before.seconds) * before.tempo) / 60 : 0;
    // A metre begins its bars where it stands.
    const one = { seconds, tempo, metre, beat: event.data1 === META.metre ? 0 : beat };
    if (before?.seconds === seconds) found[found.length - 1] = one;
    else found.push(one);
  }
  return found.at(0)?.seconds === 0
    ? found
    : [{ seconds: 0, tempo: 60e6 / USUAL_QUARTER, metre: FOUR_FOUR, beat: 0 }, ...found];
}

function marksIn(events: readonly TrackEvent[], line: (tick: number) => Seconds) {
  return events
    .filter(
      ({ status, data1 }) => status === 0xff && (data1 === META.marker || data1 === META.cuePoint),
    )
    .map(({ tick, bytes }) => ({ seconds: line(tick), text: textOf(bytes).trim() }))
    .sort((a, b) => a.seconds - b.seconds);
}

/** The places that marks lead to: by song and cue, by a cue of the song that is played, or by a song. */
function stepsOf(
  marks: readonly { seconds: Seconds; text: string }[],
  steps: readonly NamedStep[],
  first: NamedStep,
  doubts: string[],
): StepTaken[] {
  const found: StepTaken[] = [];
  const go = (step: NamedStep, seconds: Seconds) => {
    if (found.length < MOST_STEPS_TAKEN) found.push({ ...step, seconds, byHand: true });
  };
  const alike = (a: string, b: string) => a.toLowerCase() === b.toLowerCase();
  for (const { seconds, text } of marks) {
    const here = found.at(-1) ?? first;
    const step =
      steps.find(({ song, cue }) => alike(text, `${song}: ${cue}`)) ??
      steps.find(({ songId, cue }) => songId === here.songId && alike(text, cue)) ??
      steps.find(({ song }) => alike(text, song));
    if (step) go(step, seconds);
    else doubts.push(`“${asTold(text)}” is no cue of this show: it is passed over`);
  }
  return found.at(0)?.seconds === 0 ? found : [{ ...first, seconds: 0, byHand: true }, ...found];
}
