import { PitchDetector } from 'pitchy';
import { fitComb, partialAt, type Comb } from './comb.js';
import { partialsOf, spectrumAt, type Partial } from './spectrum.js';
import { steadyMean } from './vibrato.js';

/** The pitch of a recording. */
export interface HeardPitch {
  /** MIDI key, 69 = 440 Hz. */
  key: number;
  /** How far it lies from that key, −50…50 cents. */
  cents: number;
  /** How sure that is, 0…1. */
  confidence: number;
}

/** Frequencies that are looked for, Hz: from below A0 to above C8. */
const LOWEST = 24;
const HIGHEST = 4700;
/** Long stretches tell partials of low notes apart, short ones follow a vibrato; seconds. */
const LONG_SECONDS = 0.34;
const SHORT_SECONDS = 0.085;
/** Bins that partials have to lie apart for short stretches to tell them from each other. */
const APART = 9;
/** Stretches of each length. */
const STRETCHES = 5;
const SHORTEST = 1024;
/** Partials fainter than this share of the strongest are left to the noise (−48 dB). */
const FAINTEST = 0.004;
/** Partials that are looked at, and the strongest of them that candidates are made from. */
const MOST_PARTIALS = 60;
const STRONGEST = 6;
/** A candidate may be this many times lower than a strong partial. */
const DEEPEST = 6;
/** Stretches that differ by more than this from the middle one have heard something else, cents. */
const ASTRAY = 70;
/** Below it a sound counts as having no pitch. */
const LEAST_CONFIDENCE = 0.5;
/** What is quieter than the loudest stretch by more than this is not listened to (−40 dB). */
const QUIETEST = 0.01;
/** Samples that the pitch method is given. */
const PERIOD_WINDOW = 4096;
/** How the fundamental is followed: seconds in all, and periods that one look takes in. */
const FOLLOWED_SECONDS = 2;
const FOLLOWED_PERIODS = 10;
const MOST_LOOKS = 80;

/** What was heard in one stretch. */
interface HeardStretch {
  comb: Comb;
  score: number;
  sureness: number;
  power: number;
}

/**
 * The pitch of a sound from `from` until before `to`, or null where it has none. Candidates come from McLeod and Wyvill’s
 * pitch method and from the strongest partials; the comb that explains most of a spectrum with fewest partials missing decides.
 * Its fundamental is then followed through the sound, fitted to all partials, stretched or not, and a vibrato is taken out.
 */
export function heardPitch(
  samples: Float32Array,
  from: number,
  to: number,
  sampleRate: number,
): HeardPitch | null {
  const length = to - from;
  if (length < SHORTEST / 2) return null;
  const sizes = new Set(
    [LONG_SECONDS, SHORT_SECONDS].map((seconds) => sizeOf(seconds, sampleRate, length)),
  );
  const heard = [...sizes]
    .map((size) => together(samples, from, length, size, sampleRate))
    .filter((agreed) => agreed !== null)
    .reduce<Agreed | null>((a, b) => (a && a.score >= b.score ? a : b), null);
  if (!heard || heard.sureness < LEAST_CONFIDENCE) return null;
  const cents = followed(samples, from, length, heard.comb, sampleRate);
  const key = Math.round(cents / 100);
  return {
    key,
    cents: rounded(cents - 100 * key, 1),
    confidence: rounded(Math.min(1, heard.sureness), 3),
  };
}

function sizeOf(seconds: number, sampleRate: number, length: number): number {
  const wished = 2 ** Math.round(Math.log2(seconds * sampleRate));
  return Math.max(SHORTEST, Math.min(wished, 2 ** Math.floor(Math.log2(length))));
}

/** Where `count` stretches begin: the first behind the attack, the others evenly over some time. */
function placesOf(length: number, size: number, over: number, count: number): number[] {
  const room = Math.max(0, length - size);
  const first = Math.min(room, Math.round(size / 8));
  const last = Math.min(room, first + over);
  if (last <= first || count < 2) return [first];
  return Array.from({ length: count }, (_, i) =>
    Math.round(first + ((last - first) * i) / (count - 1)),
  );
}

/** What stretches of one length agree on. */
interface Agreed {
  comb: Comb;
  score: number;
  sureness: number;
}

function together(
  samples: Float32Array,
  from: number,
  length: number,
  size: number,
  sampleRate: number,
): Agreed | null {
  const stretches = placesOf(length, size, 1.5 * sampleRate, STRETCHES)
    .map((at) => heardIn(samples, from + at, size, sampleRate))
    .filter((stretch) => stretch !== null);
  const loudest = Math.max(0, ...stretches.map(({ power }) => power));
  const heard = stretches.filter(({ power }) => power >= loudest * QUIETEST);
  if (heard.length === 0) return null;
  const sorted = [...heard].sort((a, b) => a.comb.f0 - b.comb.f0);
  const half = sorted.reduce((sum, { score }) => sum + score, 0) / 2;
  let sum = 0;
  const middle = sorted.find(({ score }) => (sum += score) >= half) ?? sorted[0];
  const agreeing = heard.filter(({ comb }) => centsBetween(comb.f0, middle.comb.f0) <= ASTRAY);
  const share = (of: (stretch: HeardStretch) => number) =>
    agreeing.reduce((all, stretch) => all + of(stretch), 0) / heard.length;
  return { comb: middle.comb, score: share((s) => s.score), sureness: share((s) => s.sureness) };
}

