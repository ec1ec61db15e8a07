/** From the loudest to the softest that a line of loudness shows, LUFS. */
export interface LoudnessScale {
  top: number;
  bottom: number;
}

/** dB between two lines of the scale. */
const STEP = 6;
/** The least that a scale spans, dB. */
const LEAST_SPAN = 18;

/** A scale that holds all of these; silence lies at its bottom. */
export function scaleOf(loudness: readonly number[]): LoudnessScale {
  const known = loudness.filter((value) => Number.isFinite(value));
  const most = known.length > 0 ? Math.max(...known) : -12;
  const least = known.length > 0 ? Math.min(...known) : -30;
  const top = Math.ceil((most + 1) / STEP) * STEP;
  const bottom = Math.min(top - LEAST_SPAN, Math.floor((least - 1) / STEP) * STEP);
  return { top, bottom };
}

/** Lines of the scale that bear a number, with their place from the top, 0–1. */
export function gridOf({ top, bottom }: LoudnessScale): { level: number; y: number }[] {
  const lines: { level: number; y: number }[] = [];
  for (let level = top - STEP; level > bottom; level -= STEP)
    lines.push({ level, y: (top - level) / (top - bottom) });
  return lines;
}

/** A cue as the line of loudness sees it. */
export interface LinePoint {
  at: number;
  loudness: number;
  /** Seconds of the glide into it. */
  fade: number;
}

/**
 * The line of loudness over a song as points of a polyline, x and y from 0 to 1000 and 100: from each cue on it glides, from
 * wherever it has come to by then, and stays.
 */
export function loudnessLine(
  cues: readonly LinePoint[],
  span: number,
  scale: LoudnessScale,
): string {
  if (cues.length === 0) return '';
  const { top, bottom } = scale;
  const held = (loudness: number) => Math.min(top, Math.max(bottom, loudness));
  const points: [number, number][] = [];
  let level = held(cues[0].loudness);
  points.push([0, level]);
  cues.forEach((cue, i) => {
    const until = cues.at(i + 1)?.at ?? span;
    const goal = held(cue.loudness);
    const fade = i === 0 ? 0 : cue.fade;
    points.push([cue.at, level]);
    const arrives = Math.min(cue.at + fade, until);
    if (fade > 0) level += ((goal - level) * (arrives - cue.at)) / fade;
    else level = goal;
    points.push([arrives, level]);
  });
  points.push([span, level]);
  return points
    .map(
      ([at, db]) =>
        `${((at / span) * 1000).toFixed(2)},${(((top - db) / (top - bottom)) * 100).toFixed(2)}`,
    )
    .join(' ');
}

/** Times that bear a number on an axis so long: whole minutes, or fewer when there are many. */
export function ticksOf(span: number): { at: number; left: number }[] {
  const apart = [10, 30, 60, 120, 300, 600, 1800].find((step) => span / step <= 12) ?? 3600;
  const ticks: { at: number; left: number }[] = [];
  for (let at = 0; at <= span; at += apart) ticks.push({ at, left: (at / span) * 100 });
  return ticks;
}
