/** A line to be named where it runs. */
export interface Named {
  name: string;
  points: readonly (readonly [x: number, y: number])[];
}

/** Where a name stands: its middle, in the chart's own numbers. */
export interface Place {
  name: string;
  x: number;
  y: number;
}

/** Places tried along a line, from its end backwards: a name is looked for where the line ends. */
const TRIES = [0.92, 0.8, 0.66, 0.5, 0.36, 0.22, 0.1];

/** Room a name takes, px: a sign of 12 px is some 6.6 px wide. */
const SIGN = 6.6;
const HEIGHT = 18;

/** About how wide a name is that is written 12 px high, px. */
export const nameWidth = (name: string): number => name.length * SIGN;

const heightAt = (points: Named['points'], x: number): number | null => {
  const after = points.findIndex((p) => p[0] >= x);
  if (after < 0) return null;
  if (after === 0) return points[0]![0] - x > 1e-9 ? null : points[0]![1];
  const [a, b] = [points[after - 1]!, points[after]!];
  return b[0] === a[0] ? b[1] : a[1] + ((b[1] - a[1]) * (x - a[0])) / (b[0] - a[0]);
};

/**
 * Places the names of lines on a plot: each above its own line, where it is furthest from other lines and from names that
 * stand already. A line without points has no name.
 *
 * @param span the ends of both axes
 * @param size of the plot, px
 */
export function placeNames(
  lines: readonly Named[],
  span: { x: readonly [number, number]; y: readonly [number, number] },
  size: { width: number; height: number },
): Place[] {
  const px = (x: number) => ((x - span.x[0]) / (span.x[1] - span.x[0])) * size.width;
  const py = (y: number) => (1 - (y - span.y[0]) / (span.y[1] - span.y[0])) * size.height;
  const boxOf = ({ name, x, y }: Place) => ({
    left: px(x) - nameWidth(name) / 2,
    right: px(x) + nameWidth(name) / 2,
    top: py(y) - HEIGHT - 4,
    bottom: py(y) - 4,
  });
  // A name stands on the plot, not over the numbers beside it.
  const within = (name: string, x: number) => {
    const half = Math.min(size.width / 2, nameWidth(name) / 2 + 2);
    const at = Math.min(size.width - half, Math.max(half, px(x)));
    return span.x[0] + (at / size.width) * (span.x[1] - span.x[0]);
  };
  const placed: Place[] = [];
  for (const line of lines) {
    const known = line.points.filter(([x, y]) => Number.isFinite(x) && Number.isFinite(y));
    if (known.length === 0) continue;
    let best: { place: Place; free: number } | null = null;
    for (const [nth, share] of TRIES.entries()) {
      const at = known[Math.round(share * (known.length - 1))]!;
      const place = { name: line.name, x: within(line.name, at[0]), y: at[1] };
      const box = boxOf(place);
      if (box.top < -6) continue;
      const others = lines
        .filter((l) => l !== line)
        .flatMap((l) => {
          const there = heightAt(l.points, at[0]);
          return there === null ? [] : [Math.abs(py(there) - (box.top + box.bottom) / 2)];
        });
      // A line that climbs through its own name cannot be read.
      const own = [box.left, box.right].flatMap((edge) => {
        const there = heightAt(known, span.x[0] + (edge / size.width) * (span.x[1] - span.x[0]));
        return there === null ? [] : [py(there) - box.bottom + 12];
      });
      const names = placed.map((p) => {
        const other = boxOf(p);
        const apart = Math.max(
          other.left - box.right,
          box.left - other.right,
          other.top - box.bottom,
          box.top - other.bottom,
        );
        return apart < 0 ? apart - 40 : apart + HEIGHT;
      });
      // A little rather at the end of a line than at its beginning.
      const free = Math.min(60, ...others, ...own, ...names) - nth;
      if (!best || free > best.free) best = { place, free };
    }
    const last = known.at(-1)!;
    placed.push(best?.place ?? { name: line.name, x: within(line.name, last[0]), y: last[1] });
  }
  return placed;
}
