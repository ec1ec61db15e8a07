/** An event of a track of a MIDI file: when it comes in ticks from the beginning, and its bytes. */
export interface TrackEvent {
  tick: number;
  /** Status of a channel message, or 0xff for what is said about the music. */
  status: number;
  /** Data bytes of a channel message; of a meta event its type in `data1`. */
  data1: number;
  data2: number;
  /** What a meta event says; empty for messages. */
  bytes: Uint8Array;
}

const NO_BYTES = new Uint8Array(0);
const META = 0xff;
const END_OF_TRACK = 0x2f;

/** What was read of one track. */
export interface TrackEvents {
  events: TrackEvent[];
  /** Ticks from the beginning to its end. */
  end: number;
  /** What is wrong with it, in words that stand behind “track 3: ”; empty when all of it could be read. */
  doubts: string[];
  /** The status that was left running, 0 for none. */
  running: number;
}

/**
 * Reads the events of one track as far as they can be read; nothing is thrown. `running` is the status that the track before
 * left running, which some files count on.
 */
export function readTrackEvents(data: Uint8Array, running: number): TrackEvents {
  const events: TrackEvent[] = [];
  const doubts: string[] = [];
  let at = 0;
  let tick = 0;
  let status = 0;
  const cut = (): TrackEvents => {
    doubts.push('it is cut off: what comes before is read');
    return { events, end: tick, doubts, running: status };
  };
  const number = (): number => {
    let value = 0;
    for (let i = 0; i < 4; i++) {
      if (at >= data.length) return -1;
      const byte = data[at++];
      value = value * 128 + (byte & 0x7f);
      if (byte < 0x80) return value;
    }
    return -2;
  };
  while (at < data.length) {
    const delta = number();
    if (delta === -2) {
      doubts.push('it is damaged from a length on that is none: what comes before is read');
      return { events, end: tick, doubts, running: status };
    }
    if (delta < 0 || at >= data.length) return cut();
    tick += delta;
    let byte = data[at];
    if (byte >= 0x80) at++;
    else if (status !== 0) byte = status;
    else if (running !== 0) {
      doubts.push('it goes on with the status of the track before');
      byte = running;
    } else {
      doubts.push('it is damaged: a message has no status; what comes before is read');
      return { events, end: tick, doubts, running: status };
    }
    if (byte === META || byte === 0xf0 || byte === 0xf7) {
      const type = byte === META ? (data.at(at++) ?? END_OF_TRACK) : 0;
      const length = number();
      if (length < 0 || at + length > data.length) return cut();
      if (byte === META && type === END_OF_TRACK) {
        return { events, end: tick, doubts, running: status };
      }
      if (byte === META)
        events.push({
          ...{ tick, status: META, data1: type, data2: 0 },
          bytes: data.subarray(at, at + length),
        });
      at += length;
      continue;
    }
    if (byte > 0xf0) {
      doubts.push(`it is damaged: ${byte.toString(16)} is no event; what comes before is read`);
      return { events, end: tick, doubts, running: status };
    }
    status = byte;
    const hasTwo = (byte & 0xf0) !== 0xc0 && (byte & 0xf0) !== 0xd0;
    if (at + (hasTwo ? 2 : 1) > data.length) return cut();
    const data1 = data[at++];
    const data2 = hasTwo ? data[at++] : 0;
    if (data1 > 127 || data2 > 127) {
      doubts.push('it is damaged: a message has no proper bytes; what comes before is read');
      return { events, end: tick, doubts, running: status };
    }
    events.push({ tick, status: byte, data1, data2, bytes: NO_BYTES });
  }
  doubts.push('it has no end: it ends with its last event');
  return { events, end: tick, doubts, running: status };
}
