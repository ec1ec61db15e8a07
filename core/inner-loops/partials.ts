/*
 * The innermost loop of rendering house sounds, in AssemblyScript: adds one sine, which falls by a factor a sample, to a
 * recording. y[n] = 2·r·cos(w)·y[n−1] − r²·y[n−2] holds for any stride, so it goes on four samples at a time through
 * y[n] = 2·r⁴·cos(4w)·y[n−4] − r⁸·y[n−8], and no sample waits for its neighbour.
 */

/** Where recordings are made: left from here on, right behind it. What is used of the memory is the caller's to grow. */
export const recording: usize = memory.data(16, 16);

@inline
function pair(first: f64, second: f64): v128 {
  return f64x2.replace_lane(f64x2.splat(first), 1, second);
}

@inline
function addTo(into: usize, sound: v128, strength: v128): void {
  v128.store(into, f32x4.add(v128.load(into), f32x4.mul(sound, strength)));
}

/**
 * Adds a sine to the samples from `from` until before `to`.
 * @param right where the right side begins, in bytes; 0 for a mono recording
 * @param y0 its sample at `from` rounded down to a multiple of four
 * @param y1 the one behind
 * @param twice 2·r·cos(w)
 * @param square r²
 * @param twiceOfFour 2·r⁴·cos(4w)
 */
export function add(
  right: usize,
  from: i32,
  to: i32,
  toLeft: f32,
  toRight: f32,
  y0: f64,
  y1: f64,
  twice: f64,
  square: f64,
  twiceOfFour: f64,
): void {
  const y2 = twice * y1 - square * y0;
  const y3 = twice * y2 - square * y1;
  // The four before, by the same law the other way round.
  const b3 = (twice * y0 - y1) / square;
  const b2 = (twice * b3 - y0) / square;
  const b1 = (twice * b2 - b3) / square;
  const b0 = (twice * b1 - b2) / square;
  let first = pair(y0, y1);
  let second = pair(y2, y3);
  let firstBefore = pair(b0, b1);
  let secondBefore = pair(b2, b3);
  const c = f64x2.splat(twiceOfFour);
  const s = f64x2.splat(square * square * square * square);
  const left4 = f32x4.splat(toLeft);
  const right4 = f32x4.splat(toRight);
  const begin = i32x4.splat(from - 1);
  const end = i32x4.splat(to);
  const four = i32x4.splat(4);
  let index = i32x4.add(i32x4.splat(from & ~3), i32x4(0, 1, 2, 3));
  for (let i = from & ~3; i < to; i += 4) {
    const meant = v128.and(i32x4.gt_s(index, begin), i32x4.lt_s(index, end));
    const sound = v128.and(
      v128.shuffle<f32>(f32x4.demote_f64x2_zero(first), f32x4.demote_f64x2_zero(second), 0, 1, 4, 5),
      meant,
    );
    const at = recording + ((<usize>i) << 2);
    addTo(at, sound, left4);
    if (right) addTo(at + right, sound, right4);
    const nextFirst = f64x2.sub(f64x2.mul(c, first), f64x2.mul(s, firstBefore));
    const nextSecond = f64x2.sub(f64x2.mul(c, second), f64x2.mul(s, secondBefore));
    firstBefore = first;
    secondBefore = second;
    first = nextFirst;
    second = nextSecond;
    index = i32x4.add(index, four);
  }
}
