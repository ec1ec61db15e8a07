/*
 * The innermost loop of the voice engine, in AssemblyScript: interpolation, two one-pole low-passes and the envelope of one
 * voice, four frames at a time. Everything round it (where a recording wraps round, how an envelope goes on, who plays at all)
 * stays outside: here all frames are alike.
 */

/** Samples that the caller copies in for one call, a channel: those it plays, one before and two behind. */
export const WINDOW: i32 = 4096;
/** Frames of a mix (with room for those of the last four that are thrown away), and voices. */
const BLOCK: i32 = 128;
const VOICES: i32 = 256;

export const windowLeft: usize = memory.data(WINDOW * 4, 16);
export const windowRight: usize = memory.data(WINDOW * 4, 16);
export const both: usize = memory.data((BLOCK + 4) * 4, 16);
export const left: usize = memory.data((BLOCK + 4) * 4, 16);
export const right: usize = memory.data((BLOCK + 4) * 4, 16);
/** What the low-passes of a voice keep: two numbers left, two right. */
export const filters: usize = memory.data(VOICES * 4 * 4, 16);

/** How the frames of one call go: place, step, smoothing, envelope, rise, factor. What lies here is handed over as no object. */
export const way: usize = memory.data(6 * 8, 16);

/** Four-point, third-order Hermite interpolation between y0 and y1, at t ∈ [0, 1), of four frames. */
@inline
function hermite(before: v128, y0: v128, y1: v128, after: v128, t: v128): v128 {
  const half = f32x4.splat(0.5);
  const c1 = f32x4.mul(half, f32x4.sub(y1, before));
  const c2 = f32x4.sub(
    f32x4.add(f32x4.sub(before, f32x4.mul(f32x4.splat(2.5), y0)), f32x4.add(y1, y1)),
    f32x4.mul(half, after),
  );
  const c3 = f32x4.add(
    f32x4.mul(half, f32x4.sub(after, before)),
    f32x4.mul(f32x4.splat(1.5), f32x4.sub(y0, y1)),
  );
  const slope = f32x4.add(f32x4.mul(f32x4.add(f32x4.mul(c3, t), c2), t), c1);
  return f32x4.add(f32x4.mul(slope, t), y0);
}

/** The samples at four places (32.32 fixed point, in two pairs) in a window. */
@inline
function interpolated(window: usize, first: v128, second: v128, t: v128): v128 {
  const r0 = v128.load(window + ((<usize>i32x4.extract_lane(first, 1)) << 2) - 4);
  const r1 = v128.load(window + ((<usize>i32x4.extract_lane(first, 3)) << 2) - 4);
  const r2 = v128.load(window + ((<usize>i32x4.extract_lane(second, 1)) << 2) - 4);
  const r3 = v128.load(window + ((<usize>i32x4.extract_lane(second, 3)) << 2) - 4);
  const t0 = v128.shuffle<f32>(r0, r1, 0, 4, 1, 5);
  const t1 = v128.shuffle<f32>(r2, r3, 0, 4, 1, 5);
  const t2 = v128.shuffle<f32>(r0, r1, 2, 6, 3, 7);
  const t3 = v128.shuffle<f32>(r2, r3, 2, 6, 3, 7);
  return hermite(
    v128.shuffle<f32>(t0, t1, 0, 1, 4, 5),
    v128.shuffle<f32>(t0, t1, 2, 3, 6, 7),
    v128.shuffle<f32>(t2, t3, 0, 1, 4, 5),
    v128.shuffle<f32>(t2, t3, 2, 3, 6, 7),
    t,
  );
}

/**
 * Four frames of y[n] = kept · y[n − 1] + x[n], as a running sum in two doublings: no frame waits for the one before.
 * `powers` are kept¹…kept⁴.
 */
@inline
function lowPass(x: v128, last: f32, kept: v128, keptTwice: v128, powers: v128): v128 {
  const none = f32x4.splat(0);
  let y = f32x4.add(x, f32x4.mul(kept, v128.shuffle<f32>(none, x, 3, 4, 5, 6)));
  y = f32x4.add(y, f32x4.mul(keptTwice, v128.shuffle<f32>(none, y, 2, 3, 4, 5)));
  return f32x4.add(y, f32x4.mul(powers, f32x4.splat(last)));
}

@inline
function powersFrom(first: f64, factor: f64): v128 {
  let powers = f32x4.splat(<f32>first);
  powers = f32x4.replace_lane(powers, 1, <f32>(first * factor));
  powers = f32x4.replace_lane(powers, 2, <f32>(first * factor * factor));
  return f32x4.replace_lane(powers, 3, <f32>(first * factor * factor * factor));
}