function centsBetween(one: number, other: number): number {
  return Math.abs(1200 * Math.log2(one / other));
}

function heardIn(
  samples: Float32Array,
  at: number,
  size: number,
  sampleRate: number,
): HeardStretch | null {
  const spectrum = spectrumAt(samples, at, size, sampleRate);
  const partials = strongest(partialsOf(spectrum, FAINTEST), MOST_PARTIALS).filter(
    ({ frequency }) => frequency > LOWEST * 0.9,
  );
  if (partials.length === 0) return null;
  const tolerance = spectrum.binWidth * 1.5;
  const lowest = size / sampleRate < LONG_SECONDS / 2 ? spectrum.binWidth * APART : LOWEST;
  const { pitch, clarity } = byPeriod(samples, at, size, sampleRate);
  let best: Comb | null = null;
  let bestScore = 0;
  for (const candidate of candidates(partials, pitch)) {
    if (candidate < lowest || candidate > HIGHEST) continue;
    const comb = fitComb(partials, candidate, tolerance);
    // What the ear takes for the period counts for something too.
    const agrees = centsBetween(comb.f0, pitch) < 60 ? 0.12 * clarity : 0;
    const score = comb.explained * (0.45 + 0.55 * comb.present) + agrees;
    if (score <= bestScore) continue;
    best = comb;
    bestScore = score;
  }
  if (!best) return null;
  return {
    comb: best,
    score: bestScore,
    sureness: best.explained * (0.4 + 0.2 * best.present + 0.4 * clarity),
    power: partials.reduce((sum, { strength }) => sum + strength * strength, 0),
  };
}

const detectors = new Map<number, PitchDetector<Float32Array>>();

/** What the pitch method makes of a stretch: Hz (1 for nothing) and how clear it is, 0…1. */
function byPeriod(samples: Float32Array, at: number, size: number, sampleRate: number) {
  const length = Math.min(size, PERIOD_WINDOW * (sampleRate > 50_000 ? 2 : 1));
  let detector = detectors.get(length);
  if (!detector) {
    detector = PitchDetector.forFloat32Array(length);
    detectors.set(length, detector);
  }
  const stretch = new Float32Array(length);
  stretch.set(samples.subarray(at, at + length));
  const [pitch, clarity] = detector.findPitch(stretch, sampleRate);
  return { pitch: pitch > 0 ? pitch : 1, clarity: Math.min(1, Math.max(0, clarity)) };
}

function strongest(partials: Partial[], count: number): Partial[] {
  return partials.sort((a, b) => b.strength - a.strength).slice(0, count);
}

function* candidates(partials: readonly Partial[], pitch: number): Iterable<number> {
  for (const factor of [1, 2, 1 / 2, 3, 1 / 3]) yield pitch * factor;
  for (const { frequency } of partials.slice(0, STRONGEST))
    for (let n = 1; n <= DEEPEST; n++) yield frequency / n;
  const top = partials.slice(0, STRONGEST).sort((a, b) => a.frequency - b.frequency);
  for (let i = 1; i < top.length; i++) yield top[i].frequency - top[i - 1].frequency;
}

/** Follows a comb’s fundamental through the sound; gives its mean in cents, 6900 = 440 Hz, without the vibrato. */
function followed(
  samples: Float32Array,
  from: number,
  length: number,
  { f0, stretch }: Comb,
  sampleRate: number,
): number {
  const size = sizeOf(Math.min(LONG_SECONDS, FOLLOWED_PERIODS / f0), sampleRate, length);
  const over = Math.min(FOLLOWED_SECONDS * sampleRate, length);
  const count = Math.max(1, Math.min(MOST_LOOKS, Math.round((2 * over) / size)));
  const seconds: number[] = [];
  const cents: number[] = [];
  const powers: number[] = [];
  for (const at of placesOf(length, size, over, count)) {
    const spectrum = spectrumAt(samples, from + at, size, sampleRate);
    const partials = strongest(partialsOf(spectrum, FAINTEST), MOST_PARTIALS);
    const comb = fitComb(partials, f0, spectrum.binWidth * 1.5);
    if (centsBetween(comb.f0, f0) > ASTRAY) continue;
    seconds.push(at / sampleRate);
    cents.push(1200 * Math.log2(partialAt(comb.f0, comb.stretch, 1) / 440) + 6900);
    powers.push(partials.reduce((sum, { strength }) => sum + strength * strength, 0));
  }
  if (cents.length === 0) return 1200 * Math.log2(partialAt(f0, stretch, 1) / 440) + 6900;
  const loudest = Math.max(...powers);
  const isHeard = (_: number, i: number) => powers[i] >= loudest * QUIETEST;
  return steadyMean(seconds.filter(isHeard), cents.filter(isHeard));
}

function rounded(value: number, digits: number): number {
  // Never −0, which is no other number to anybody.
  return Number(value.toFixed(digits)) + 0;
}
