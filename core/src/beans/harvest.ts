import { normalQuantile, requireNotBelow0, requireNumbers, requireWhole } from '../numerics/index.ts';

/** Pods picked on a day in a plot. */
export interface Picking {
  /** Day, YYYY-MM-DD. */
  on: string;
  plot: string;
  /** Trees that were picked; null where nobody counted. */
  trees: number | null;
  pods: number;
  /** Wet beans out of them, mg; null where they were not weighed. */
  wetMg: number | null;
  /** Paid for them, minor units. */
  paid: number;
}

/** A plot's year. */
export interface PlotYear {
  plot: string;
  /** Pods by month, January first. */
  months: number[];
  pods: number;
  /** Trees of the plot: the most that were picked in a round; null where none were counted. */
  trees: number | null;
  podsPerTree: number | null;
  /** Wet beans of a pod, mg, from the pickings that were weighed; null where none was. */
  wetPerPodMg: number | null;
  paid: number;
}

/** Pods to expect in a month: four of five such months lie within. */
export interface MonthAhead {
  /** YYYY-MM. */
  month: string;
  low: number;
  middle: number;
  high: number;
  /** Years it rests on. */
  years: number;
}

const DAY = /^\d{4}-(0[1-9]|1[0-2])-([0-2]\d|3[01])$/;

function requirePickings(pickings: readonly Picking[]): void {
  for (const { on, plot, ...numbers } of pickings) {
    if (!DAY.test(on)) throw new RangeError(`a day of picking is written YYYY-MM-DD, not ‘${on}’`);
    if (plot.trim() === '') throw new RangeError('a picking names its plot');
    requireNumbers(numbers, 'a picking');
    requireWhole(numbers.pods, 'the number of pods', 1);
    if (numbers.trees !== null) requireWhole(numbers.trees, 'the number of trees', 1);
    if (numbers.wetMg !== null) requireNotBelow0(numbers.wetMg, 'the wet beans');
    requireNotBelow0(numbers.paid, 'what was paid');
  }
}

/**
 * Each plot's year: pods by month, by tree, wet beans a pod and what they cost; the plot with most pods first.
 *
 * @throws RangeError for a day that is none, a picking without a plot, and numbers that are none or below 0
 */
export function harvestYear(pickings: readonly Picking[], year: number): PlotYear[] {
  requirePickings(pickings);
  requireWhole(year, 'the year', 1);
  const plots = new Map<string, Picking[]>();
  for (const p of pickings)
    if (Number(p.on.slice(0, 4)) === year) plots.set(p.plot, [...(plots.get(p.plot) ?? []), p]);
  return [...plots]
    .map(([plot, of]): PlotYear => {
      const months = Array.from({ length: 12 }, () => 0);
      for (const p of of) months[Number(p.on.slice(5, 7)) - 1]! += p.pods;
      const pods = of.reduce((sum, p) => sum + p.pods, 0);
      const counted = of.flatMap((p) => (p.trees === null ? [] : [p.trees]));
      const trees = counted.length === 0 ? null : Math.max(...counted);
      const weighed = of.filter((p) => p.wetMg !== null);
      const weighedPods = weighed.reduce((sum, p) => sum + p.pods, 0);
      return {
        plot,
        months,
        pods,
        trees,
        podsPerTree: trees === null ? null : pods / trees,
        wetPerPodMg: weighedPods === 0 ? null : weighed.reduce((sum, p) => sum + p.wetMg!, 0) / weighedPods,
        paid: of.reduce((sum, p) => sum + p.paid, 0),
      };
    })
    .sort((a, b) => b.pods - a.pods || a.plot.localeCompare(b.plot));
}

/** How much the same month differs from year to year, sd of ln pods, and for how many years that counts. */
const BETWEEN_YEARS = 0.45;
const USUAL_YEARS = 3;

/** Pods that are added before the logarithm is taken, so that an empty month has one. */
const HARDLY_ANY = 1;

/**
 * What the coming months should bring, by the same months of earlier years: their geometric mean, with the range of one more such month (normal
 *
 * in ln pods, the spread shrunk towards the usual one).
 *
 * @param from first month looked at, YYYY-MM; what was picked in it and after it is not counted
 * @returns a month without an earlier year is left out
 * @throws RangeError as {@link harvestYear}, and for a month that is none
 */
export function harvestAhead(pickings: readonly Picking[], from: string, months = 6): MonthAhead[] {
  requirePickings(pickings);
  if (!/^\d{4}-(0[1-9]|1[0-2])$/.test(from))
    throw new RangeError(`a month is written YYYY-MM, not ‘${from}’`);
  requireWhole(months, 'the number of months', 1);
  const count = new Map<number, number>();
  for (const p of pickings) {
    const k = monthNumber(p.on);
    count.set(k, (count.get(k) ?? 0) + p.pods);
  }
  const now = monthNumber(from);
  const begun = Math.min(...count.keys());
  return Array.from({ length: months }, (_, i) => now + i).flatMap((k): MonthAhead[] => {
    const seen: number[] = [];
    for (let then = k - 12; then >= begun; then -= 12) if (then < now) seen.push(count.get(then) ?? 0);
    if (seen.length === 0) return [];
    const month = `${Math.floor(k / 12)}-${String((k % 12) + 1).padStart(2, '0')}`;
    const years = seen.length;
    if (seen.every((pods) => pods === 0)) return [{ month, low: 0, middle: 0, high: 0, years }];
    const logs = seen.map((pods) => Math.log(pods + HARDLY_ANY));
    const mean = logs.reduce((a, b) => a + b, 0) / years;
    const squares = logs.reduce((sum, l) => sum + (l - mean) ** 2, USUAL_YEARS * BETWEEN_YEARS ** 2);
    const freedom = USUAL_YEARS + years - 1;
    const sd = Math.sqrt((squares / freedom) * (1 + 1 / years));
    const half = normalQuantile(0.9) * sd;
    const pods = (log: number) => Math.max(0, Math.exp(log) - HARDLY_ANY);
    return [{ month, low: pods(mean - half), middle: pods(mean), high: pods(mean + half), years }];
  });
}

/** Months since year 0. */
const monthNumber = (day: string) => Number(day.slice(0, 4)) * 12 + Number(day.slice(5, 7)) - 1;
