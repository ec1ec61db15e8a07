import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { keySlot, MOST_HELD, VoiceTable } from './voice-table.js';

/** What a table ought to hold, as a plain list. */
interface Held {
  id: number;
  slot: number;
  obeysSustain: boolean;
  ringsOn: boolean;
  obeysPressure: boolean;
  strike: number;
  sustained: boolean;
}

/** One key more often than others, so that it is struck again under a pedal. */
const anyKey = {
  channel: fc.constantFrom(1, 1, 1, 1, 2),
  key: fc.constantFrom(60, 60, 60, 60, 61),
};
const anyStep = fc.oneof(
  {
    arbitrary: fc.record({
      kind: fc.constant('begin' as const),
      layers: fc.array(
        fc.record({
          obeysSustain: fc.boolean(),
          ringsOn: fc.boolean(),
          obeysPressure: fc.boolean(),
        }),
        { minLength: 1, maxLength: 3 },
      ),
      ...anyKey,
    }),
    weight: 12,
  },
  {
    arbitrary: fc.record({
      kind: fc.constantFrom('release' as const, 'release' as const, 'lean' as const),
      ...anyKey,
      pedal: fc.constantFrom(true, true, true, false),
    }),
    weight: 24,
  },
  fc.record({ kind: fc.constant('pedalUp' as const), channel: fc.integer({ min: 1, max: 2 }) }),
  fc.record({ kind: fc.constant('endAll' as const) }),
);

describe('the table of voices', () => {
  it('holds and ends what a plain list would, whatever is played', () => {
    fc.assert(
      fc.property(fc.array(anyStep, { maxLength: 60, size: 'max' }), (steps) => {
        const ended: [number, string | null][] = [];
        const table = new VoiceTable<string>((voice, attached) => ended.push([voice, attached]));
        let held: Held[] = [];
        let begun = 0;
        let strikes = 0;
        const expectEnded = (gone: (voice: Held) => boolean) => {
          const ids = held.filter(gone).map(({ id }) => id);
          expect(ended.map(([id]) => id).sort((a, b) => a - b)).toEqual(ids);
          for (const [id, attached] of ended) expect(attached).toBe(id % 2 ? `chain ${id}` : null);
          ended.length = 0;
          held = held.filter((voice) => !gone(voice));
          expect(table.held).toBe(held.length);
        };
        for (const step of steps) {
          if (step.kind === 'endAll') {
            table.endAll();
            expectEnded(() => true);
            continue;
          }
          if (step.kind === 'pedalUp') {
            table.releasePedal(keySlot(0, step.channel, 0) >> 7);
            expectEnded(
              ({ slot, sustained }) => sustained && slot >> 7 === keySlot(0, step.channel, 0) >> 7,
            );
            continue;
          }
          const slot = keySlot(0, step.channel, step.key);
          const here = (voice: Held) => voice.slot === slot;
          if (step.kind === 'begin') {
            const last = Math.max(
              ...held.filter((v) => here(v) && v.sustained).map(({ strike }) => strike),
            );
            table.strikeAgain(slot);
            expectEnded((v) => here(v) && !(v.sustained && v.ringsOn && v.strike === last));
            strikes++;
            for (const layer of step.layers) {
              const id = ++begun;
              held.push({ id, slot, strike: strikes, sustained: false, ...layer });
              table.begin(
                ...([slot, id, layer.obeysSustain, id % 2 ? `chain ${id}` : null] as const),
                ...([strikes, layer.ringsOn, layer.obeysPressure] as const),
              );
            }
            expectEnded(() => false);
          } else if (step.kind === 'release') {
            table.release(slot, step.pedal);
            expectEnded((v) => here(v) && !(step.pedal && v.obeysSustain));
            for (const voice of held.filter(here)) voice.sustained = true;
          } else {
            const leant: number[] = [];
            table.leanOn(slot, 77, (voice, value, attached) => {
              leant.push(voice);
              expect([value, attached]).toEqual([77, voice % 2 ? `chain ${voice}` : null]);
            });
            expect(leant.sort((a, b) => a - b)).toEqual(
              held.filter((v) => here(v) && v.obeysPressure && !v.sustained).map(({ id }) => id),
            );
          }
        }
        table.endAll();
        expectEnded(() => true);
      }),
      { numRuns: 300 },
    );
  });

  it('lets the voice go that began first when it is full, whatever place it has', () => {
    const ended: number[] = [];
    const table = new VoiceTable<null>((voice) => ended.push(voice));
    const begin = (id: number) => {
      table.begin(keySlot(0, 1, id % 128), id, true, null);
    };
    for (let id = 1; id <= MOST_HELD; id++) begin(id);
    expect([table.held, ended]).toEqual([MOST_HELD, []]);
    // The places of two that end are taken by the youngest.
    table.release(keySlot(0, 1, 1), false);
    const gone = ended.splice(0).length;
    for (let id = 1; id <= gone; id++) begin(5000 + id * 128);
    expect([table.held, ended]).toEqual([MOST_HELD, []]);
    begin(9001);
    begin(9002);
    expect(ended).toEqual([2, 3]);
    expect(table.held).toBe(MOST_HELD);
  });
});
