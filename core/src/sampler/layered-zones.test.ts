import fc from 'fast-check';
import { beforeEach, describe, expect, it } from 'vitest';
import { EngineAtWork, PLAIN, still } from '../testing/engine-at-work.js';
import { METER } from './meters.js';
import { MOST_VOICES } from './voices.js';
import { ZoneTable, type SoundZone } from './zone-table.js';

const zone = (height: number, changes: Partial<SoundZone> = {}): SoundZone => ({
  ...still(height),
  ...changes,
});

let work: EngineAtWork;
const load = (...zones: SoundZone[]) =>
  work.engine.load(0, { voicing: PLAIN, zones, answering: 'all' });
/** How high it stands once what was asked for has come to rest. */
const rested = () => work.after(12);
beforeEach(() => (work = new EngineAtWork()));

describe('a note of several zones', () => {
  it('sounds all that hold its key and velocity, each at its gains, and its id ends them all', () => {
    const span = fc
      .tuple(fc.integer({ min: 0, max: 127 }), fc.integer({ min: 0, max: 127 }))
      .map(([a, b]) => ({ low: Math.min(a, b), high: Math.max(a, b) }));
    const gains = fc.array(fc.constantFrom(0, 0.25, 0.5, 1), { minLength: 128, maxLength: 128 });
    const anyZone = fc.record({ keys: span, velocities: span, byKey: gains, byVelocity: gains });
    const sevenBit = fc.integer({ min: 1, max: 127 });
    fc.assert(
      fc.property(
        fc.array(anyZone, { minLength: 1, maxLength: 6 }),
        sevenBit,
        sevenBit,
        (zones, note, velocity) => {
          work = new EngineAtWork();
          const height = (i: number) => 0.01 * 2 ** i;
          load(
            ...zones.map(({ keys, velocities, byKey, byVelocity }, i) =>
              zone(height(i), {
                ...{ keys, velocities, rootKey: note },
                gains: {
                  keys: Float32Array.from(byKey),
                  velocities: Float32Array.from(byVelocity),
                },
              }),
            ),
          );
          const own = zones.map(({ keys, velocities, byKey, byVelocity }, i) => {
            const isIn = note >= keys.low && note <= keys.high;
            const isStruck = velocity >= velocities.low && velocity <= velocities.high;
            return isIn && isStruck ? height(i) * byKey[note] * byVelocity[velocity] : 0;
          });
          work.start(1, { note, velocity });
          expect(rested()).toBeCloseTo(
            own.reduce((sum, one) => sum + one, 0),
            4,
          );
          expect(work.voices).toBe(own.filter((one) => one > 0).length);
          work.end(1);
          rested();
          expect(work.voices).toBe(0);
        },
      ),
    );
  });

  it('has each zone go by its own envelope', () => {
    load(zone(0.1), zone(0.2, { voicing: { ...PLAIN, release: 2 } }));
    work.start(1);
    expect(rested()).toBeCloseTo(0.3, 3);
    work.end(1);
    expect(work.after(4)).toBeGreaterThan(0.15);
    expect(work.voices).toBe(1);
  });

  it('counts as one: room is made by whole notes', () => {
    load(zone(0.1), zone(0.2));
    for (let id = 1; id <= 4; id++) work.start(id, { polyphony: 3 });
    expect(rested()).toBeCloseTo(0.9, 3);
    expect([work.voices, work.meters[METER.stolen]]).toEqual([6, 1]);
  });

  it('gives way as a whole when there are no more voices', () => {
    load(zone(0.001), zone(0.002), zone(0.004));
    const notes = Math.floor(MOST_VOICES / 3);
    for (let id = 1; id <= notes + 1; id++) work.start(id);
    expect(rested()).toBeCloseTo(0.007 * notes, 4);
    expect(work.voices).toBe(3 * notes);
  });

  it('takes turns by its own number', () => {
    load(
      zone(0.1, { turn: { place: 0, of: 2 } }),
      zone(0.2, { turn: { place: 1, of: 2 } }),
      zone(0.4),
    );
    for (const [id, height] of [
      [2, 0.5],
      [3, 0.6],
      [4, 0.5],
    ]) {
      work.start(id);
      expect(rested()).toBeCloseTo(height, 3);
      work.end(id);
      rested();
    }
  });

  it('plays a one-shot to its end, and is choked by its group alone', () => {
    const once = { loopStart: -1, loopEnd: -1 };
    load(
      zone(0.1, { ...once, oneShot: true, choke: 1, keys: { low: 0, high: 60 } }),
      zone(0.2, { ...once, oneShot: true, choke: 1, keys: { low: 61, high: 70 } }),
      zone(0.4, { ...once, keys: { low: 60, high: 127 }, rootKey: 71 }),
    );
    work.start(1);
    work.end(1);
    // The third is no one-shot: it is let go; the first plays on.
    expect(work.after(4)).toBeCloseTo(0.1, 3);
    work.start(2, { note: 61 });
    rested();
    expect(work.voices).toBe(2);
    work.after(60);
    expect(work.voices).toBe(0);
  });
});

