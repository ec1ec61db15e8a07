import { writeMidi, type MidiEvent } from 'midi-file';
import { barBeats } from '../clock/bar.js';
import {
  bytesOfMessage,
  messagesIn,
  soundedIn,
  type HeardSetting,
  type WholeTake,
} from '../logbook/index.js';
import { CC, SYSTEM_EXCLUSIVE, TIMING_CLOCK } from '../midi/messages.js';
import { layerLetter } from '../model/patch/patch.js';
import { placeInWords } from '../model/rig/place.js';
import type { LayerTaken, Take, TempoTaken } from '../model/show/take.js';
import { SILENCE_DB, type Decibels } from '../units/decibels.js';
import { beatsOfSeconds, type Beats, type Seconds } from '../units/times.js';
import { asBytes, inTurn, ORDER, TICKS_PER_BEAT, type Timed } from './midi-file-writing.js';

/** Seconds between two steps of a level that glides. */
const GLIDE_STEP: Seconds = 0.05;
/** Where no tempo is known, beats a minute. */
const USUAL_TEMPO = 120;
/** The channel on which kits are heard by General MIDI, 1–16. */
const DRUMS = 10;

/** A level as controller 7: 127 is 0 dB, 90 is −6 dB, 64 is −12 dB; silence is 0. */
export function levelAsController(level: Decibels): number {
  if (level <= SILENCE_DB) return 0;
  return Math.max(0, Math.min(127, Math.round(127 * 10 ** (level / 40))));
}

/** A pan, −1…1, as controller 10. */
export function panAsController(pan: number): number {
  return Math.max(0, Math.min(127, Math.round(63.5 + 63.5 * pan)));
}

/**
 * A take as it came in, as a Standard MIDI File of format 1: the tempos, the metres and the cues as markers, then one track a
 * place with every message. Ticks of a clock are left out: the tempos tell them.
 */
export function midiAsItCameIn({ take, roll }: WholeTake): Uint8Array<ArrayBuffer> {
  const line = new BeatLine(take.tempos);
  const tracks = take.senders.map((): Timed[] => []);
  for (const message of messagesIn(roll)) {
    if (message.status === TIMING_CLOCK) continue;
    const tick = line.tickAt(message.seconds);
    tracks[message.sender].push({
      tick,
      order: ORDER.told,
      event: eventOf(bytesOfMessage(message)),
    });
  }
  for (const { seconds, sender, bytes } of take.long)
    tracks[sender].push({
      ...{ tick: line.tickAt(seconds), order: ORDER.told },
      event: {
        deltaTime: 0,
        type: 'sysEx',
        data: [...bytes, 0xf7] as unknown as Uint8Array,
      },
    });
  const named = take.senders.map(({ place, name }) =>
    place === null ? name : `${placeInWords(place)}: ${name}`,
  );
  return written(take, line, tracks, named);
}

/**
 * A take as it sounded, as a Standard MIDI File of format 1: the tempos, the metres and the cues as markers, then one track a
 * layer with its notes, its program, and its level and pan as they were heard. Layers of one patch are on channels of their own,
 * kits on the tenth.
 */
