import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { claimsOfName } from '../exchange/file-names.js';
import { NO_CLAIMS, type Recording } from '../model/library/recording.js';
import { PLAIN_ZONE, type SampleZone } from '../model/library/sample-zone.js';
import { rangeGain } from '../range/range.js';
import { silentGround } from './ground.js';
import { asInstrument, byName, joined, oneAfterTheOther, onPads, stacked } from './layouts.js';
import { loudnessSteps, matchedGains, proposedDynamics } from './loudness-steps.js';
import { conventionOf, rootOf } from './note-claims.js';
import { swapRecordings } from './swapping.js';
import { zoneRemarks } from './zone-remarks.js';

let count = 0;
const newId = () => `z${count++}`;

interface Made {
  key?: number | null;
  lufs?: number;
  confidence?: number;
  colour?: number[];
}

/** A recording as it would be heard. */
function recording(name: string, made: Made = {}): Recording {
  const { key = null, lufs = -20, confidence = 1, colour = [] } = made;
  const id = [...name].reduce((hash, c) => (hash * 31 + c.charCodeAt(0)) % 2 ** 32, 7);
  return {
    ...{ id: id.toString(16).padStart(64, '0'), name, format: 'wav', bytes: 100 },
    ...{ sampleRate: 48_000, channels: 2, bits: 16, frames: 96_000 },
    heard: {
      ...{ pitch: key === null ? null : { key, cents: 4, confidence }, lufs, attackLufs: lufs },
      ...{ start: 0.1, end: 1.9, loop: null, peak: 0.5, isMono: false, colour },
    },
    claims: { ...NO_CLAIMS, ...claimsOfName(name) },
  };
}
const laying = (...recordings: Recording[]) => ({ recordings, middleC: 4 as const, newId });
const known = (...recordings: Recording[]) =>
  Object.fromEntries(recordings.map((one) => [one.id, one]));
/** Name, keys, velocities and turn of zones. */
const inWords = (zones: readonly SampleZone[], ...recordings: Recording[]) =>
  zones.map(({ recordingId, keys, velocities, turn }) => {
    const { name } = known(...recordings)[recordingId];
    return `${name} ${keys.low}–${keys.high} v${velocities.low}–${velocities.high}${turn > 0 ? ` ${turn}` : ''}`;
  });
const KEYS = { low: 36, high: 60 };

describe('what files claim and what is heard', () => {
  it.each([
    [3, 'bell-E2.wav', 52],
    [4, 'bell-E3.wav', 52],
    [5, 'bell-E4.wav', 52],
  ])('tells that middle C is C%i', (middleC, name, key) => {
    expect(conventionOf([recording(name, { key }), recording('x.wav', { key: 3 })])).toEqual({
      ...{ middleC, agree: 1, of: 1 },
    });
  });

  it.each<[string, string, Made, number | null, 'ear' | 'claim' | null]>([
    ['nothing', 'x.wav', {}, null, null],
    ['the ear alone', 'x.wav', { key: 50, confidence: 0.55 }, 50, 'ear'],
    ['the name alone', 'x-C4.wav', {}, 60, 'claim'],
    ['a sure ear against a name', 'x-C4.wav', { key: 62 }, 62, 'ear'],
    ['a name against an unsure ear', 'x-C4.wav', { key: 67, confidence: 0.6 }, 60, 'claim'],
    ['a number that is heard', 'x 62.wav', { key: 62, confidence: 0.6 }, 62, 'ear'],
    ['a number that counts something', 'x 7.wav', { key: 62, confidence: 0.6 }, 62, 'ear'],
  ])('%s', (_what, name, made, key, from) => {
    expect(rootOf(recording(name, made), 4)).toMatchObject({ key, from });
  });

  it('says nothing of middle C where no name agrees', () => {
    expect(conventionOf([recording('bell-E3.wav', { key: 45 })])).toBeNull();
  });
});

