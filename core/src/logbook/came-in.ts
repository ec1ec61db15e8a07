import {
  CC,
  CHANNEL_AFTERTOUCH,
  channelOf,
  CONTROL_CHANGE,
  NOTE_OFF,
  NOTE_ON,
  PITCH_BEND,
} from '../midi/messages.js';
import type { Seconds } from '../units/times.js';
import { KIND, recordsOf } from './roll.js';

/** A message as it came in. */
export interface MessageTaken {
  seconds: Seconds;
  /** Who sent it, by its place among those of the take. */
  sender: number;
  status: number;
  data1: number;
  data2: number;
}

/** Every message as it came in, in order. */
export function messagesIn(roll: Uint8Array): MessageTaken[] {
  const found: MessageTaken[] = [];
  for (const { seconds, kind, a: status, b: data1, c: data2, who: sender } of recordsOf(roll))
    if (kind === KIND.message) found.push({ seconds, sender, status, data1, data2 });
  return found;
}

/** A key that was held. */
export interface Stroke {
  from: Seconds;
  until: Seconds;
  sender: number;
  key: number;
  velocity: number;
}

/** What hands and feet did. */
export interface Strokes {
  /** In the order in which they were let go. */
  keys: Stroke[];
  /** The sustain pedal while it was down. */
  pedals: { from: Seconds; until: Seconds; sender: number }[];
}

/** Keys and pedals as they were held; what was not let go was held until the end. */
export function strokesOf(messages: readonly MessageTaken[], end: Seconds): Strokes {
  const strokes: Strokes = { keys: [], pedals: [] };
  const down = new Map<number, Stroke>();
  const pedals = new Map<number, { from: Seconds; until: Seconds; sender: number }>();
  for (const { seconds, sender, status, data1, data2 } of messages) {
    if (status >= 0xf0) continue;
    const kind = status & 0xf0;
    const cable = sender * 16 + channelOf(status) - 1;
    const at = cable * 128 + data1;
    const isStruck = kind === NOTE_ON && data2 > 0;
    if (isStruck || kind === NOTE_OFF || kind === NOTE_ON) {
      const held = down.get(at);
      if (held) strokes.keys.push({ ...held, until: seconds });
      down.delete(at);
      if (isStruck)
        down.set(at, { from: seconds, until: end, sender, key: data1, velocity: data2 });
    } else if (kind === CONTROL_CHANGE && data1 === CC.sustain) {
      const held = pedals.get(cable);
      if (data2 >= 64 && !held) pedals.set(cable, { from: seconds, until: end, sender });
      else if (data2 < 64 && held) {
        strokes.pedals.push({ ...held, until: seconds });
        pedals.delete(cable);
      }
    }
  }
  strokes.keys.push(...down.values());
  strokes.pedals.push(...pedals.values());
  return strokes;
}

/**
 * What has to be told before a take is gone on with in its midst: where every controller, wheel and pedal stood. Keys that are
 * held there are not struck: their sound has begun before.
 */
export function chasedTo(messages: readonly MessageTaken[], at: Seconds): MessageTaken[] {
  const latest = new Map<string, MessageTaken>();
  for (const message of messages) {
    if (message.seconds >= at) break;
    const { sender, status, data1 } = message;
    const kind = status & 0xf0;
    if (kind === CONTROL_CHANGE && data1 < CC.allSoundOff)
      latest.set(`${sender} ${status} ${data1}`, message);
    else if (kind === PITCH_BEND || kind === CHANNEL_AFTERTOUCH)
      latest.set(`${sender} ${status}`, message);
  }
  return [...latest.values()];
}