export function midiAsItSounded({ take, roll }: WholeTake): Uint8Array<ArrayBuffer> {
  const line = new BeatLine(take.tempos);
  const { notes, levels, pans } = soundedIn(roll, take.seconds);
  const tracks = take.layers.map(({ program }, layer): Timed[] => {
    if (program === null) return [];
    const event = {
      deltaTime: 0,
      type: 'programChange' as const,
      channel: channelOf(take.layers[layer]),
    };
    return [{ tick: 0, order: ORDER.program, event: { ...event, programNumber: program } }];
  });
  const put = (layer: number, seconds: Seconds, controllerType: number, value: number) =>
    tracks[layer].push({
      ...{ tick: line.tickAt(seconds), order: ORDER.program },
      event: {
        deltaTime: 0,
        type: 'controller',
        channel: channelOf(take.layers[layer]),
        controllerType,
        value,
      },
    });
  take.layers.forEach((_layer, layer) => {
    const own = (settings: readonly HeardSetting[]) =>
      settings.filter((one) => one.layer === layer);
    for (const { seconds, value } of glided(own(levels))) put(layer, seconds, CC.volume, value);
    for (const { seconds, value } of own(pans)) put(layer, seconds, CC.pan, panAsController(value));
  });
  for (const { seconds, length, layer, key, velocity } of notes) {
    const note = { deltaTime: 0, channel: channelOf(take.layers[layer]), noteNumber: key };
    const tick = line.tickAt(seconds);
    tracks[layer].push(
      { tick, order: ORDER.noteOn, event: { ...note, type: 'noteOn', velocity } },
      {
        ...{ tick: Math.max(tick + 1, line.tickAt(seconds + length)), order: ORDER.noteOff },
        event: { ...note, type: 'noteOff', velocity: 64 },
      },
    );
  }
  const sounded = new Set(notes.map(({ layer }) => layer));
  const heard = tracks.map((events, layer) => (sounded.has(layer) ? events : []));
  const named = take.layers.map(({ song, patch, index, name }) =>
    [song, patch, `${layerLetter(index)} ${name}`].filter((part) => part).join(' · '),
  );
  return written(take, line, heard, named);
}

/** Channel of a layer, 0–15: its letter’s, past the one of kits. */
function channelOf({ index, drums }: LayerTaken): number {
  if (drums) return DRUMS - 1;
  const others = index % 15;
  return others < DRUMS - 1 ? others : others + 1;
}

/** Levels as controller 7, with the steps of what glides; of what is the same twice the first. */
function glided(levels: readonly HeardSetting[]): { seconds: Seconds; value: number }[] {
  const found: { seconds: Seconds; value: number }[] = [];
  const say = (seconds: Seconds, level: Decibels) => {
    const value = levelAsController(level);
    if (found.at(-1)?.value !== value) found.push({ seconds, value });
  };
  let from: Decibels = SILENCE_DB;
  levels.forEach(({ seconds, value: to, within }, i) => {
    const next = i + 1 < levels.length ? levels[i + 1].seconds : Infinity;
    let now = to;
    for (let t = 0; t < within; t += GLIDE_STEP) {
      now = from + ((to - from) * t) / within;
      if (seconds + t >= next) break;
      say(seconds + t, now);
      now = to;
    }
    if (seconds + within < next) say(seconds + within, to);
    from = seconds + within < next ? to : now;
  });
  return found;
}

function eventOf(bytes: readonly number[]): MidiEvent {
  const [status, data1, data2] = bytes;
  const channel = status & 0x0f;
  const on = { deltaTime: 0, channel };
  if (status >= SYSTEM_EXCLUSIVE)
    return { deltaTime: 0, type: 'endSysEx', data: bytes as unknown as Uint8Array };
  switch (status & 0xf0) {
    case 0x80:
      return { ...on, type: 'noteOff', noteNumber: data1, velocity: data2 };
    case 0x90:
      return { ...on, type: 'noteOn', noteNumber: data1, velocity: data2 };
    case 0xa0:
      return { ...on, type: 'noteAftertouch', noteNumber: data1, amount: data2 };
    case 0xb0:
      return { ...on, type: 'controller', controllerType: data1, value: data2 };
    case 0xc0:
      return { ...on, type: 'programChange', programNumber: data1 };
    case 0xd0:
      return { ...on, type: 'channelAftertouch', amount: data1 };
    default:
      return { ...on, type: 'pitchBend', value: data1 + data2 * 128 - 8192 };
  }
}

