import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { PLAIN_ZONE } from '../model/library/sample-zone.js';
import { tone } from '../testing/tones.js';
import { archiveOf, entriesOf, entryBytes, isArchive } from './archive.js';
import { readAudio } from './audio-files.js';
import { claimsOfName } from './file-names.js';
import { recordingOf } from './recording-of.js';
import { wavInParts, writeWav } from './wav-writing.js';

const samples = tone({ key: 60, seconds: 0.05 });
const stereo = [samples, samples.map((sample) => -sample)];
const id = 'a'.repeat(64);
const full = { fadeIn: 0, fadeOut: 0, law: 'equalPower' as const };
const zone = {
  ...PLAIN_ZONE,
  ...{ root: 52, cents: 3, gain: -2, loop: { start: 0.01, end: 0.04, crossfade: 0 } },
  ...{ keys: { low: 48, high: 55, ...full }, velocities: { low: 1, high: 64, ...full } },
};
const refusal = async (bytes: Uint8Array) => {
  try {
    await recordingOf(bytes, 'x.wav', id);
    return 'taken';
  } catch (error) {
    return (error as Error).message;
  }
};
/** Bytes with some of them changed. */
const changed = (bytes: Uint8Array, at: number, ...to: number[]) => {
  const copy = bytes.slice();
  copy.set(to, at);
  return copy;
};
const text = (bytes: Uint8Array, from: number, to: number) =>
  String.fromCharCode(...bytes.subarray(from, to));

describe('WAV files', () => {
  it.each([16, 24, 32] as const)('of %i bits are read as they were written', async (bits) => {
    const bytes = writeWav({ channels: stereo, sampleRate: 44_100, bits, zone });
    const read = await readAudio(bytes, 'x.wav');
    expect(read).toMatchObject({ format: 'wav', sampleRate: 44_100, bits });
    read.channels.forEach((side, i) =>
      side.forEach((sample, at) =>
        expect(Math.abs(sample - stereo[i][at])).toBeLessThanOrEqual(2 ** -(bits - 1)),
      ),
    );
    // Three cents too low by itself: 97 above the key below.
    expect(read.claims).toMatchObject({ root: 51, gain: -2, velocities: { low: 1, high: 64 } });
    expect(read.claims.cents).toBeCloseTo(97, 4);
    expect(read.claims.loop?.start).toBeCloseTo(0.01, 4);
    expect(read.claims.loop?.end).toBeCloseTo(0.04, 4);
    // Written again, bit for bit the same.
    const again = writeWav({ channels: read.channels, sampleRate: 44_100, bits, zone });
    expect(again).toEqual(bytes);
    // Part by part the same too.
    const long = stereo.map((side) =>
      Float32Array.from({ length: 100_001 }, (_, i) => side[i % side.length]),
    );
    const parts = [...wavInParts({ channels: long, sampleRate: 44_100, bits })];
    const whole = Uint8Array.from(parts.flatMap((part) => [...part]));
    expect(whole).toEqual(writeWav({ channels: long, sampleRate: 44_100, bits }));
  });

  const plain = writeWav({ channels: [samples], sampleRate: 48_000, bits: 16 });
  it.each<[string, Uint8Array, string]>([
    ['empty', new Uint8Array(), 'empty'],
    ['cut in its head', plain.slice(0, 9), 'no WAV'],
    ['cut in its sound', plain.slice(0, 800), 'cut off'],
    [
      'of one sample',
      writeWav({ channels: [samples.slice(0, 1)], sampleRate: 48_000, bits: 16 }),
      'one sample',
    ],
    [
      'without a sample',
      writeWav({ channels: [samples.slice(0, 0)], sampleRate: 48_000, bits: 16 }),
      'no sound',
    ],
    [
      'silent',
      writeWav({ channels: [new Float32Array(4800)], sampleRate: 48_000, bits: 16 }),
      'silence',
    ],
    ['of eight channels', changed(plain, 22, 8), '8 channels'],
    ['that claims 4 GB', changed(plain, 40, 255, 255, 255, 255), 'cut off'],
    ['that is compressed', changed(plain, 20, 85), 'compressed'],
    ['of no sample rate', changed(plain, 24, 0, 0, 0, 0), 'sample rate'],
    ['of 40 bits', changed(plain, 34, 40), '40 bits'],
    ['no sound at all', new TextEncoder().encode('MThd and more'), 'no WAV, AIFF'],
    ['a broken FLAC file', new TextEncoder().encode('fLaC and no more of it'), 'damaged'],
    ['a broken Ogg file', new TextEncoder().encode('OggS and no more of it than that'), ''],
  ])('%s: refused with the reason', async (_what, bytes, words) => {
    const said = await refusal(bytes);
    expect(said).not.toBe('taken');
    expect(said).toContain(words);
  });

  it('that are damaged anywhere are read or refused, and never anything else', async () => {
    const whole = writeWav({ channels: stereo, sampleRate: 48_000, bits: 24, zone });
    const places = fc.array(fc.tuple(fc.nat(whole.length - 1), fc.nat(255)), { maxLength: 6 });
    await fc.assert(
      fc.asyncProperty(places, fc.nat(whole.length), async (damage, length) => {
        const bytes = whole.slice(0, length || whole.length);
        for (const [at, value] of damage) if (at < bytes.length) bytes[at] = value;
        const said = await refusal(bytes);
        expect(said).toMatch(/^(taken|it |its )/);
      }),
      { numRuns: 60 },
    );
  });

  it('a number that is none, or next to none, becomes silence', async () => {
    const odd = samples.map((sample, i) => (i === 5 ? NaN : i === 6 ? 1e-30 : sample));
    const read = await readAudio(
      writeWav({ channels: [odd], sampleRate: 48_000, bits: 32 }),
      'x.wav',
    );
    expect([...read.channels[0].subarray(4, 8)]).toEqual([samples[4], 0, 0, samples[7]]);
  });
});

