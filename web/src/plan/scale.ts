import { dayOf, dayStart, openSpans, type PlanRoom } from '@wunsch/core/plan';

/** How near one looks. */
export const ZOOMS = ['day', 'week', 'month', 'season'] as const;
/** See {@link ZOOMS}. */
export type Zoom = (typeof ZOOMS)[number];

/** Pixels of an hour of work, of a night, and of a day nobody works, and days that are drawn. */
const SIZES: Record<Zoom, { hour: number; night: number; closed: number; days: number }> = {
  day: { hour: 56, night: 22, closed: 30, days: 4 },
  week: { hour: 9.6, night: 17, closed: 24, days: 14 },
  month: { hour: 4.2, night: 6, closed: 12, days: 42 },
  season: { hour: 1.6, night: 2, closed: 4, days: 120 },
};

/** A day of the board. */
export interface BoardDay {
  /** `2026-11-26`. */
  day: string;
  /** Its midnight, epoch ms. */
  at: number;
  top: number;
  height: number;
  /** Nobody works. */
  closed: boolean;
}

/** Time down the page, with nights folded. */
export interface Scale {
  zoom: Zoom;
  days: BoardDay[];
  height: number;
  y: (ms: number) => number;
  /** The instant at a height, on whole five minutes. */
  at: (y: number) => number;
  from: number;
  to: number;
}

const DAY = 86_400_000;
const FIVE = 300_000;

/** Draws time up: every day as long as somebody works in it, nights and closed days narrow. */
export function scaleOf(
  room: Pick<PlanRoom, 'now' | 'timeZone' | 'holidays' | 'week' | 'people' | 'absences'>,
  zoom: Zoom,
): Scale {
  const size = SIZES[zoom];
  const shut = room.absences.filter((a) => a.who === null);
  const weeks = [room.week, ...room.people.flatMap((p) => (p.week ? [p.week] : []))];
  const spans = weeks.flatMap((week) => openSpans(room, week, shut, size.days + 1));
  const points: { ms: number; y: number }[] = [];
  const days: BoardDay[] = [];
  let y = 0;
  const first = dayStart(Date.parse(room.now), room.timeZone);
  for (let d = 0; d < size.days; d += 1) {
    const at = dayStart(first, room.timeZone, d);
    const next = dayStart(first, room.timeZone, d + 1);
    const own = spans.filter(([a]) => a >= at && a < next);
    if (own.length === 0) {
      days.push({ day: dayOf(at, room.timeZone), at, top: y, height: size.closed, closed: true });
      points.push({ ms: at, y });
      y += size.closed;
      points.push({ ms: next - 1, y });
      continue;
    }
    const open = Math.min(...own.map(([a]) => a));
    const close = Math.max(...own.map(([, b]) => b));
    const height = ((close - open) / 3_600_000) * size.hour;
    y += size.night / 2;
    days.push({ day: dayOf(at, room.timeZone), at, top: y, height, closed: false });
    points.push({ ms: open, y });
    y += height;
    points.push({ ms: close, y });
    y += size.night / 2;
  }
  points.unshift({ ms: points[0]!.ms - DAY, y: 0 });
  points.push({ ms: points.at(-1)!.ms + DAY, y });
  const between = (value: number, from: 'ms' | 'y', to: 'ms' | 'y') => {
    const k = Math.min(
      points.length - 1,
      Math.max(
        1,
        points.findIndex((p) => p[from] >= value),
      ),
    );
    const [a, b] = [points[k - 1]!, points[k]!];
    const share = b[from] === a[from] ? 0 : (value - a[from]) / (b[from] - a[from]);
    return a[to] + Math.min(1, Math.max(0, share)) * (b[to] - a[to]);
  };
  return {
    zoom,
    days,
    height: y,
    y: (ms) => between(Math.min(ms, points.at(-1)!.ms), 'ms', 'y'),
    at: (at) => Math.round(between(at, 'y', 'ms') / FIVE) * FIVE,
    from: first,
    to: first + size.days * DAY,
  };
}
