import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { newTreatment, TREATMENT_KINDS, type Treatment } from '../model/patch/treatment.js';
import { ChainAlone } from '../testing/chain-alone.js';

type Of<K extends Treatment['kind']> = Extract<Treatment, { kind: K }>;
const of = <K extends Treatment['kind']>(kind: K, changes: Partial<Of<K>> = {}): Of<K> =>
  ({ ...newTreatment(kind, kind, ['a']), ...changes }) as Of<K>;
const arpeggio = (changes: Partial<Of<'arpeggio'>> = {}) =>
  of('arpeggio', { rate: '1/4', gate: 0.5, ...changes });
const restrike = (changes: Partial<Of<'restrike'>> = {}) =>
  of('restrike', { rate: '1/4', gate: 0.5, ...changes });
const strum = (changes: Partial<Of<'strum'>> = {}) => of('strum', { over: 120, ...changes });

describe('a treatment rests', () => {
  it.each(TREATMENT_KINDS.filter((kind) => kind !== 'latch' && kind !== 'arpeggio'))(
    '(%s) when the last note has ended, not before',
    (kind) => {
      const alone = new ChainAlone(of(kind));
      expect(alone.idle).toBe(true);
      alone.press(60);
      expect(alone.idle).toBe(false);
      alone.until(0.5);
      expect(alone.idle).toBe(false);
      alone.release(60, 1).until(0.85);
      expect(alone.idle).toBe(false);
      expect(alone.until(3).idle).toBe(true);
    },
  );

  it.each(TREATMENT_KINDS)('(%s) while it is off and no note passes', (kind) => {
    const alone = new ChainAlone({ ...of(kind), on: false });
    expect(alone.idle).toBe(true);
    alone.press(60).release(60, 1);
    expect(alone.heard()).toEqual(['+60', '−60 1']);
    expect(alone.until(0.98).idle).toBe(false);
    expect(alone.until(1).idle).toBe(true);
    alone.press(61).release(61);
    expect(alone.idle).toBe(true);
  });

  it.each(TREATMENT_KINDS)('(%s) once it is stopped, and leaves the clock', (kind) => {
    const alone = new ChainAlone(of(kind)).press(60).until(0.3);
    expect(alone.idle).toBe(false);
    expect(alone.needsClock).toBe(kind === 'arpeggio' || kind === 'restrike');
    const begun = alone.heard().filter((told) => told.startsWith('+')).length;
    alone.stop();
    expect(alone.heard().every((told) => told.startsWith('−') && !told.includes(' '))).toBe(true);
    expect(begun).toBeGreaterThan(0);
    expect([alone.idle, alone.needsClock]).toEqual([true, false]);
    expect(alone.until(2).heard()).toEqual([]);
    expect(alone.release(60).heard()).toEqual([]);
  });

  it('not while something is still to come, or was cut and still sounds', () => {
    const alone = new ChainAlone(restrike({ rate: '1/8', gate: 1 })).press(60, 1);
    expect(alone.idle).toBe(false);
    alone.release(60, 1.55).until(1.52);
    expect([alone.idle, alone.until(1.55).idle]).toEqual([false, true]);
    const strummed = new ChainAlone(strum()).press(60);
    expect(strummed.needsClock).toBe(true);
    expect([strummed.stop().needsClock, strummed.stop().needsClock]).toEqual([false, false]);
    expect(strummed.until(1).heard()).toEqual([]);
  });

  it('only when every one in a chain does', () => {
    const alone = new ChainAlone(of('sieve'), of('latch'));
    alone.press(60).release(60);
    expect(alone.idle).toBe(false);
    alone.letGo('sieve');
    expect(alone.idle).toBe(false);
    expect(alone.letGo().idle).toBe(true);
  });
});

