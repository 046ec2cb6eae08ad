/** An axis whose ticks fall on round numbers, each written once. */
export interface Axis {
  min: number;
  max: number;
  /** Steps between the ends. */
  ticks: number;
  /** Decimals that tell the ticks apart. */
  decimals: number;
}

const STEPS = [0.1, 0.2, 0.25, 0.5, 1, 2];

/** Least span that ticks can tell apart. */
const LEAST = 1e-6;

/** Most steps of an axis. */
const MOST = 7;

function stepFor(span: number, whole: boolean): number {
  const power = 10 ** Math.floor(Math.log10(span));
  const steps = STEPS.map((k) => k * power).filter((s) => !whole || (s >= 1 && decimalsOf(s) === 0));
  return steps.find((s) => span / s <= MOST) ?? Math.max(whole ? 1 : 0, power * 2);
}

function decimalsOf(step: number): number {
  for (let d = 0; d < 6; d += 1) if (Math.abs(step * 10 ** d - Math.round(step * 10 ** d)) < 1e-9) return d;
  return 6;
}

/**
 * An axis that holds some values: four to eight round steps, and an end that was asked for kept as it is.
 *
 * @param values what is drawn; where there is nothing yet, `usual` gives the span
 * @param whole whether only whole numbers mean something, as where things are counted
 */
export function roundAxis(
  values: readonly number[],
  {
    min,
    max,
    usual,
    whole = false,
  }: { min?: number; max?: number; usual: readonly [number, number]; whole?: boolean },
): Axis {
  const known = values.filter(Number.isFinite);
  const low = min ?? Math.min(...(known.length > 0 ? known : [usual[0]]));
  const high = max ?? Math.max(...(known.length > 0 ? known : [usual[1]]));
  // A level line, and one that is level but for what no tick could tell, still has room above and below.
  const least = Math.max(LEAST, 1e-9 * Math.max(Math.abs(low), Math.abs(high)));
  const [from, to] = high - low > least ? [low, high] : [low - (min === undefined ? 0.5 : 0), low + 0.5];
  const step = stepFor(to - from, whole);
  const first = min ?? Math.floor(from / step + 1e-9) * step;
  const ticks = Math.max(1, Math.ceil((to - first) / step - 1e-9));
  return { min: first, max: first + ticks * step, ticks, decimals: decimalsOf(step) };
}