describe('names of files', () => {
  const nothing = { note: null, number: null, strength: null, turn: null };
  it.each([
    ['bell-E3-soft.wav', { note: { step: 4, octave: 3 }, strength: 2 / 7 }],
    ['Piano_F#2_ff_rr2.aif', { note: { step: 6, octave: 2 }, strength: 6 / 7, turn: 2 }],
    ['organ Eb-1.wav', { note: { step: 3, octave: -1 } }],
    ['harp_060_v064.flac', { number: 60, strength: 64 / 127 }],
    [
      'harp vel 100 take 3 As4.ogg',
      { note: { step: 10, octave: 4 }, strength: 100 / 127, turn: 3 },
    ],
    ['glass very hard 12.wav', { number: 12, strength: 6 / 7 }],
    ['a folder C4/kick.wav', {}],
    ['big bad drum.wav', {}],
  ])('%s', (name, claims) => {
    expect(claimsOfName(name)).toEqual({ ...nothing, ...claims });
  });
});

describe('archives', () => {
  const file = writeWav({ channels: [samples], sampleRate: 48_000, bits: 16 });
  it('give their files, and say of others why not', () => {
    const packed = archiveOf({
      'bells/soft.wav': file,
      '../outside.wav': file,
      'inner.zip': file,
      '__MACOSX/bells/soft.wav': file,
    });
    expect(isArchive(packed)).toBe(true);
    expect(isArchive(file)).toBe(false);
    const entries = entriesOf(packed);
    expect(
      entries.map(({ name, problem }) => [name, problem?.split(' ').slice(0, 3).join(' ')]),
    ).toEqual([
      ['bells/soft.wav', undefined],
      ['../outside.wav', 'its path leads'],
      ['inner.zip', 'it is an'],
    ]);
    expect(entryBytes(packed, entries[0])).toEqual(file);
  });

  it('that are damaged are refused', () => {
    expect(() => entriesOf(archiveOf({ a: file }).slice(0, 60))).toThrow('archive is damaged');
  });
});

it('what is brought in is heard, and a clipped recording is taken with a word', async () => {
  const note = tone({ key: 64, cents: 4, seconds: 0.8, peak: 3 });
  const bytes = writeWav({ channels: [note], sampleRate: 48_000, bits: 16 });
  expect(text(bytes, 0, 4)).toBe('RIFF');
  const { recording, word } = await recordingOf(bytes, 'bells/tone-E4-ff.wav', id);
  expect(word).toContain('clipped in');
  expect(recording).toMatchObject({
    ...{ id, name: 'tone-E4-ff.wav', channels: 1, bits: 16, frames: 38_400 },
    claims: { note: { step: 4, octave: 4 } },
    heard: { pitch: { key: 64 }, isMono: true },
  });
});