describe('a choke group', () => {
  const once = { loopStart: -1, loopEnd: -1 };
  /** Zones of one key each from middle C on, of these groups; 0 for none. */
  const groups = (...chokes: number[]) =>
    chokes.map((choke, at) =>
      zone(0.1 * 2 ** at, {
        ...once,
        ...{ choke, rootKey: 60 + at, keys: { low: 60 + at, high: 60 + at } },
      }),
    );

  it.each<[string, number[], { note: number; instance?: number }, number]>([
    ['cuts off what is in it', [1, 1], { note: 61 }, 0.2],
    ['leaves another group alone', [1, 2], { note: 61 }, 0.3],
    ['leaves what is in none alone', [0, 1], { note: 61 }, 0.3],
    ['leaves another sound alone', [1, 1], { note: 61, instance: 2 }, 0.3],
    ['is cut off by its own key struck anew', [1], { note: 60 }, 0.1],
  ])('%s', (_what, chokes, second, height) => {
    load(...groups(...chokes));
    work.start(1, { note: 60 });
    rested();
    work.start(2, second);
    expect(work.after(8)).toBeCloseTo(height, 3);
  });

  it('leaves what the same note has begun', () => {
    load(zone(0.1, { ...once, choke: 1 }), zone(0.2, { ...once, choke: 1 }));
    work.start(1);
    expect(work.after(4)).toBeCloseTo(0.3, 3);
  });
});

describe('a sound of one voice with several zones', () => {
  const one = { polyphony: 1 };
  it('glides with all of them, each into the recording of other keys where it has one', () => {
    const [low, high] = [
      { low: 0, high: 65 },
      { low: 66, high: 127 },
    ];
    // What sounds along already is first in the list, and is not gone over into.
    load(zone(0.4), zone(0.1, { keys: low }), zone(0.2, { keys: high }));
    work.start(1, one);
    expect(rested()).toBeCloseTo(0.5, 3);
    work.start(2, { ...one, note: 72 }, { glide: 0.02 });
    expect(rested()).toBeCloseTo(0.6, 3);
    work.end(2);
    // The note that is held still comes back, each zone of it once.
    work.after(40);
    expect(work.voices).toBe(2);
    work.end(1);
    work.after(40);
    expect(work.voices).toBe(0);
  });

  it('comes back to a note held on another strip once', () => {
    load(zone(0.1), zone(0.2));
    work.start(1, one);
    rested();
    work.start(2, { ...one, strip: 1 });
    rested();
    expect(work.meters[METER.stolen]).toBe(1);
    work.end(2);
    expect(rested()).toBeCloseTo(0.3, 3);
    expect(work.voices).toBe(2);
  });
});

it('a key that no zone reaches is answered by the nearest, or by none', () => {
  const zones = [zone(0.1, { keys: { low: 60, high: 60 } })];
  const found = (answering: 'nearest' | 'all') =>
    new ZoneTable({ voicing: PLAIN, zones, answering }).findAt(72, 90);
  expect([found('nearest'), found('all')]).toEqual([1, 0]);
});
