import { NOTE_OFF, NOTE_ON, PROGRAM_CHANGE } from '../midi/messages.js';
import { cutText, LONGEST_NAME } from '../model/identity.js';
import { SHORTEST_NOTE } from '../model/library/pattern-limits.js';
import type { PatternNote } from '../model/library/pattern.js';
import type { Metre } from '../model/show/song.js';
import { signatureKey, type MusicalKey } from '../pitch/musical-keys.js';
import type { Beats, BeatsPerMinute } from '../units/times.js';
import { midiChunks } from './midi-chunks.js';
import { readTrackEvents, type TrackEvent } from './midi-events.js';

/** What one track of a MIDI file plays on one channel; beats are quarters from the beginning. */
export interface MidiTrack {
  name: string;
  /** 1–16. */
  channel: number;
  /** In the order in which they begin. */
  notes: PatternNote[];
  /** Programs that it chooses, 0–127. */
  programs: { beat: Beats; program: number }[];
}

/** What is read of a Standard MIDI File. */
export interface MidiFile {
  /** One a track and channel that has notes or chooses programs. */
  tracks: MidiTrack[];
  tempos: { beat: Beats; tempo: BeatsPerMinute }[];
  metres: { beat: Beats; metre: Metre }[];
  keys: { beat: Beats; key: MusicalKey }[];
  /** What could not be read as it stands, in words. */
  doubts: string[];
}

/** Beats a minute where a file does not say. */
const USUAL_TEMPO = 120;
/** Doubts that are told; the others are counted. */
const MOST_DOUBTS = 40;
const META = { text: 0x01, trackName: 0x03, instrument: 0x04, tempo: 0x51, metre: 0x58, key: 0x59 };

/**
 * Reads a Standard MIDI File of format 0, 1 or 2. What is damaged is read as far as it goes and named among the doubts.
 * @throws CannotRead where it is no MIDI file
 */
export function readMidiFile(bytes: Uint8Array): MidiFile {
  const { format, division, tracks: chunks, doubts } = midiChunks(bytes);
  const file: MidiFile = { tracks: [], tempos: [], metres: [], keys: [], doubts };
  let running = 0;
  const read = chunks.map((chunk, i) => {
    const track = readTrackEvents(chunk, running);
    running = track.running;
    doubts.push(...track.doubts.map((doubt) => `track ${i + 1}: ${doubt}`));
    return track;
  });
  if (format === 2 && read.length > 1)
    doubts.push('its tracks are pieces of their own: each begins at its own beginning');
  const tempo = read.flatMap(({ events }) => events).map(tempoOf);
  const first = tempo.find((found) => found !== null && found > 0) ?? USUAL_TEMPO;
  if (division.per === 'second')
    doubts.push(
      `it counts seconds, not beats: beats are those of ${Math.round(first)} a minute throughout`,
    );
  const perBeat = division.per === 'quarter' ? division.ticks : (division.ticks * 60) / first;
  read.forEach(({ events, end }, i) => {
    const number = `track ${i + 1}`;
    told(events, perBeat, number, file);
    file.tracks.push(...tracksOf(events, end, perBeat, number, doubts));
  });
  for (const list of [file.tempos, file.metres, file.keys]) list.sort((a, b) => a.beat - b.beat);
  if (doubts.length > MOST_DOUBTS)
    doubts.splice(MOST_DOUBTS, Infinity, `and ${doubts.length - MOST_DOUBTS} more doubts`);
  return file;
}

/** Tempo of an event, beats a minute to a hundredth, which is as fine as microseconds tell; 0 where it is none, null for another event. */
function tempoOf({ status, data1, bytes }: TrackEvent): BeatsPerMinute | null {
  if (status !== 0xff || data1 !== META.tempo || bytes.length < 3) return null;
  const microseconds = bytes[0] * 65_536 + bytes[1] * 256 + bytes[2];
  return microseconds === 0 ? 0 : Math.round((60e6 / microseconds) * 100) / 100;
}

