import { describe, expect, it } from 'vitest';
import { BLOCK, blockOutput } from './block.js';
import {
  ARGUMENTS,
  BUSES,
  COMMAND_RING_BYTES,
  CommandRing,
  PAIRS,
  RECORD,
} from './command-ring.js';

const RECORDS = (COMMAND_RING_BYTES - 8) / (RECORD * 8);

describe('the ring of commands', () => {
  it('hands over each number in its place, those left out as 0', () => {
    const ring = new CommandRing(new ArrayBuffer(COMMAND_RING_BYTES));
    const record = new Float64Array(RECORD);
    expect(ring.read(record)).toBe(false);
    ring.write(1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11);
    ring.write(12, 13);
    expect(ring.read(record)).toBe(true);
    expect([...record]).toEqual([1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11]);
    expect(ring.read(record)).toBe(true);
    expect([...record]).toEqual([12, 13, 0, 0, 0, 0, 0, 0, 0, 0, 0]);
    expect(record[ARGUMENTS]).toBe(0);
    expect(ring.read(record)).toBe(false);
  });

  it('holds one less than its records, counts what it refuses, and goes round without end', () => {
    const memory = new ArrayBuffer(COMMAND_RING_BYTES);
    const [writer, reader] = [new CommandRing(memory), new CommandRing(memory)];
    const record = new Float64Array(RECORD);
    let next = 0;
    let expected = 0;
    for (const rounds of [1, RECORDS - 2, 3, RECORDS - 1]) {
      const written = Array.from({ length: rounds }, () => writer.write(2, 0, next++));
      expect(written.every(Boolean)).toBe(true);
      const read = Array.from({ length: rounds }, () => reader.read(record) && record[ARGUMENTS]);
      expect(read.every((number) => number === expected++)).toBe(true);
    }
    for (let i = 0; i < RECORDS - 1; i++) writer.write(2, 0, 0);
    expect([writer.refused, writer.write(2, 0, 0), writer.refused]).toEqual([0, false, 1]);
    writer.clear();
    expect(reader.read(record)).toBe(false);
    expect(writer.write(2, 0, 7)).toBe(true);
  });
});

describe('the buffers of a block', () => {
  it('are of one length, for the mix, the effects and the pairs', () => {
    const { mix, buses, pairs } = blockOutput();
    expect([buses.length, pairs.length]).toEqual([BUSES, PAIRS]);
    const all = [mix, ...buses, ...pairs].flatMap(({ left, right }) => [left, right]);
    expect(new Set(all).size).toBe(all.length);
    expect(all.every((buffer) => buffer.length === BLOCK)).toBe(true);
  });
});
