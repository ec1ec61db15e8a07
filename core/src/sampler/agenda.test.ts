import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { Agenda } from './agenda.js';
import { COMMAND, RECORD } from './command-ring.js';

const command = (kind: number, frame: number, voice: number) =>
  Float64Array.from({ length: RECORD }, (_, i) => [kind, frame, voice][i] ?? i);

describe('what waits for its frame', () => {
  it('comes out by frame, then as it came in, whatever is called off or moved between', () => {
    const anyDeed = fc.record({
      deed: fc.constantFrom('add', 'add', 'add', 'take', 'forget', 'forgetEnd', 'move'),
      kind: fc.constantFrom(COMMAND.start, COMMAND.end, COMMAND.level),
      frame: fc.integer({ min: 1, max: 8 }),
      voice: fc.integer({ min: 1, max: 4 }),
    });
    fc.assert(
      fc.property(fc.array(anyDeed, { maxLength: 80, size: 'max' }), (deeds) => {
        const agenda = new Agenda();
        let waiting: { kind: number; frame: number; voice: number }[] = [];
        const record = new Float64Array(RECORD);
        const expectTaken = () => {
          const [first] = waiting.splice(0, 1);
          agenda.take(record);
          expect(record).toEqual(command(first.kind, first.frame, first.voice));
        };
        for (const { deed, ...entry } of deeds) {
          if (deed === 'add') {
            expect(agenda.add(command(entry.kind, entry.frame, entry.voice))).toBe(true);
            waiting = [...waiting, entry].sort((a, b) => a.frame - b.frame);
          } else if (deed === 'take') {
            if (waiting.length > 0) expectTaken();
          } else if (deed === 'move') {
            const starts = waiting.findIndex(
              (w) => w.kind === COMMAND.start && w.voice === entry.voice,
            );
            expect(agenda.moveStart(entry.voice, entry.frame)).toBe(starts >= 0);
            const moved = starts < 0 ? [] : waiting.splice(starts, 1);
            waiting.push(...moved.map((w) => ({ ...w, frame: entry.frame })));
            waiting.sort((a, b) => a.frame - b.frame);
          } else {
            agenda.forget(entry.voice, deed === 'forgetEnd');
            const kinds: number[] =
              deed === 'forget' ? [COMMAND.start, COMMAND.end] : [COMMAND.end];
            waiting = waiting.filter((w) => w.voice !== entry.voice || !kinds.includes(w.kind));
          }
          expect(agenda.next).toBe(waiting.at(0)?.frame ?? Infinity);
        }
        while (waiting.length > 0) expectTaken();
        expect(agenda.next).toBe(Infinity);
      }),
    );
  });

  it('is refused beyond 2048, and can be cleared at once', () => {
    const agenda = new Agenda();
    for (let i = 0; i < 2048; i++) expect(agenda.add(command(COMMAND.end, i + 1, i))).toBe(true);
    expect(agenda.add(command(COMMAND.end, 1, 1))).toBe(false);
    agenda.clear();
    expect(agenda.next).toBe(Infinity);
    expect(agenda.add(command(COMMAND.end, 5, 1))).toBe(true);
    expect(agenda.next).toBe(5);
  });
});