/** What a track says about the music. */
function told(
  events: readonly TrackEvent[],
  perBeat: number,
  number: string,
  { tempos, metres, keys, doubts }: MidiFile,
): void {
  for (const event of events) {
    if (event.status !== 0xff) continue;
    const { tick, data1: type, bytes } = event;
    const beat = tick / perBeat;
    const tempo = tempoOf(event);
    if (tempo === 0) doubts.push(`${number}: a tempo of nothing is passed over`);
    else if (tempo !== null) tempos.push({ beat, tempo });
    if (type === META.metre && bytes.length >= 2) {
      const metre = metreOf(bytes);
      if (metre) metres.push({ beat, metre });
      else doubts.push(`${number}: a metre of ${bytes[0]}/${2 ** bytes[1]} is passed over`);
    }
    if (type === META.key && bytes.length >= 2) {
      const key = signatureKey((bytes[0] << 24) >> 24, bytes[1] === 1 ? 'minor' : 'major');
      if (key) keys.push({ beat, key });
      else doubts.push(`${number}: a key with ${bytes[0]} signs is passed over`);
    }
  }
}

/** The metre that an event tells; null for one that nobody counts. */
export function metreOf(bytes: Uint8Array): Metre | null {
  const unit = ([2, 4, 8, 16] as const).find((value) => value === 2 ** bytes[1]);
  return unit && bytes[0] >= 1 && bytes[0] <= 32 ? { beats: bytes[0], unit } : null;
}

/** The notes of a track, one entry a channel. */
function tracksOf(
  events: readonly TrackEvent[],
  end: number,
  perBeat: number,
  number: string,
  doubts: string[],
): MidiTrack[] {
  const byChannel = new Map<number, MidiTrack>();
  const name = nameOf(events);
  const trackOn = (channel: number) => {
    const known = byChannel.get(channel) ?? { name, channel, notes: [], programs: [] };
    byChannel.set(channel, known);
    return known;
  };
  /** Notes that have begun and not ended, the oldest first, by channel and key. */
  const begun = new Map<number, { note: PatternNote; tick: number }[]>();
  // Counted in ticks: the difference of two fractions is a little beside the fraction that was meant.
  const endAt = (one: { note: PatternNote; tick: number }, tick: number) => {
    one.note.length = Math.max(SHORTEST_NOTE, (tick - one.tick) / perBeat);
  };
  let stray = 0;
  for (const { tick, status, data1, data2 } of events) {
    if (status === 0xff) continue;
    const kind = status & 0xf0;
    const channel = (status & 0x0f) + 1;
    const beat = tick / perBeat;
    const slot = channel * 128 + data1;
    if (kind === PROGRAM_CHANGE) trackOn(channel).programs.push({ beat, program: data1 });
    else if (kind === NOTE_ON && data2 > 0) {
      const note = { beat, length: 0, key: data1, velocity: data2 };
      trackOn(channel).notes.push(note);
      const others = begun.get(slot);
      if (others) others.push({ note, tick });
      else begun.set(slot, [{ note, tick }]);
    } else if (kind === NOTE_OFF || kind === NOTE_ON) {
      const one = begun.get(slot)?.shift();
      if (one) endAt(one, tick);
      else stray++;
    }
  }
  let endless = 0;
  for (const notes of begun.values())
    for (const one of notes) {
      endAt(one, end);
      endless++;
    }
  if (endless > 0) doubts.push(`${number}: ${endless} of its notes never end: they end with it`);
  if (stray > 0)
    doubts.push(`${number}: ${stray} notes end that have not begun: they are passed over`);
  return [...byChannel.values()].sort((a, b) => a.channel - b.channel);
}

function nameOf(events: readonly TrackEvent[]): string {
  for (const type of [META.trackName, META.instrument]) {
    const found = events.find(({ status, data1 }) => status === 0xff && data1 === type);
    const name = found ? cutText(textOf(found.bytes), LONGEST_NAME) : '';
    if (name) return name;
  }
  return '';
}

/** Text as UTF-8 where it is, else a character a byte; without what cannot be shown. */
export function textOf(bytes: Uint8Array): string {
  const first = Array.from(bytes.subarray(0, 1024));
  let text: string;
  try {
    text = decodeURIComponent(
      first.map((byte) => `%${byte.toString(16).padStart(2, '0')}`).join(''),
    );
  } catch {
    text = String.fromCharCode(...first);
  }
  return text.replaceAll(/\p{Cc}+/gu, ' ');
}
