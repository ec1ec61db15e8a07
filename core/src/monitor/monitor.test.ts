import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { bytesInHex, lineOfText, meaningOf } from './meaning.js';
import {
  BROKEN,
  FilteredLog,
  kindOf,
  MessageLog,
  USUAL_FILTER,
  type LogFilter,
} from './message-log.js';

const status = fc.constantFrom(0x80, 0x91, 0xa2, 0xb3, 0xc4, 0xd5, 0xe6, 0xf2, 0xf3, 0xf8, 0xfe);
const anyFilter: fc.Arbitrary<LogFilter> = fc.record({
  ways: fc.integer({ min: 0, max: 3 }),
  kinds: fc.integer({ min: 0, max: 127 }),
  channels: fc.integer({ min: 0, max: 0xffff }),
  ports: fc.constantFrom(null, 'a', 'b'),
});

describe('the log', () => {
  it('keeps the last of whatever came, and a filter shows exactly what passes, however often it looks', () => {
    fc.assert(
      fc.property(
        fc.array(fc.tuple(status, fc.constantFrom('a', 'b'), fc.boolean(), fc.boolean()), {
          maxLength: 120,
        }),
        anyFilter,
        (messages, filter) => {
          const log = new MessageLog(50);
          const filtered = new FilteredLog(log, filter);
          messages.forEach(([byte, port, isIn, look], at) => {
            log.add(at, isIn ? 'in' : 'out', port, 0, byte, at % 128, 1);
            if (look) filtered.follow();
          });
          const kept = Array.from({ length: log.count - log.first }, (_, i) => log.first + i);
          expect(kept.length).toBe(Math.min(50, messages.length));
          const passing = kept.filter((number) => {
            const line = log.at(number);
            if (!line) throw new Error('it is not kept');
            const channel = line.status < 0xf0 ? line.status & 15 : null;
            return (
              (filter.ways & (line.way === 'in' ? 1 : 2)) !== 0 &&
              (filter.kinds & (1 << kindOf(line.status))) !== 0 &&
              (channel === null || (filter.channels & (1 << channel)) !== 0) &&
              (filter.ports === null || filter.ports === line.port)
            );
          });
          const shown = Array.from({ length: filtered.follow() }, (_, i) => filtered.number(i));
          expect(shown).toEqual(passing);
          expect(log.at(log.first - 1)).toBeNull();
        },
      ),
    );
  });

  it('keeps as much of long messages as is worth keeping, and begins anew when it is cleared', () => {
    const log = new MessageLog(10);
    log.addLong(1, 'in', 'a', 0xf0, new Uint8Array(5000), 5000, 'it never ended');
    expect(log.at(0)?.long?.bytes).toHaveLength(256);
    expect(meaningOf(log.at(0)!, 4)).toBe('exclusive, 5002 bytes: it never ended');
    const filtered = new FilteredLog(log, USUAL_FILTER);
    expect(filtered.follow()).toBe(1);
    log.clear();
    expect(filtered.follow()).toBe(0);
    log.add(2, 'out', 'b', -1, 0x90, 60, 0);
    expect([filtered.follow(), filtered.number(0)]).toEqual([1, 0]);
  });
});

describe('what messages mean', () => {
  it('is told in words and bytes', () => {
    const log = new MessageLog();
    const said = (...bytes: [number, number, number]) => {
      log.add(0.5, 'in', 'Stage keys', 0, ...bytes);
      const line = log.at(log.count - 1);
      if (!line) throw new Error('it is not kept');
      return lineOfText(line, 4, String);
    };
    expect(said(0x92, 60, 90)).toBe('0.5\t←\tStage keys\tch 3\tC4 struck at 90\t92 3C 5A');
    expect(said(0xb0, 64, 127)).toContain('CC 64 sustain pedal 127\tB0 40 7F');
    expect(said(0xb0, 22, 5)).toContain('CC 22 5\t');
    expect(said(0xc0, 4, 0)).toContain('program 5\tC0 04');
    expect(said(0xf8, 0, 0)).toBe('0.5\t←\tStage keys\t\tclock\tF8');
    log.addLong(1, 'in', 'a', BROKEN, [], 1, '');
    const broken = log.at(log.count - 1);
    expect(broken && [meaningOf(broken, 4), bytesInHex(broken)]).toEqual([
      '1 byte makes no message',
      '',
    ]);
  });
});

it('the log names the port of every message, as many as it knows, and the kind of each status', () => {
  const log = new MessageLog(400);
  for (let port = 0; port < 100; port++) log.add(port, 'in', `port ${port}`, port, 0x90, 60, 1);
  expect([0, 17].map((number) => log.at(number)?.port)).toEqual(['port 0', 'port 17']);
  expect([log.at(100), log.at(-1), log.at(99)?.device]).toEqual([null, null, 99]);
  log.addLong(1, 'out', 'port 1', BROKEN, [1, 2, 3], 9, 'it never ended');
  expect(log.at(100)?.long).toEqual({ bytes: [1, 2, 3], length: 9, fault: 'it never ended' });
  const kinds = [0x80, 0x90, 0xa0, 0xb0, 0xc0, 0xd0, 0xe0, 0xf0, 0xf2, 0xf3, 0xf8, 0xfc, 0xfe, 0];
  expect(kinds.map(kindOf)).toEqual([0, 0, 2, 1, 3, 2, 2, 5, 4, 6, 4, 4, 6, 6]);
});