describe('what comes in ahead of its time', () => {
  it.each([
    ['arpeggio', arpeggio(), []],
    ['restrike', restrike(), []],
    ['strum', strum(), []],
  ])('(%s) does not come, or is taken back, when it is let go before', (_kind, treatment, told) => {
    const alone = new ChainAlone(treatment);
    alone.press(60, 1).release(60, 0.5);
    alone.press(61, 1).press(62, 1.2).release(61);
    alone.release(62, 1.7);
    const heard = alone.until(4).heard();
    expect(heard.filter((one) => /6[01]/.test(one))).toEqual(told);
    expect(heard.some((one) => one.startsWith('+62'))).toBe(true);
    expect([alone.idle, alone.needsClock]).toEqual([true, false]);
  });

  it('waits for its turn, whatever order it came in', () => {
    const alone = new ChainAlone(restrike());
    alone.press(62, 2).press(60, 1).press(64, 2).release(60, 1.7);
    expect(alone.until(0.8).heard()).toEqual([]);
    expect(alone.until(2).heard()).toEqual([
      ...['+60 1', '−60 1.5', '+62 2', '−62 2.5', '+64 2', '−64 2.5'],
    ]);
  });

  it('is restruck up to its end, and cut there', () => {
    const alone = new ChainAlone(restrike({ rate: '1/8', gate: 1 }));
    alone.press(60, 1).release(60, 1.55);
    expect(alone.until(3).heard()).toEqual(['+60 1', '−60 1.5', '+60 1.5', '−60 2', '−60 1.55']);
    // Let go by the hand at once, though its end was known already.
    const cut = new ChainAlone(restrike({ rate: '1/8', gate: 1 }));
    cut.press(60, 1).press(62, 1).release(60, 1.55).until(1.52).heard();
    expect(cut.release(60).heard()).toEqual(['−60']);
  });

  it.each([0.5, 1])('is an arpeggio of each note of an arpeggio (%d of a step)', (gate) => {
    const quick = { ...arpeggio({ rate: '1/16', gate: 1, octaves: 2 }), id: 'quick' };
    const alone = new ChainAlone(arpeggio({ gate }), quick).press(60).press(62).until(1.25);
    const first = ['+60 0', '−60 0.25', '+72 0.25', '−72 0.5'];
    const rest = ['+60 0.5', '−60 0.75', '+72 0.75', '−72 1'];
    expect(alone.heard()).toEqual([
      ...(gate === 1 ? [...first, ...rest] : first),
      ...['+62 1', '−62 1.25', '+74 1.25', '−74 1.5'],
    ]);
  });

  it('is strummed from its beat on, though each note’s end is known before the chord is whole', () => {
    const alone = new ChainAlone(strum());
    alone.press(64, 1).release(64, 1.5).press(60, 1).release(60, 1.5);
    expect(alone.until(2).heard()).toEqual(['+60 1', '−60 1.5', '+64 1.24', '−64 1.5']);
    alone.press(60, 3).press(62, 3.5);
    expect(alone.until(3.6).heard()).toEqual(['+60 3', '+62 3.5']);
  });

  it('is one chord to a latch, though the end of each note is known at once', () => {
    const alone = new ChainAlone(of('latch'));
    alone.press(60, 1).release(60, 1.5).press(62, 1.4).release(62, 1.5);
    expect(alone.heard()).toEqual(['+60 1', '+62 1.4']);
    expect(alone.press(65, 2).heard()).toEqual(['−60 2', '−62 2', '+65 2']);
    // What was to end with a note that does not come is ended by its own key.
    expect(alone.release(65, 1.9).heard()).toEqual(['−65']);
    expect(alone.release(60).release(60).heard()).toEqual(['−60']);
  });
});