@inline
function addTo(into: usize, sound: v128): void {
  v128.store(into, f32x4.add(v128.load(into), sound));
}

/**
 * Adds frames of a voice to the mix. They begin at `place` (in samples, ≥ 1) of what was copied into the window. Frame n has
 * the strength (envelope + rise · (n + 1)) · factorⁿ. Its low-passes are smoothed from 0 (shut) to 1 (open).
 * @param wide whether it is stereo
 * @param voice whose low-passes are meant
 */
export function run(wide: bool, voice: i32, from: i32, frames: i32): void {
  const place = load<f64>(way);
  const step = load<f64>(way, 8);
  const smoothing = load<f64>(way, 16);
  const envelope = load<f64>(way, 24);
  const rise = load<f64>(way, 32);
  const factor = load<f64>(way, 40);
  const at = (<usize>from) << 2;
  const memoryAt = filters + ((<usize>voice) << 4);
  const kept = 1 - smoothing;
  const opened = f32x4.splat(<f32>smoothing);
  const kept1 = f32x4.splat(<f32>kept);
  const kept2 = f32x4.splat(<f32>(kept * kept));
  const kept4 = powersFrom(kept, kept);
  const fixedStep = <i64>(step * 4294967296.0);
  const fixedPlace = <i64>(place * 4294967296.0);
  let first = i64x2.replace_lane(i64x2.splat(fixedPlace), 1, fixedPlace + fixedStep);
  const stride = i64x2.splat(fixedStep << 1);
  let second = i64x2.add(first, stride);
  let ramp = f32x4.add(
    f32x4.splat(<f32>envelope),
    f32x4.mul(f32x4.splat(<f32>rise), f32x4(1, 2, 3, 4)),
  );
  const rampStep = f32x4.splat(<f32>(rise * 4));
  let fall = powersFrom(1, factor);
  const fallStep = f32x4.splat(<f32>(factor * factor * factor * factor));
  let l1 = load<f32>(memoryAt);
  let l2 = load<f32>(memoryAt, 4);
  let r1 = load<f32>(memoryAt, 8);
  let r2 = load<f32>(memoryAt, 12);
  for (let done = 0; done < frames; done += 4) {
    // The fraction of 24 bits, as much as a sample has.
    const t = f32x4.mul(
      f32x4.convert_i32x4_s(i32x4.shr_u(v128.shuffle<i32>(first, second, 0, 2, 4, 6), 8)),
      f32x4.splat(1.0 / 16777216.0),
    );
    const strength = f32x4.mul(ramp, fall);
    const last = frames - done - 1;
    // Frames behind the end are worked out with the others, from whatever lies there, and thrown away.
    const counted = i32x4.le_s(i32x4(0, 1, 2, 3), i32x4.splat(last));
    const offset = at + ((<usize>done) << 2);
    const xl = f32x4.mul(interpolated(windowLeft, first, second, t), opened);
    const yl1 = lowPass(xl, l1, kept1, kept2, kept4);
    const yl2 = lowPass(f32x4.mul(yl1, opened), l2, kept1, kept2, kept4);
    addTo((wide ? left : both) + offset, v128.and(f32x4.mul(yl2, strength), counted));
    l1 = lane(yl1, last);
    l2 = lane(yl2, last);
    if (wide) {
      const xr = f32x4.mul(interpolated(windowRight, first, second, t), opened);
      const yr1 = lowPass(xr, r1, kept1, kept2, kept4);
      const yr2 = lowPass(f32x4.mul(yr1, opened), r2, kept1, kept2, kept4);
      addTo(right + offset, v128.and(f32x4.mul(yr2, strength), counted));
      r1 = lane(yr1, last);
      r2 = lane(yr2, last);
    }
    ramp = f32x4.add(ramp, rampStep);
    fall = f32x4.mul(fall, fallStep);
    first = i64x2.add(first, i64x2.add(stride, stride));
    second = i64x2.add(second, i64x2.add(stride, stride));
  }
  store<f32>(memoryAt, l1);
  store<f32>(memoryAt, l2, 4);
  store<f32>(memoryAt, r1, 8);
  store<f32>(memoryAt, r2, 12);
}

/** The lane of the last frame. */
@inline
function lane(frames: v128, last: i32): f32 {
  if (last >= 3) return f32x4.extract_lane(frames, 3);
  if (last === 2) return f32x4.extract_lane(frames, 2);
  if (last === 1) return f32x4.extract_lane(frames, 1);
  return f32x4.extract_lane(frames, 0);
}
