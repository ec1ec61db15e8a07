import {
  dataLength,
  END_OF_EXCLUSIVE,
  MOST_EXCLUSIVE,
  SYSTEM_EXCLUSIVE,
  type MidiHandler,
} from './messages.js';

/**
 * Turns a stream of bytes into messages (MIDI 1.0, *MIDI 1.0 Detailed Specification*): running status, real-time bytes
 * between the bytes of others, exclusive messages collected, broken input dropped and reported.
 * It keeps state between calls, so that a message may arrive in pieces, and allocates nothing but for long exclusive messages.
 */
export class MidiParser {
  private status = 0;
  private needed = 0;
  private have = 0;
  private first = 0;
  private inExclusive = false;
  private exclusive = new Uint8Array(256);
  private exclusiveLength = 0;
  private orphans = 0;

  constructor(private readonly handler: MidiHandler) {}

  /** Takes the next bytes of the stream. */
  push(bytes: ArrayLike<number>): void {
    for (let i = 0; i < bytes.length; i++) this.byte(bytes[i]);
    this.reportOrphans();
  }

  private byte(byte: number): void {
    if (!(byte >= 0 && byte <= 0xff)) {
      this.orphans++;
    } else if (byte >= 0xf8) {
      // Real-time bytes may stand anywhere, even inside another message, and leave its state alone.
      if (dataLength(byte) === 0) this.handler.message(byte, 0, 0);
    } else if (byte >= 0x80) {
      this.statusByte(byte);
    } else if (this.inExclusive) {
      this.exclusiveByte(byte);
    } else {
      this.dataByte(byte);
    }
  }

  private statusByte(byte: number): void {
    if (this.have > 0) this.orphans += 1 + this.have;
    this.have = 0;
    const endedExclusive = this.inExclusive;
    this.inExclusive = false;
    if (endedExclusive) this.endExclusive(byte === END_OF_EXCLUSIVE);
    if (byte === SYSTEM_EXCLUSIVE) {
      this.inExclusive = true;
      this.exclusiveLength = 0;
      this.status = 0;
    } else if (byte === END_OF_EXCLUSIVE) {
      if (!endedExclusive) this.orphans++;
      this.status = 0;
    } else {
      const length = dataLength(byte);
      this.status = length > 0 ? byte : 0;
      this.needed = length;
      if (length === 0) this.handler.message(byte, 0, 0);
      else if (length < 0) this.orphans++;
    }
  }

  private exclusiveByte(byte: number): void {
    const at = this.exclusiveLength++;
    if (at >= MOST_EXCLUSIVE || !this.handler.exclusive) return;
    if (at >= this.exclusive.length) {
      const longer = new Uint8Array(Math.min(MOST_EXCLUSIVE, this.exclusive.length * 2));
      longer.set(this.exclusive);
      this.exclusive = longer;
    }
    this.exclusive[at] = byte;
  }

  private endExclusive(ended: boolean): void {
    const length = Math.min(this.exclusiveLength, MOST_EXCLUSIVE);
    const tooLong = this.exclusiveLength > MOST_EXCLUSIVE ? 'too long' : null;
    this.handler.exclusive?.(this.exclusive.subarray(0, length), ended ? tooLong : 'unended');
  }

  private dataByte(byte: number): void {
    if (this.status === 0) {
      this.orphans++;
      return;
    }
    if (this.have + 1 < this.needed) {
      this.first = byte;
      this.have++;
      return;
    }
    this.have = 0;
    const status = this.status;
    // System common messages do not leave a running status behind.
    if (status >= 0xf0) this.status = 0;
    if (this.needed === 2) this.handler.message(status, this.first, byte);
    else this.handler.message(status, byte, 0);
  }

  private reportOrphans(): void {
    if (this.orphans === 0) return;
    const count = this.orphans;
    this.orphans = 0;
    this.handler.broken?.(count);
  }
}
