/** One measured number and what it should be. Both in the same unit; smaller is better. */
export interface Result {
  what: string;
  value: number;
  goal: number;
  unit: string;
  /** What keeps it from its goal, where that is not the program: printed when it is missed. */
  limit?: string;
}

/** Times of single runs, sorted, in milliseconds. What `after` does between them is not counted. */
export function times(
  runs: number,
  work: (run: number) => void,
  after: (run: number) => void = () => undefined,
): number[] {
  for (let run = 0; run < Math.min(runs, 2000); run++) {
    work(run);
    after(run);
  }
  const found: number[] = [];
  for (let run = 0; run < runs; run++) {
    const start = performance.now();
    work(run);
    found.push(performance.now() - start);
    after(run);
  }
  return found.sort((a, b) => a - b);
}

/** The value below which a share of sorted numbers lies. */
export function quantile(sorted: readonly number[], share: number): number {
  return sorted[Math.min(sorted.length - 1, Math.floor(sorted.length * share))];
}

/** Prints results as a table: the ratio of each to its goal says whether it holds (at most 1). */
export function print(results: readonly Result[]): void {
  const rows = results.map(({ what, value, goal, unit }) => [
    what,
    `${format(value)} ${unit}`,
    `${format(goal)} ${unit}`,
    (value / goal).toFixed(3),
    value <= goal ? 'holds' : 'MISSED',
  ]);
  const all = [['measured', 'value', 'goal', 'ratio', ''], ...rows];
  const widths = all[0].map((_, column) => Math.max(...all.map((row) => row[column].length)));
  for (const row of all)
    console.log(
      row
        .map((cell, i) => (i === 0 ? cell.padEnd(widths[i]) : cell.padStart(widths[i])))
        .join('  '),
    );
  for (const { what, value, goal, limit } of results)
    if (limit && value > goal) console.log(`${what}: ${limit}`);
}

function format(value: number): string {
  return value >= 100 ? value.toFixed(0) : value >= 1 ? value.toFixed(2) : value.toFixed(4);
}