function written(take: Take, line: BeatLine, tracks: Timed[][], names: readonly string[]) {
  const told: Timed[] = [...line.told()];
  for (const { seconds, song, cue, patch } of take.steps) {
    const text = asBytes([song, cue || patch].filter((part) => part).join(': '));
    told.push({
      ...{ tick: line.tickAt(seconds), order: ORDER.program },
      event: { deltaTime: 0, meta: true, type: 'marker', text },
    });
  }
  // A place that said nothing, and a layer that never sounded, have no track.
  const kept = tracks.flatMap((events, i) =>
    events.length > 0 ? [{ events, name: names[i] }] : [],
  );
  const title = (name: string): MidiEvent => ({
    ...{ deltaTime: 0, meta: true, type: 'trackName' },
    text: asBytes(name),
  });
  return Uint8Array.from(
    writeMidi({
      header: { format: 1, numTracks: kept.length + 1, ticksPerBeat: TICKS_PER_BEAT },
      tracks: [
        [title(take.name), ...inTurn(told)],
        ...kept.map(({ events, name }) => [title(name), ...inTurn(events)]),
      ],
    }),
  );
}

/** Microseconds of a quarter, as files tell tempos. */
function microsecondsOf(tempo: number): number {
  return Math.min(0xffffff, Math.round(60e6 / tempo));
}

/** Seconds of a take as beats from the beginning of a file: the tempos of the take, one after the other. */
class BeatLine {
  private readonly marks: { seconds: Seconds; beat: Beats; tempo: number; taken: TempoTaken }[] =
    [];

  constructor(tempos: readonly TempoTaken[]) {
    for (const taken of tempos) {
      const before = this.marks.at(-1);
      const length = barBeats(taken.metre);
      // The first bar begins where the player's began.
      const beat = before
        ? before.beat + beatsOfSeconds(taken.seconds - before.seconds, before.tempo)
        : ((taken.beat % length) + length) % length;
      // As the file tells it, in whole microseconds: over a night the difference would be heard.
      const tempo = 60e6 / microsecondsOf(taken.tempo);
      this.marks.push({ seconds: taken.seconds, beat, tempo, taken });
    }
  }

  tickAt(seconds: Seconds): number {
    let low = 0;
    let high = this.marks.length;
    while (high - low > 1) {
      const middle = (low + high) >> 1;
      if (this.marks[middle].seconds <= seconds) low = middle;
      else high = middle;
    }
    const mark = this.marks.at(low);
    const beat = mark
      ? mark.beat + beatsOfSeconds(seconds - mark.seconds, mark.tempo)
      : beatsOfSeconds(seconds, USUAL_TEMPO);
    return Math.max(0, Math.round(beat * TICKS_PER_BEAT));
  }

  /** Tempos and metres as events; a metre is told anew where bars are counted from elsewhere. */
  *told(): Generator<Timed> {
    let before: (typeof this.marks)[number] | null = null;
    for (const mark of this.marks) {
      const tick = Math.round(mark.beat * TICKS_PER_BEAT);
      const { tempo, metre, beat } = mark.taken;
      if (before?.tempo !== mark.tempo)
        yield {
          ...{ tick: before ? tick : 0, order: ORDER.told },
          event: {
            ...{ deltaTime: 0, meta: true, type: 'setTempo' },
            microsecondsPerBeat: microsecondsOf(tempo),
          },
        };
      const went = before && before.taken.beat + (mark.beat - before.beat);
      const { taken } = before ?? {};
      const isSame = taken?.metre.beats === metre.beats && taken.metre.unit === metre.unit;
      if (!isSame || went === null || Math.abs(went - beat) > 1 / TICKS_PER_BEAT)
        yield {
          ...{ tick: before ? tick : 0, order: ORDER.told },
          event: {
            ...{ deltaTime: 0, meta: true, type: 'timeSignature' },
            ...{ numerator: metre.beats, denominator: metre.unit, metronome: 24, thirtyseconds: 8 },
          },
        };
      before = mark;
    }
  }
}
