/** Median of some numbers. */
export function median(values: readonly number[]): number {
  const sorted = [...values].sort((a, b) => a - b);
  return sorted[Math.floor(sorted.length / 2)] ?? Number.NaN;
}

/** Prints rows under a heading, columns aligned. */
export function printTable(title: string, rows: readonly (readonly string[])[]): void {
  const widths = rows[0]!.map((_, i) => Math.max(...rows.map((r) => (r[i] ?? '').length)));
  console.log(`\n${title}`);
  for (const row of rows) console.log(row.map((cell, i) => cell.padEnd(widths[i]!)).join('  '));
}

/** Runs a task several times after a warm-up; milliseconds of each run. */
export async function time(runs: number, task: () => Promise<unknown> | unknown): Promise<number[]> {
  await task();
  const times: number[] = [];
  for (let i = 0; i < runs; i += 1) {
    const start = performance.now();
    await task();
    times.push(performance.now() - start);
  }
  return times;
}

/** A number of milliseconds with one decimal. */
export const ms = (value: number): string => `${value.toFixed(1)} ms`;

/** A whole number given as --name=…, or what it is otherwise. @throws RangeError for one below 1 */
export function given(name: string, otherwise: number): number {
  const found = process.argv.find((a) => a.startsWith(`--${name}=`));
  const value = found === undefined ? otherwise : Number(found.slice(name.length + 3));
  if (!Number.isInteger(value) || value < 1)
    throw new RangeError(`--${name} is a whole number of at least 1, not ${value}`);
  return value;
}