describe('an arpeggio', () => {
  it('goes back by what was worked out ahead when a key comes or goes', () => {
    const alone = new ChainAlone(arpeggio()).press(60).press(64).press(67);
    alone.until(1.95);
    expect(alone.heard()).toEqual(['+60 0', '−60 0.5', '+64 1', '−64 1.5', '+67 2', '−67 2.5']);
    expect(alone.press(62).heard()).toEqual(['−67', '+64 2', '−64 2.5']);
    expect(alone.release(60).heard()).toEqual(['−64', '+67 2', '−67 2.5']);
    expect(alone.until(3).heard()).toEqual(['+62 3', '−62 3.5']);
  });

  it('that holds takes a key along as long as one is down, and begins anew with none', () => {
    const alone = new ChainAlone(arpeggio({ hold: true }))
      .press(60)
      .press(64)
      .release(64)
      .press(67);
    alone.release(60).release(67);
    const begun = () => alone.heard().filter((told) => told.startsWith('+'));
    alone.until(2.2);
    expect(begun()).toEqual(['+60 0', '+64 1', '+67 2']);
    alone.press(50).until(4.2);
    expect(begun()).toEqual(['+50 3', '+50 4']);
  });

  it('keeps a late key of a chord within the step', () => {
    const alone = new ChainAlone(arpeggio({ order: 'chord', rate: '1/8', gate: 1 })).press(60);
    alone.until(0.6).heard();
    expect(alone.press(64).heard().slice(-2)).toEqual(['+64', '−64 1']);
  });

  it('goes back while it plays chords too', () => {
    const alone = new ChainAlone(arpeggio({ order: 'chord' })).press(60).until(0.95);
    alone.heard();
    expect(alone.press(64).heard()).toEqual(['−60', '+60 1', '−60 1.5', '+64 1', '−64 1.5']);
    // A little late is in time, and ends with the others at the latest.
    alone.until(1.2).heard();
    expect(alone.press(67).heard()).toEqual(['+67', '−67 1.7']);
    alone.until(1.5).heard();
    expect(alone.press(69).heard()).toEqual([]);
  });

  it('takes another rate up at the next of its steps, and lets go of what only it held', () => {
    const alone = new ChainAlone(arpeggio({ hold: true })).press(60).press(64).release(64);
    alone.until(1.2).heard();
    alone.set(arpeggio({ hold: true, rate: '1/8' }));
    expect(alone.until(2.2).heard()).toEqual(['+60 1.5', '−60 1.75', '+64 2', '−64 2.25']);
    alone.set(arpeggio({ rate: '1/8' })).release(99);
    expect(
      alone
        .until(3.3)
        .heard()
        .filter((told) => told.startsWith('+')),
    ).toEqual([...['+60 2.5', '+60 3']]);
    alone.set(arpeggio({ rate: '1/8', hold: true })).release(60);
    expect(alone.until(3.6).heard()).toEqual(['+60 3.5', '−60 3.75']);
    expect([alone.leave().heard(), alone.idle, alone.needsClock]).toEqual([['−60'], true, false]);
  });
});

describe('a sieve', () => {
  it('does not count what was taken back before its time', () => {
    const alone = new ChainAlone(arpeggio(), of('sieve', { everyNth: 2 }));
    alone.press(60).press(64).press(67).until(1.95);
    expect(alone.heard()).toEqual(['+60 0', '−60 0.5', '+67 2', '−67 2.5']);
    expect(alone.press(62).heard()).toEqual(['−67', '+64 2', '−64 2.5']);
  });
});

