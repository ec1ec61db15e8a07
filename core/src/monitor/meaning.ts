import {
  ACTIVE_SENSING,
  channelOf,
  CONTINUE_CLOCK,
  CONTROL_CHANGE,
  messageInWords,
  NOTE_OFF,
  NOTE_ON,
  POLY_AFTERTOUCH,
  SONG_POSITION,
  SONG_SELECT,
  START_CLOCK,
  STOP_CLOCK,
  SYSTEM_EXCLUSIVE,
  TIMING_CLOCK,
} from '../midi/messages.js';
import { noteName, type NoteNaming } from '../pitch/note-names.js';
import { BROKEN, type LoggedMessage } from './message-log.js';

/** What controllers mean by the MIDI 1.0 specification. */
const CONTROLLERS: Readonly<Partial<Record<number, string>>> = {
  0: 'bank',
  1: 'modulation',
  2: 'breath',
  4: 'foot',
  5: 'glide time',
  6: 'data entry',
  7: 'volume',
  8: 'balance',
  10: 'pan',
  11: 'expression',
  32: 'bank, fine',
  64: 'sustain pedal',
  65: 'glide',
  66: 'sostenuto pedal',
  67: 'soft pedal',
  71: 'resonance',
  72: 'release',
  73: 'attack',
  74: 'brightness',
  91: 'reverb',
  93: 'chorus',
  120: 'all sound off',
  121: 'reset all controllers',
  122: 'local control',
  123: 'all notes off',
  124: 'omni off',
  125: 'omni on',
  126: 'mono on',
  127: 'poly on',
};

const SYSTEM: Readonly<Partial<Record<number, string>>> = {
  [TIMING_CLOCK]: 'clock',
  [START_CLOCK]: 'clock starts',
  [CONTINUE_CLOCK]: 'clock goes on',
  [STOP_CLOCK]: 'clock stops',
  [ACTIVE_SENSING]: 'still there',
  0xff: 'reset',
  0xf6: 'tune',
};

/** What a controller is for, by its number; empty for one without a fixed meaning. */
export function controllerInWords(controller: number): string {
  return CONTROLLERS[controller] ?? '';
}

/** What a message means, in a player’s words: `C4 struck at 92`, `CC 64 sustain pedal 127`. */
export function meaningOf(
  { status, data1, data2, long }: LoggedMessage,
  middleC: NoteNaming,
): string {
  const name = (note: number) => noteName(note, middleC);
  if (long) return longInWords(status, long);
  switch (status < 0xf0 ? status & 0xf0 : status) {
    case NOTE_ON:
      return data2 === 0 ? `${name(data1)} let go` : `${name(data1)} struck at ${data2}`;
    case NOTE_OFF:
      return `${name(data1)} let go`;
    case POLY_AFTERTOUCH:
      return `${name(data1)} pressed ${data2}`;
    case CONTROL_CHANGE: {
      const what = controllerInWords(data1);
      return `CC ${data1}${what ? ` ${what}` : ''} ${data2}`;
    }
    case SONG_SELECT:
      return `song ${data1 + 1} chosen`;
    case SONG_POSITION:
      return `song position, sixteenth ${data1 + data2 * 128}`;
    default:
      return SYSTEM[status] ?? messageInWords(status, data1, data2, name);
  }
}

function longInWords(status: number, { length, fault }: { length: number; fault: string }): string {
  if (status === BROKEN)
    return `${length} ${length === 1 ? 'byte makes' : 'bytes make'} no message`;
  const what = `exclusive, ${length + 2} bytes`;
  return fault ? `${what}: ${fault}` : what;
}

const hex = (byte: number) => byte.toString(16).toUpperCase().padStart(2, '0');
/** Bytes of a long message that are written out. */
const MOST_WRITTEN = 24;

/** The bytes of a message in hex: `90 3C 5C`. */
export function bytesInHex({ status, data1, data2, long }: LoggedMessage): string {
  if (long) {
    const shown = long.bytes.slice(0, MOST_WRITTEN).map(hex).join(' ');
    const rest = long.length > MOST_WRITTEN ? ' …' : '';
    return status === SYSTEM_EXCLUSIVE ? `F0 ${shown}${rest} F7` : `${shown}${rest}`;
  }
  if (status >= 0xf8 || status === 0xf6) return hex(status);
  const short = (status & 0xe0) === 0xc0 || status === SONG_SELECT || status === 0xf1;
  return short ? `${hex(status)} ${hex(data1)}` : `${hex(status)} ${hex(data1)} ${hex(data2)}`;
}

/** The channel of a message, 1–16; null for one that belongs to none. */
export function channelOfMessage({ status }: LoggedMessage): number | null {
  return status >= 0x80 && status < 0xf0 ? channelOf(status) : null;
}

/** A message as a line of text: time, way, port, channel, meaning and bytes, with tabs between them. */
export function lineOfText(
  message: LoggedMessage,
  middleC: NoteNaming,
  timeInWords: (time: number) => string,
): string {
  const channel = channelOfMessage(message);
  return [
    timeInWords(message.time),
    message.way === 'in' ? '←' : '→',
    message.port,
    channel === null ? '' : `ch ${channel}`,
    meaningOf(message, middleC),
    bytesInHex(message),
  ].join('\t');
}
