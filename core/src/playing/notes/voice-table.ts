import { MOST_DEVICES } from '../../model/rig/rig.js';

/** Voices that can be held at one time; the oldest is let go beyond that. */
export const MOST_HELD = 1024;
const NONE = -1;

/** What ends with a voice: gets its number, and whatever was given along when it began. */
export type VoiceEnd<T> = (voice: number, attached: T | null) => void;

/** A key of a device's channel as one number. */
export function keySlot(device: number, channel: number, key: number): number {
  return (device * 16 + channel - 1) * 128 + key;
}

/**
 * Which voices each pressed key has begun. A key's voices form a linked list through fixed tables, so that playing allocates
 * nothing. A voice whose key is up but whose pedal is down stays in its list, marked as sustained.
 */
export class VoiceTable<T> {
  private readonly head = new Int16Array(MOST_DEVICES * 16 * 128).fill(NONE);
  private readonly next = new Int16Array(MOST_HELD).fill(NONE);
  private readonly keyOfVoice = new Int32Array(MOST_HELD).fill(NONE);
  private readonly sustained = new Uint8Array(MOST_HELD);
  private readonly obeysSustain = new Uint8Array(MOST_HELD);
  private readonly ringsOn = new Uint8Array(MOST_HELD);
  private readonly obeysPressure = new Uint8Array(MOST_HELD);
  /** Counts the strikes of keys, so that what one strike began is known. */
  private readonly strikeOf = new Float64Array(MOST_HELD);
  private readonly voiceId = new Float64Array(MOST_HELD);
  private readonly attached: (T | null)[] = new Array<T | null>(MOST_HELD).fill(null);
  /** Voices that are free, as a stack, so that beginning one costs the same however many are held. */
  private readonly free = Int16Array.from({ length: MOST_HELD }, (_, i) => MOST_HELD - 1 - i);
  private freeCount = MOST_HELD;

  constructor(private readonly ended: VoiceEnd<T>) {}

  /** Voices that are held by a key or a pedal. */
  get held(): number {
    return MOST_HELD - this.freeCount;
  }

  /** Enters a voice under its key. `strike` rises with every key struck; `ringsOn` is for what dies away like a string. */
  begin(
    slot: number,
    id: number,
    obeysSustain: boolean,
    attached: T | null,
    strike = 0,
    ringsOn = false,
    obeysPressure = false,
  ): void {
    if (this.freeCount === 0) {
      const longest = this.longestHeld();
      this.unlink(longest, this.keyOfVoice[longest]);
      this.finish(longest);
    }
    const voice = this.free[--this.freeCount];
    this.keyOfVoice[voice] = slot;
    this.sustained[voice] = 0;
    this.obeysSustain[voice] = obeysSustain ? 1 : 0;
    this.ringsOn[voice] = ringsOn ? 1 : 0;
    this.obeysPressure[voice] = obeysPressure ? 1 : 0;
    this.strikeOf[voice] = strike;
    this.voiceId[voice] = id;
    this.attached[voice] = attached;
    this.next[voice] = this.head[slot];
    this.head[slot] = voice;
  }

  /** A key was let go: its voices end, but for those that a pedal holds. */
  release(slot: number, pedalDown: boolean): void {
    let voice = this.head[slot];
    let keep = NONE;
    this.head[slot] = NONE;
    while (voice !== NONE) {
      const following = this.next[voice];
      if (pedalDown && this.obeysSustain[voice] === 1) {
        this.sustained[voice] = 1;
        this.next[voice] = keep;
        keep = voice;
      } else {
        this.finish(voice);
      }
      voice = following;
    }
    this.head[slot] = keep;
  }

  /**
   * A key is struck again: its voices end, held by a pedal or not. Of a string that a pedal lets ring the last strike rings
   * on: a gentle hammer does not silence it.
   */
  strikeAgain(slot: number): void {
    let last = -1;
    for (let voice = this.head[slot]; voice !== NONE; voice = this.next[voice])
      if (this.sustained[voice] === 1 && this.strikeOf[voice] > last) last = this.strikeOf[voice];
    let voice = this.head[slot];
    let keep = NONE;
    this.head[slot] = NONE;
    while (voice !== NONE) {
      const following = this.next[voice];
      // Voices of one strike are let go together, so that all of the last one are held by the pedal.
      if (this.ringsOn[voice] === 1 && this.strikeOf[voice] === last) {
        this.next[voice] = keep;
        keep = voice;
      } else this.finish(voice);
      voice = following;
    }
    this.head[slot] = keep;
  }

  /** Calls back for every voice of a key that obeys aftertouch. */
  leanOn(
    slot: number,
    value: number,
    lean: (voice: number, value: number, attached: T | null) => void,
  ): void {
    for (let voice = this.head[slot]; voice !== NONE; voice = this.next[voice])
      if (this.obeysPressure[voice] === 1 && this.sustained[voice] === 0)
        lean(this.voiceId[voice], value, this.attached[voice]);
  }

  /** A pedal came up: what it alone has held ends. `channelSlot` is a key slot without its key, in 128s. */
  releasePedal(channelSlot: number): void {
    for (let voice = 0; voice < MOST_HELD; voice++) {
      const slot = this.keyOfVoice[voice];
      // What is free has a slot of no channel.
      if (this.sustained[voice] === 0 || slot >> 7 !== channelSlot) continue;
      this.unlink(voice, slot);
      this.finish(voice);
    }
  }

  endAll(): void {
    for (let voice = 0; voice < MOST_HELD; voice++) {
      const slot = this.keyOfVoice[voice];
      if (slot === NONE) continue;
      this.head[slot] = NONE;
      this.finish(voice);
    }
  }

  /** The voice that began before all others; numbers of voices rise. Looked for only when none is free. */
  private longestHeld(): number {
    let longest = 0;
    for (let voice = 1; voice < MOST_HELD; voice++)
      if (this.voiceId[voice] < this.voiceId[longest]) longest = voice;
    return longest;
  }

  /** Ends a voice that is in no list any more. */
  private finish(voice: number): void {
    this.keyOfVoice[voice] = NONE;
    this.next[voice] = NONE;
    this.free[this.freeCount++] = voice;
    const attached = this.attached[voice];
    this.attached[voice] = null;
    this.ended(this.voiceId[voice], attached);
  }

  private unlink(voice: number, slot: number): void {
    let at = this.head[slot];
    if (at === voice) {
      this.head[slot] = this.next[voice];
      return;
    }
    while (at !== NONE) {
      if (this.next[at] === voice) {
        this.next[at] = this.next[voice];
        return;
      }
      at = this.next[at];
    }
  }
}
