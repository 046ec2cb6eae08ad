/** A point of a series. */
export interface Point {
  x: number;
  y: number;
}

/**
 * Thins a series to at most `count` points by largest-triangle-three-buckets, keeping the first and last, the highest and lowest,
 * and the shape in between (Steinarsson, 2013). A series that is short enough comes back as it is.
 *
 * @throws RangeError for a count below 3, or a point that is no number
 */
export function thin<P extends Point>(points: readonly P[], count: number): P[] {
  if (!(count >= 3)) throw new RangeError('thinning needs at least 3 points');
  for (const p of points)
    if (!Number.isFinite(p.x) || !Number.isFinite(p.y))
      throw new RangeError('every point of a series must be a number');
  if (points.length <= count) return [...points];
  const [lowest, highest] = extremes(points);
  const kept: P[] = [points[0]!];
  const size = (points.length - 2) / (count - 2);
  let last = points[0]!;
  for (let bucket = 0; bucket < count - 2; bucket += 1) {
    const from = Math.floor(bucket * size) + 1;
    const to = Math.floor((bucket + 1) * size) + 1;
    const nextTo = Math.min(Math.floor((bucket + 2) * size) + 1, points.length);
    let [mx, my] = [0, 0];
    for (let i = to; i < nextTo; i += 1) {
      mx += points[i]!.x;
      my += points[i]!.y;
    }
    const n = Math.max(1, nextTo - to);
    [mx, my] = [mx / n, my / n];
    let best = points[from]!;
    let bestArea = -1;
    for (let i = from; i < to; i += 1) {
      const p = points[i]!;
      const area = Math.abs((last.x - mx) * (p.y - last.y) - (last.x - p.x) * (my - last.y));
      if (area > bestArea) [bestArea, best] = [area, p];
    }
    // With a few points to show, one bucket may hold both: the further from the line before is then kept.
    const extreme = [lowest, highest].filter((i) => i >= from && i < to);
    if (extreme.length > 0) {
      const most = extreme.reduce((a, b) =>
        Math.abs(points[b]!.y - last.y) > Math.abs(points[a]!.y - last.y) ? b : a,
      );
      best = points[most]!;
    }
    kept.push(best);
    last = best;
  }
  kept.push(points[points.length - 1]!);
  return kept;
}

/** Indices of the lowest and the highest point; the first of equals. */
function extremes(points: readonly Point[]): [number, number] {
  let [low, high] = [0, 0];
  points.forEach((p, i) => {
    if (p.y < points[low]!.y) low = i;
    if (p.y > points[high]!.y) high = i;
  });
  return [low, high];
}
