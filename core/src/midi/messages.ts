/** Status bytes of channel voice messages, channel bits zero. */
export const NOTE_OFF = 0x80;
export const NOTE_ON = 0x90;
export const POLY_AFTERTOUCH = 0xa0;
export const CONTROL_CHANGE = 0xb0;
export const PROGRAM_CHANGE = 0xc0;
export const CHANNEL_AFTERTOUCH = 0xd0;
export const PITCH_BEND = 0xe0;
export const SYSTEM_EXCLUSIVE = 0xf0;
export const END_OF_EXCLUSIVE = 0xf7;
export const SONG_POSITION = 0xf2;
export const SONG_SELECT = 0xf3;
/** The first of the real-time messages, which may stand anywhere. */
export const REAL_TIME = 0xf8;
export const TIMING_CLOCK = 0xf8;
export const START_CLOCK = 0xfa;
export const CONTINUE_CLOCK = 0xfb;
export const STOP_CLOCK = 0xfc;
export const ACTIVE_SENSING = 0xfe;

/** Controllers with a fixed meaning in the MIDI 1.0 specification. */
export const CC = {
  bank: 0,
  modulation: 1,
  breath: 2,
  foot: 4,
  volume: 7,
  pan: 10,
  expression: 11,
  bankFine: 32,
  sustain: 64,
  allSoundOff: 120,
  resetAllControllers: 121,
  allNotesOff: 123,
  omniOff: 124,
  omniOn: 125,
  monoOn: 126,
  polyOn: 127,
} as const;

/** The centre of pitch bend, 0–16383. */
export const BEND_CENTRE = 8192;
/** Steps of the pitch wheel from its centre to its end. */
export const BEND_FULL = BEND_CENTRE - 1;

/** The most bytes of an exclusive message that are kept. */
export const MOST_EXCLUSIVE = 65_536;
export type ExclusiveFault = 'unended' | 'too long';

/**
 * What a parser hands over. Called with plain numbers, so that nothing is allocated on the live path.
 * `status` carries the channel in its low four bits for channel messages; unused data bytes are 0.
 */
export interface MidiHandler {
  message(status: number, data1: number, data2: number): void;
  /** Called once for bytes that make no message, with how many were thrown away. */
  broken?(bytes: number): void;
  /**
   * A whole exclusive message, without its first and last byte; the array is reused. One that did not end, or was longer than
   * {@link MOST_EXCLUSIVE} bytes, comes as far as it was kept, and with what is wrong with it.
   */
  exclusive?(bytes: Uint8Array, fault: ExclusiveFault | null): void;
}

/** Number of data bytes that follow a status byte; −1 for one that the specification leaves undefined. */
export function dataLength(status: number): number {
  if (status < 0xf0) return (status & 0xe0) === 0xc0 ? 1 : 2;
  switch (status) {
    case 0xf1:
    case 0xf3:
      return 1;
    case 0xf2:
      return 2;
    case 0xf4:
    case 0xf5:
    case 0xf9:
    case 0xfd:
      return -1;
    default:
      return 0;
  }
}

/** Channel 1–16 of a channel message's status byte. */
export function channelOf(status: number): number {
  return (status & 0x0f) + 1;
}

/** Writes a note-on; `channel` 1–16, the rest 0–127. */
export function noteOn(channel: number, note: number, velocity: number): number[] {
  return [NOTE_ON | (channel - 1), note & 0x7f, velocity & 0x7f];
}

/** Writes a note-off with its release velocity. */
export function noteOff(channel: number, note: number, velocity = 64): number[] {
  return [NOTE_OFF | (channel - 1), note & 0x7f, velocity & 0x7f];
}

/** Writes a control change. */
export function controlChange(channel: number, controller: number, value: number): number[] {
  return [CONTROL_CHANGE | (channel - 1), controller & 0x7f, value & 0x7f];
}

/** Writes a program change; `program` 0–127. */
export function programChange(channel: number, program: number): number[] {
  return [PROGRAM_CHANGE | (channel - 1), program & 0x7f];
}

/** Writes channel aftertouch. */
export function channelPressure(channel: number, value: number): number[] {
  return [CHANNEL_AFTERTOUCH | (channel - 1), value & 0x7f];
}

/** Writes aftertouch of one key. */
export function keyPressure(channel: number, note: number, value: number): number[] {
  return [POLY_AFTERTOUCH | (channel - 1), note & 0x7f, value & 0x7f];
}

/** Writes a song select; `song` 0–127. */
export function songSelect(song: number): number[] {
  return [SONG_SELECT, song & 0x7f];
}

/** Writes a song position in sixteenths from the beginning, 0–16383. */
export function songPosition(sixteenths: number): number[] {
  return [SONG_POSITION, sixteenths & 0x7f, (sixteenths >> 7) & 0x7f];
}

/** Writes a pitch bend; `value` 0–16383, {@link BEND_CENTRE} is none. */
export function pitchBend(channel: number, value: number): number[] {
  return [PITCH_BEND | (channel - 1), value & 0x7f, (value >> 7) & 0x7f];
}

/** The message in words for the activity display, without its channel. `name` writes a note number. */
export function messageInWords(
  status: number,
  data1: number,
  data2: number,
  name: (note: number) => string,
): string {
  switch (status & 0xf0) {
    case NOTE_OFF:
      return `${name(data1)} off`;
    case NOTE_ON:
      return data2 === 0 ? `${name(data1)} off` : `${name(data1)} v${data2}`;
    case POLY_AFTERTOUCH:
      return `${name(data1)} pressure ${data2}`;
    case CONTROL_CHANGE:
      return `CC ${data1} = ${data2}`;
    case PROGRAM_CHANGE:
      return `program ${data1 + 1}`;
    case CHANNEL_AFTERTOUCH:
      return `pressure ${data1}`;
    case PITCH_BEND:
      return `bend ${data1 + (data2 << 7) - BEND_CENTRE}`;
    default:
      return `system ${status.toString(16).toUpperCase()}`;
  }
}
