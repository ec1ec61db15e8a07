/** How quick a vibrato can be, Hz. */
const SLOWEST = 3;
const QUICKEST = 9;
const STEP = 0.1;
/** Values that are needed to tell a vibrato from chance. */
const LEAST_VALUES = 8;

/**
 * The mean of something that may swing round it: a constant and a sine of 3–9 Hz are fitted together, so that a part of a swing
 * at the end moves nothing. Values that are far off are left out.
 */
export function steadyMean(seconds: readonly number[], values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  const middle = sorted[sorted.length >> 1];
  if (values.length < LEAST_VALUES) return middle;
  const spread =
    sorted[Math.floor(sorted.length * 0.84)] - sorted[Math.floor(sorted.length * 0.16)];
  const near = values.map((value) => Math.abs(value - middle) <= Math.max(5, 2 * spread));
  const times = seconds.filter((_, i) => near[i]);
  const kept = values.filter((_, i) => near[i]);
  const mean = kept.reduce((sum, value) => sum + value, 0) / kept.length;
  let best = { rest: kept.reduce((sum, value) => sum + (value - mean) ** 2, 0), mean };
  const plain = best.rest;
  for (let rate = SLOWEST; rate <= QUICKEST; rate += STEP) {
    const fitted = withSwing(times, kept, rate);
    if (fitted && fitted.rest < best.rest) best = fitted;
  }
  // A sine fits anything a little better.
  return best.rest < plain * 0.6 ? best.mean : mean;
}

/** Least squares of c + a · cos + b · sin at a rate: the constant, and what is left over. */
function withSwing(
  times: readonly number[],
  values: readonly number[],
  rate: number,
): { mean: number; rest: number } | null {
  const rows = times.map((time) => {
    const turned = 2 * Math.PI * rate * time;
    return [1, Math.cos(turned), Math.sin(turned)];
  });
  const matrix = [0, 1, 2].map((i) => [
    ...[0, 1, 2].map((j) => rows.reduce((sum, row) => sum + row[i] * row[j], 0)),
    rows.reduce((sum, row, k) => sum + row[i] * values[k], 0),
  ]);
  for (let i = 0; i < 3; i++) {
    if (Math.abs(matrix[i][i]) < 1e-6) return null;
    for (let j = 0; j < 3; j++) {
      if (j === i) continue;
      const factor = matrix[j][i] / matrix[i][i];
      for (let k = i; k < 4; k++) matrix[j][k] -= factor * matrix[i][k];
    }
  }
  const [mean, a, b] = [0, 1, 2].map((i) => matrix[i][3] / matrix[i][i]);
  const rest = rows.reduce(
    (sum, row, k) => sum + (values[k] - mean - a * row[1] - b * row[2]) ** 2,
    0,
  );
  return { mean, rest };
}