describe('an instrument', () => {
  const bells = [40, 47, 53].flatMap((key) =>
    (['soft', 'hard'] as const).map((strength, i) =>
      recording(`${key}-${strength}.wav`, { key, lufs: -30 + 12 * i }),
    ),
  );

  it('has its roots in the middle and its strengths by loudness, in tune, from where they sound', () => {
    const { zones, leftOut } = asInstrument(
      laying(...bells, recording('noise.wav')),
      KEYS,
      'evenly',
    );
    expect(inWords(zones, ...bells)).toEqual([
      '40-soft.wav 36–43 v1–64',
      '40-hard.wav 36–43 v65–127',
      '47-soft.wav 44–49 v1–64',
      '47-hard.wav 44–49 v65–127',
      '53-soft.wav 50–60 v1–64',
      '53-hard.wav 50–60 v65–127',
    ]);
    expect(zones[0]).toMatchObject({ root: 40, cents: -4, start: 0.1, end: 1.9 });
    expect(leftOut.map(({ name }) => name)).toEqual(['noise.wav']);
  });

  it('takes names for strengths that are not as loud as they say, and alternates in turn', () => {
    const all = ['a-pp-rr2', 'b-pp-rr1', 'c-ff'].map((name, i) =>
      recording(`${name}.wav`, { key: 48, lufs: -20 - i }),
    );
    const { zones } = asInstrument(laying(...all), KEYS, 'byLoudness');
    expect(inWords(zones, ...all)).toEqual([
      'c-ff.wav 36–60 v1–119',
      'b-pp-rr1.wav 36–60 v120–127 1',
      'a-pp-rr2.wav 36–60 v120–127 2',
    ]);
  });

  it('crossfaded keeps its power across every strength, and no step above 1.5 dB where 6 dB do', () => {
    const three = [-30, -24, -19].map((lufs, i) => recording(`${i}.wav`, { key: 48, lufs }));
    const { zones } = asInstrument(laying(...three), KEYS, 'crossfaded');
    for (let velocity = 1; velocity <= 127; velocity++) {
      const power = zones.reduce((sum, z) => sum + rangeGain(z.velocities, velocity) ** 2, 0);
      expect(power).toBeCloseTo(1, 6);
    }
    for (const { step } of loudnessSteps(zones, known(...three)))
      expect(Math.abs(step)).toBeLessThanOrEqual(1.51);
  });

  it('takes what is dropped later into its midst, and keeps what was set', () => {
    const first = asInstrument(laying(...bells), KEYS, 'evenly').zones.map((zone) => ({
      ...zone,
      ...(zone.root === 40 ? { gain: -3, root: 41 } : {}),
    }));
    const fresh = [recording('50.wav', { key: 50 }), recording('none.wav')];
    const { zones, leftOut } = joined(first, laying(...fresh), known(...bells), 'evenly');
    expect(zones.map(({ root, keys, gain }) => `${root} ${keys.low}–${keys.high} ${gain}`)).toEqual(
      [
        ...['41 36–43 -3', '41 36–43 -3', '47 44–48 0', '47 44–48 0'],
        ...['50 49–51 0', '53 52–60 0', '53 52–60 0'],
      ],
    );
    expect(leftOut.map(({ name }) => name)).toEqual(['none.wav']);
  });
});

describe('other layouts', () => {
  const two = [recording('a-C3-soft.wav', { key: 48 }), recording('b-D3.wav')];
  it('lie one after the other, on pads, by name and stacked', () => {
    expect(inWords(oneAfterTheOther(laying(...two), 60, 3), ...two)).toEqual([
      'a-C3-soft.wav 60–62 v1–127',
      'b-D3.wav 63–65 v1–127',
    ]);
    expect(oneAfterTheOther(laying(...two), 127, 3)).toHaveLength(1);
    const [pad] = onPads(laying(...two), [36]);
    expect(pad).toMatchObject({
      oneShot: true,
      tracking: 0,
      root: 36,
      keys: { low: 36, high: 36 },
    });
    expect(inWords(byName(laying(...two)).zones, ...two)).toEqual([
      'a-C3-soft.wav 48–48 v1–127',
      'b-D3.wav 50–50 v1–127',
    ]);
    expect(byName(laying(recording('x.wav'))).leftOut).toHaveLength(1);
    expect(inWords(stacked(laying(...two)), ...two)[1]).toBe('b-D3.wav 0–127 v1–127');
  });
});

