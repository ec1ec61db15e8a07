import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { RECORD, START } from './command-ring.js';
import { HeldLine } from './held-line.js';

const start = (id: number, note: number) => {
  const record = new Float64Array(RECORD);
  record[START.voice] = id;
  record[START.note] = note;
  return record;
};

describe('the notes held on a sound of one voice', () => {
  it('is led by the last one struck that is still held, whatever is let go between', () => {
    const anyDeed = fc.record({
      strike: fc.boolean(),
      id: fc.integer({ min: 0, max: 12 }),
      note: fc.integer({ min: 0, max: 127 }),
    });
    fc.assert(
      fc.property(fc.array(anyDeed, { maxLength: 60, size: 'max' }), (deeds) => {
        const line = new HeldLine();
        const held: { id: number; note: number }[] = [];
        for (const { strike, id, note } of deeds) {
          const at = held.findIndex((h) => h.id === id);
          if (strike && at < 0) {
            line.push(start(id, note));
            held.push({ id, note });
          } else {
            expect(line.remove(id)).toBe(at >= 0);
            if (at >= 0) held.splice(at, 1);
          }
          expect(line.holds(id)).toBe(held.some((h) => h.id === id));
          const last = held.at(-1);
          expect(line.last).toEqual(last ? start(last.id, last.note) : null);
        }
      }),
    );
  });

  it('forgets the first of more than 32', () => {
    const line = new HeldLine();
    for (let id = 0; id < 33; id++) line.push(start(id, 40 + id));
    expect(line.last).toEqual(start(32, 72));
    expect(line.remove(0)).toBe(false);
    for (let id = 32; id > 1; id--) expect(line.remove(id)).toBe(true);
    expect(line.last).toEqual(start(1, 41));
    line.clear();
    expect(line.last).toBeNull();
    expect(line.remove(1)).toBe(false);
  });
});
