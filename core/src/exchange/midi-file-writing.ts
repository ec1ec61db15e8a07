import { writeMidi, type MidiEvent } from 'midi-file';
import { keySignature } from '../pitch/musical-keys.js';
import type { MidiFile } from './midi-file.js';

/** Ticks of a quarter in files that are written. */
export const TICKS_PER_BEAT = 960;

/** An event and when it comes; of those at one tick the lower order comes first. */
export interface Timed {
  tick: number;
  order: number;
  event: MidiEvent;
}
/** What comes first at one tick. */
export const ORDER = { told: 0, program: 1, noteOff: 2, noteOn: 3 };

/**
 * Writes a Standard MIDI File of format 1: one track with tempos, metres and keys, then one for each of the tracks. What stands
 * on 960ths of a quarter is read back the same, as long as no key of a track is struck again before it has ended.
 */
export function writeMidiFile({
  tracks,
  tempos,
  metres,
  keys,
}: Pick<MidiFile, 'tracks'> & Partial<MidiFile>): Uint8Array<ArrayBuffer> {
  const told: Timed[] = [];
  const tell = (beat: number, event: MidiEvent) =>
    told.push({ tick: tickAt(beat), order: ORDER.told, event });
  for (const { beat, tempo } of tempos ?? [])
    tell(beat, {
      ...{ deltaTime: 0, meta: true, type: 'setTempo' },
      microsecondsPerBeat: Math.min(0xffffff, Math.round(60e6 / tempo)),
    });
  for (const { beat, metre } of metres ?? [])
    tell(beat, {
      ...{ deltaTime: 0, meta: true, type: 'timeSignature' },
      ...{ numerator: metre.beats, denominator: metre.unit, metronome: 24, thirtyseconds: 8 },
    });
  for (const { beat, key } of keys ?? [])
    tell(beat, {
      ...{ deltaTime: 0, meta: true, type: 'keySignature' },
      ...{ key: keySignature(key), scale: key.mode === 'minor' ? 1 : 0 },
    });
  const written = writeMidi({
    header: { format: 1, numTracks: tracks.length + 1, ticksPerBeat: TICKS_PER_BEAT },
    tracks: [inTurn(told), ...tracks.map(eventsOf)],
  });
  return Uint8Array.from(written);
}

function eventsOf({ name, channel, notes, programs }: MidiFile['tracks'][number]): MidiEvent[] {
  const on = channel - 1;
  const events: Timed[] = programs.map(({ beat, program }) => ({
    ...{ tick: tickAt(beat), order: ORDER.program },
    event: { deltaTime: 0, type: 'programChange', channel: on, programNumber: program },
  }));
  for (const { beat, length, key, velocity } of notes) {
    const tick = tickAt(beat);
    const note = { deltaTime: 0, channel: on, noteNumber: key };
    events.push(
      { tick, order: ORDER.noteOn, event: { ...note, type: 'noteOn', velocity } },
      {
        ...{ tick: Math.max(tick + 1, tickAt(beat + length)), order: ORDER.noteOff },
        event: { ...note, type: 'noteOff', velocity: 64 },
      },
    );
  }
  const title: MidiEvent = { deltaTime: 0, meta: true, type: 'trackName', text: asBytes(name) };
  return name ? [title, ...inTurn(events)] : inTurn(events);
}

/** Events with the ticks between them, and the end of the track. */
export function inTurn(events: Timed[]): MidiEvent[] {
  events.sort((a, b) => a.tick - b.tick || a.order - b.order);
  let before = 0;
  const list = events.map(({ tick, event }) => {
    const deltaTime = tick - before;
    before = tick;
    return { ...event, deltaTime };
  });
  return [...list, { deltaTime: 0, meta: true, type: 'endOfTrack' }];
}

function tickAt(beat: number): number {
  return Math.max(0, Math.round(beat * TICKS_PER_BEAT));
}

/** Text as UTF-8, a character a byte, which is how the writer takes it. */
export function asBytes(text: string): string {
  return encodeURIComponent(text).replaceAll(/%([0-9A-F]{2})/g, (_all, hex: string) =>
    String.fromCharCode(parseInt(hex, 16)),
  );
}