describe('the zones of a sound', () => {
  const range = (low: number, high: number) =>
    ({ low, high, fadeIn: 0, fadeOut: 0, law: 'equalPower' }) as const;
  const zone = (
    one: Recording,
    keys: [number, number],
    velocities: [number, number],
  ): SampleZone => ({
    ...PLAIN_ZONE,
    ...{ id: newId(), recordingId: one.id, root: keys[0] },
    ...{ keys: range(...keys), velocities: range(...velocities) },
  });

  it('are silent where none of them answers, whatever they are', () => {
    const span = (low: number, most: number) =>
      fc
        .tuple(fc.integer({ min: low, max: most }), fc.nat(30))
        .map(([from, wide]): [number, number] => [from, Math.min(most, from + wide)]);
    const any = fc.array(fc.tuple(span(0, 127), span(1, 127)), { maxLength: 12 });
    fc.assert(
      fc.property(
        any,
        span(0, 127),
        fc.nat(127),
        fc.integer({ min: 1, max: 127 }),
        (all, [low, high], key, velocity) => {
          const one = recording('x.wav');
          const zones = all.map(([keys, velocities]) => zone(one, keys, velocities));
          const inside = (at: number, { low: from, high: to }: { low: number; high: number }) =>
            at >= from && at <= to;
          const isSilent =
            inside(key, { low, high }) &&
            !zones.some((z) => inside(key, z.keys) && inside(velocity, z.velocities));
          const grounds = silentGround(zones, { low, high });
          const found = grounds.filter(
            (g) => inside(key, g.keys) && inside(velocity, g.velocities),
          );
          expect(found).toHaveLength(isSilent ? 1 : 0);
        },
      ),
    );
  });

  it('are remarked on: silence, steps, strengths that are only turned down, recordings that are wanting', () => {
    const soft = recording('soft.wav', { key: 40, lufs: -30, colour: [-3, -10, -20] });
    const hard = recording('hard.wav', { key: 40, lufs: -20, colour: [-3, -10.2, -20] });
    const gone = recording('gone.wav');
    const zones = [
      zone(soft, [40, 50], [1, 60]),
      zone(hard, [40, 50], [61, 100]),
      zone(gone, [51, 52], [1, 127]),
    ];
    const found = zoneRemarks({ kind: 'recordings', dynamics: 0, zones }, known(soft, hard));
    expect(found.map(({ kind }) => kind).sort()).toEqual([
      'silent',
      'step',
      'turned down',
      'wanting',
    ]);
    const silent = found.find(({ kind }) => kind === 'silent');
    expect(silent?.mend?.changes[zones[1].id].velocities).toMatchObject({ low: 61, high: 127 });
    // Ten dB are more than one of them may be moved.
    expect(matchedGains(zones, known(soft, hard))).toEqual([
      { id: zones[0].id, gain: 6 },
      { id: zones[1].id, gain: -2.5 },
    ]);
    expect(proposedDynamics(zones, known(soft, hard))).toBe(24);
    expect(proposedDynamics(zones.slice(0, 1), known(soft))).toBe(34);
  });

  it('take other recordings by name, else by pitch and loudness, and keep all that is theirs', () => {
    const old = ['bell-E3-soft', 'bell-E3-hard', 'odd'].map((name, i) =>
      recording(`${name}.wav`, { key: 52, lufs: -30 + 5 * i }),
    );
    const zones = old.map((one, i) => ({
      ...zone(one, [50, 54], [1 + i, 100]),
      gain: i,
      root: 52,
    }));
    const set = [
      recording('glass E3 hard.wav', { key: 52, lufs: -29 }),
      recording('glass E3 soft.wav', { key: 52, lufs: -10 }),
      recording('other.wav', { key: 52, lufs: -21 }),
      recording('spare.wav', { key: 70 }),
    ];
    const { changes, unmatched, unused } = swapRecordings(zones, known(...old), set, 4);
    expect(
      zones.map(({ id }) => set.find((one) => one.id === changes[id].recordingId)?.name),
    ).toEqual([...['glass E3 soft.wav', 'glass E3 hard.wav', 'other.wav']]);
    expect(changes[zones[0].id]).not.toHaveProperty('gain');
    expect([unmatched, unused.map(({ name }) => name)]).toEqual([[], ['spare.wav']]);
    expect(swapRecordings(zones, known(...old), [], 4).unmatched).toHaveLength(3);
  });
});