describe('a restrike', () => {
  it('ends each note with the next at most, struck when it will', () => {
    const alone = new ChainAlone(restrike({ gate: 1 })).until(0.6);
    expect(alone.press(60).heard()).toEqual(['+60', '−60 1']);
    alone.until(1.2);
    expect(alone.heard()).toEqual(['+60 1', '−60 2']);
    expect(alone.press(62).heard()).toEqual(['+62', '−62 2']);
  });

  it.each([
    ['is the step’s up to half a step before it', 0.44, ['−60 0.563']],
    ['is none’s before', 0.42, ['−60 0.483', '+60 0.5', '−60 0.563']],
  ])('of quick steps %s', (_what, at, told) => {
    const alone = new ChainAlone(restrike({ rate: '1/32' })).until(at).press(60).until(0.54);
    expect(alone.heard()).toEqual(['+60', ...told, '+60 0.625', '−60 0.688']);
  });

  it('takes back of each key what was worked out ahead, and strikes it by its new settings', () => {
    const alone = new ChainAlone(restrike()).press(60).until(0.45).press(62).until(0.95);
    alone.press(64);
    expect(alone.heard().slice(-4)).toEqual(['+62 1', '−62 1.5', '+64', '−64 1.5']);
    alone.set(restrike({ gate: 1 }));
    expect(alone.heard().toSorted()).toEqual([
      ...['+60 1', '+62 1', '−60', '−60 2', '−62', '−62 2'],
    ]);
    alone.set(restrike({ gate: 1, rate: '1/2' }));
    expect(alone.until(1.95).heard().toSorted()).toEqual([
      ...['+60 2', '+62 2', '+64 2', '−60', '−60 4', '−62', '−62 4', '−64 4'],
    ]);
    alone.release(62);
    expect(alone.heard()).toEqual(['−62']);
    expect(alone.release(62).release(99).heard()).toEqual([]);
    expect([alone.needsClock, alone.release(60).release(64).needsClock]).toEqual([true, false]);
  });
});

describe('a strum', () => {
  it('lets each note begin whose key was let go before its turn, and no longer than that', () => {
    const alone = new ChainAlone(strum()).press(64).press(60).release(60).release(64);
    expect(alone.heard()).toEqual(['+60 0', '−60 0.08']);
    expect([alone.until(0.2).needsClock, alone.idle]).toEqual([true, false]);
    expect(alone.heard()).toEqual(['+64 0.24', '−64 0.32']);
    expect(alone.until(0.26).needsClock).toBe(false);
    expect([alone.idle, alone.until(0.33).idle]).toEqual([false, true]);
  });

  it('takes fingers for one chord for a fiftieth of a second, and spreads the next by its new settings', () => {
    const alone = new ChainAlone(strum()).press(60).until(0.03).press(64).until(0.3);
    expect(alone.heard()).toEqual(['+60 0.046', '+64 0.286']);
    alone
      .set(strum({ order: 'down', over: '1/8' }))
      .press(60)
      .press(64)
      .until(0.4);
    expect(alone.heard()).toEqual(['+64 0.34']);
    expect(alone.release(64).release(60).heard()).toEqual(['−64 0.42']);
    expect(alone.until(0.9).heard()).toEqual(['+60 0.84', '−60 0.92']);
    alone.until(2).press(60).until(2.5).heard();
    expect(alone.release(60).heard()).toEqual(['−60']);
  });
});

describe('a latch', () => {
  it('gives up what no key holds: now, or when its key is let go', () => {
    const alone = new ChainAlone(of('latch')).press(60).press(62).release(60, 1);
    expect(alone.letGo().heard()).toEqual(['+60', '+62']);
    expect(alone.until(1).letGo().heard()).toEqual(['−60']);
    expect(alone.press(63).release(62, 2).leave().heard()).toEqual(['+63', '−62 2']);
    expect(alone.release(63).heard()).toEqual(['−63']);
    expect(alone.press(65).release(65).heard()).toEqual(['+65', '−65']);
    expect([alone.idle, alone.until(2).idle]).toEqual([false, true]);
  });
});

describe('settings that are changed', () => {
  it('are those of the next note', () => {
    const low = of('doubling', { octaves: -1 });
    const alone = new ChainAlone(low, of('sieve', { everyNth: 2 }));
    expect(alone.press(60).release(60).heard()).toEqual(['+60', '−60']);
    alone.set({ ...low, octaves: 1 }, of('sieve')).press(62);
    expect(alone.heard()).toEqual(['+62', '+74']);
    alone.switchOff('sieve');
    expect(alone.heard()).toEqual(['−62', '−74']);
    expect(alone.press(63).heard()).toEqual(['+63', '+75']);
    alone.switchOff('doubling').press(64);
    expect(alone.heard()).toEqual(['−63', '−75', '+64']);
  });

  it('count anew what a sieve lets through once it was off', () => {
    const sieve = of('sieve', { everyNth: 3 });
    const alone = new ChainAlone(sieve).press(60).press(61).release(61);
    expect(alone.heard()).toEqual(['+60']);
    alone.switchOff('sieve').set(sieve);
    for (const key of [70, 71, 72, 73]) alone.press(key);
    expect(alone.heard()).toEqual(['−60', '+70', '+73']);
  });
});

