/** Where a recording sounds, in frames: from `start` until before `end`. */
export interface SoundingPart {
  start: number;
  end: number;
}

/** Seconds of one look at the level. */
const HOP_SECONDS = 0.002;
/** It begins where it is this far below its loudest moment, and has ended where it is so much fainter, as a share. */
const BEGINS = 10 ** (-40 / 20);
const ENDS = 10 ** (-66 / 20);
/** What the background is raised by before something counts as sound. */
const ABOVE_NOISE = 2.8;
/** Seconds that are left before a beginning and behind an end. */
const BEFORE = 0.001;
const BEHIND = 0.02;

/**
 * Where a recording begins and has ended: from its loudest moment its level is followed to either side until it is lost in
 * silence or in the background. Null where there is nothing but silence.
 */
export function soundingPart(samples: Float32Array, sampleRate: number): SoundingPart | null {
  const hop = Math.max(1, Math.round(HOP_SECONDS * sampleRate));
  const levels = levelsOf(samples, hop);
  const loudest = Math.max(0, ...sampled(levels));
  if (loudest === 0) return null;
  const noise = backgroundOf(levels, loudest);
  const begins = Math.max(loudest * BEGINS, noise * ABOVE_NOISE);
  const ends = Math.max(loudest * ENDS, noise * ABOVE_NOISE);
  let first = 0;
  while (levels[first] < begins) first++;
  let last = levels.length - 1;
  while (levels[last] < ends) last--;
  const start = firstAbove(samples, first * hop, hop, begins) - Math.round(BEFORE * sampleRate);
  const end = (last + 1) * hop + Math.round(BEHIND * sampleRate);
  return { start: Math.max(0, start), end: Math.min(samples.length, end) };
}

function levelsOf(samples: Float32Array, hop: number): Float64Array {
  const levels = new Float64Array(Math.ceil(samples.length / hop));
  for (let i = 0; i < levels.length; i++) {
    const to = Math.min(samples.length, (i + 1) * hop);
    let highest = 0;
    for (let at = i * hop; at < to; at++) highest = Math.max(highest, Math.abs(samples[at]));
    levels[i] = highest;
  }
  return levels;
}

/** Few enough to be handed over as arguments: the highest of every thousand. */
function sampled(levels: Float64Array): number[] {
  const highest: number[] = [];
  for (let from = 0; from < levels.length; from += 1000)
    highest.push(Math.max(...levels.subarray(from, from + 1000)));
  return highest;
}

/** Level of the background, where one can be told: the quietest tenth of the ends, if that is far below the loudest moment. */
function backgroundOf(levels: Float64Array, loudest: number): number {
  const edge = Math.max(4, levels.length >> 4);
  const ends = [...levels.subarray(0, edge), ...levels.subarray(-edge)].sort((a, b) => a - b);
  const quiet = ends[Math.floor(ends.length / 10)];
  return quiet < loudest * 0.03 ? quiet : 0;
}

function firstAbove(samples: Float32Array, from: number, hop: number, level: number): number {
  for (let at = from; at < from + hop; at++) if (Math.abs(samples[at]) >= level) return at;
  return from;
}
