import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import {
  channelOf,
  controlChange,
  messageInWords,
  noteOff,
  noteOn,
  pitchBend,
  programChange,
} from './messages.js';
import { MidiParser } from './parser.js';
import { RunningStatus } from './running-status.js';

function parse(...pieces: number[][]) {
  const messages: number[][] = [];
  let broken = 0;
  const parser = new MidiParser({
    message: (...numbers) => messages.push(numbers),
    broken: (bytes) => (broken += bytes),
  });
  for (const piece of pieces) parser.push(piece);
  return { messages, broken };
}

const data = fc.integer({ min: 0, max: 127 });
const channel = fc.integer({ min: 1, max: 16 });
const anyMessage = fc.oneof(
  fc.tuple(channel, data, data).map(([c, n, v]) => noteOn(c, n, v)),
  fc.tuple(channel, data, data).map(([c, n, v]) => noteOff(c, n, v)),
  fc.tuple(channel, data, data).map(([c, n, v]) => controlChange(c, n, v)),
  fc.tuple(channel, data).map(([c, p]) => programChange(c, p)),
  fc.tuple(channel, fc.integer({ min: 0, max: 16383 })).map(([c, v]) => pitchBend(c, v)),
);
const padded = (message: number[]) => [message[0], message[1], message[2] ?? 0];

describe('parsing MIDI bytes', () => {
  it('reads back what it writes, with running status, real-time bytes between and any chopping', () => {
    fc.assert(
      fc.property(
        fc.array(anyMessage, { maxLength: 30 }),
        fc.array(fc.tuple(fc.nat(100), fc.constantFrom(0xf8, 0xfe)), { maxLength: 10 }),
        fc.integer({ min: 1, max: 7 }),
        (messages, realTime, pieceLength) => {
          const cable = new RunningStatus();
          const bytes = messages.flatMap((message) => cable.compress(message));
          for (const [at, byte] of realTime) bytes.splice(Math.min(at, bytes.length), 0, byte);
          const pieces: number[][] = [];
          for (let i = 0; i < bytes.length; i += pieceLength)
            pieces.push(bytes.slice(i, i + pieceLength));
          const read = parse(...pieces);
          expect(read.messages.filter(([status]) => status < 0xf0)).toEqual(messages.map(padded));
          expect(read.messages.filter(([status]) => status >= 0xf8)).toHaveLength(realTime.length);
          expect(read.broken).toBe(0);
        },
      ),
    );
  });

  it('drops broken input, reports it, and goes on', () => {
    expect(parse([60, 64, 0x90, 60, 0x90, 62, 70])).toEqual({
      messages: [[0x90, 62, 70]],
      broken: 4,
    });
    expect(parse([0xf4, 1, 0x80, 60, 0])).toEqual({ messages: [[0x80, 60, 0]], broken: 2 });
    expect(parse([300, -1, NaN, 0xb0, 64, 127])).toEqual({
      messages: [[0xb0, 64, 127]],
      broken: 3,
    });
  });

  it('passes over exclusive messages and forgets the running status behind them', () => {
    const read = parse([0x90, 60, 1, 0xf0, 1, 2, 0xf8, 3, 0xf7, 61, 1, 0x90, 62, 1]);
    expect(read.messages).toEqual([
      [0x90, 60, 1],
      [0xf8, 0, 0],
      [0x90, 62, 1],
    ]);
    expect(read.broken).toBe(2);
  });

  it('never throws and never hands over a byte out of range, whatever comes in', () => {
    fc.assert(
      fc.property(fc.array(fc.integer({ min: -10, max: 300 })), (bytes) => {
        for (const [status, data1, data2] of parse(bytes).messages) {
          expect(status).toBeGreaterThanOrEqual(0x80);
          expect(Math.max(data1, data2)).toBeLessThan(128);
        }
      }),
    );
  });

  it('names messages for the activity display', () => {
    const name = (note: number) => `n${note}`;
    expect(messageInWords(0x90, 60, 92, name)).toBe('n60 v92');
    expect(messageInWords(0x90, 60, 0, name)).toBe('n60 off');
    expect(messageInWords(0xb0, 64, 127, name)).toBe('CC 64 = 127');
    expect(messageInWords(0xe0, 0, 64, name)).toBe('bend 0');
    expect(channelOf(0x9f)).toBe(16);
  });
});