describe('a finger that leans on its key', () => {
  it.each<[string, Treatment[], string[]]>([
    ['a note that passes', [{ ...of('chord'), on: false }], ['~60 90']],
    [
      'each note of a chord',
      [of('chord', { intervals: [0, 7], inKey: false })],
      ['~60 90', '~67 90'],
    ],
    ['what was let through or is held', [of('sieve'), of('latch')], ['~60 90']],
    ['a note of a strum', [strum()], ['~60 90']],
    ['what a restrike has struck', [restrike()], ['~60 90']],
    [
      'both of a doubled arpeggio',
      [arpeggio(), of('doubling', { octaves: 1 })],
      ['~60 90', '~72 90'],
    ],
  ])('moves %s', (_what, treatments, told) => {
    const alone = new ChainAlone(...treatments).press(60).until(0.3).press(65).until(0.4);
    alone.heard();
    expect(alone.lean(60, 90).heard()).toEqual(told);
  });

  it('moves nothing that has ended, is still to come, or was never let through', () => {
    const alone = new ChainAlone(of('sieve', { everyNth: 2 }), restrike());
    alone.press(60).press(61).until(0.95).heard();
    expect(alone.lean(60, 90).lean(61, 90).heard()).toEqual([]);
  });
});

it('what is chained sounds the same however often the clock is looked at', () => {
  const links = [
    arpeggio({ gate: 1 }),
    { ...arpeggio({ rate: '1/16', gate: 0.7, octaves: 2 }), id: 'quick' },
    { ...arpeggio({ order: 'chord', rate: '1/8', gate: 1 }), id: 'chords' },
    restrike({ rate: '1/16', gate: 1 }),
    of('chord', { intervals: [0, 4], inKey: false }),
    of('doubling', { octaves: -1 }),
    of('latch'),
    of('sieve', { everyNth: 2 }),
  ];
  const played = fc.array(
    fc.record({ key: fc.integer({ min: 60, max: 63 }), wait: fc.constantFrom(0, 0.13, 0.4, 1.1) }),
    { minLength: 1, maxLength: 10 },
  );
  fc.assert(
    fc.property(fc.subarray(links, { minLength: 1, maxLength: 3 }), played, (chained, deeds) => {
      const notesAt = (tick: number) => {
        const alone = new ChainAlone(...chained);
        alone.tick = tick;
        const down = new Set<number>();
        let beat = 0;
        for (const { key, wait } of deeds) {
          if (down.delete(key)) alone.release(key);
          else {
            alone.press(key);
            down.add(key);
          }
          alone.until((beat += wait));
        }
        for (const key of down) alone.release(key);
        alone.until(beat + 1).stop();
        return alone.notes();
      };
      expect(notesAt(0.016)).toEqual(notesAt(0.004));
    }),
    { numRuns: 200 },
  );
});

it('steps are counted from where bars began as they began to run, whatever divides a bar', () => {
  const alone = new ChainAlone(arpeggio()).countBarsFrom(0.3).press(60, 0.1);
  expect(alone.countBarsFrom(0.55).until(2).notes()).toEqual([
    ...['60 0.300–0.800', '60 1.300–1.800'],
  ]);
  const again = new ChainAlone(restrike()).countBarsFrom(0.3).press(60, 0.35).until(2);
  expect(again.notes().slice(1)).toEqual(['60 1.300–1.800']);
});
