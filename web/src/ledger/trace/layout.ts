import type { TraceView } from '@wunsch/contract';
import type { Station } from '@wunsch/core/ledger';

/** Stations a trace shows, in the order of the line. */
export const TRACED_STATIONS = [
  'sort',
  'roast',
  'winnow',
  'recipe',
  'grind',
  'temper',
  'mould',
] as const satisfies readonly Station[];

/** Rows drawn; longer traces are told by the table. */
export const MOST_ROWS = 40;

/** Lengths of the picture, px. */
export const SIZES = { top: 14, row: 84, bar: 46, source: 26, left: 122, right: 150, least: 3 } as const;

type Row = TraceView['rows'][number];
type Link = TraceView['links'][number];

/** A stage of a batch where it is drawn. */
export interface LaidStage {
  station: Station;
  x: number;
  width: number;
  /** Top and height of the whole mass, and height of what is traced, from the foot. */
  y: number;
  height: number;
  content: number;
  isOpen: boolean;
}

/** A batch where it is drawn. */
export interface LaidRow {
  row: Row;
  foot: number;
  stages: LaidStage[];
}

/** Something from outside, at the left, with the ways into its batches. */
export interface LaidSource {
  parcelId: string;
  name: string;
  massMg: number;
  y: number;
  height: number;
  flows: { toBatchId: string; path: string }[];
}

/** Material that crosses from one batch into another. */
export interface LaidCross {
  link: Link;
  path: string;
  x: number;
  y: number;
}

/** Lines above a station that name what joined there, and the height of one, px. */
const MOST_JOINS = 2;
const JOIN_LINE = 14;

/** Something from outside that joins a batch on its way: an ingredient at the recipe. */
export interface LaidJoin {
  key: string;
  /** How many things it stands for, where they are too many to name. */
  others: number;
  name: string;
  massMg: number;
  x: number;
  y: number;
}

/** A trace laid out. */
export interface LaidTrace {
  width: number;
  height: number;
  rows: LaidRow[];
  sources: LaidSource[];
  crosses: LaidCross[];
  joins: LaidJoin[];
  /** px of height for a mg. */
  scale: number;
}

const isDrawn = (station: Station): station is (typeof TRACED_STATIONS)[number] =>
  (TRACED_STATIONS as readonly Station[]).includes(station);

const placeOf = (batchId: string, station: Station) => `${batchId} ${station}`;

/** What joined at a station, the most of it nearest; beyond a few the rest stands together. */
function joinsAt(stage: LaidStage, links: readonly Link[]): LaidJoin[] {
  const sorted = [...links].sort((a, b) => b.massMg - a.massMg);
  const named = sorted.slice(0, sorted.length > MOST_JOINS ? MOST_JOINS - 1 : MOST_JOINS);
  const rest = sorted.slice(named.length);
  const lines = named.map(({ name, massMg }) => ({ name, massMg, others: 0 }));
  if (rest.length > 0)
    lines.push({ name: '', massMg: rest.reduce((sum, l) => sum + l.massMg, 0), others: rest.length });
  return lines.map((line, above) => ({
    ...line,
    key: `${sorted[above]!.parcelId} ${sorted[above]!.toBatchId} ${stage.station}`,
    x: stage.x,
    y: stage.y - 6 - above * JOIN_LINE,
  }));
}

/** What joins a batch on its way, by batch and station: from outside, traced, and not where the batch begins. */
function joiningOf(rows: readonly Row[], links: readonly Link[]): Map<string, Link[]> {
  const drawn = new Map(rows.map((r) => [r.batchId, r.stages.map((s) => s.station).filter(isDrawn)]));
  const joining = new Map<string, Link[]>();
  for (const link of links) {
    const at = isDrawn(link.toStation) ? (drawn.get(link.toBatchId)?.indexOf(link.toStation) ?? -1) : -1;
    if (link.fromBatchId !== null || !link.isTraced || at < 1) continue;
    const place = placeOf(link.toBatchId, link.toStation);
    joining.set(place, [...(joining.get(place) ?? []), link]);
  }
  return joining;
}

/**
 * Lays a trace out: what came from outside at the left, a row a batch with its stations in their columns, all heights in one scale, and what
 * crosses between them.
 */
export function layOutTrace(view: Pick<TraceView, 'rows' | 'links'>, width: number): LaidTrace {
  const rows = view.rows.slice(0, MOST_ROWS);
  const column = Math.max(52, (width - SIZES.left - SIZES.right) / TRACED_STATIONS.length);
  const most = Math.max(1, ...rows.flatMap((r) => r.stages.map((s) => s.massMg)));
  const scale = SIZES.bar / most;
  const heightOf = (mg: number) => (mg > 0 ? Math.max(SIZES.least, mg * scale) : 0);
  const xOf = (station: Station) =>
    SIZES.left + TRACED_STATIONS.indexOf(station as (typeof TRACED_STATIONS)[number]) * column;
  const joining = joiningOf(rows, view.links);
  // There is always room for one line above a station.
  const lines = Math.min(MOST_JOINS, Math.max(1, ...[...joining.values()].map((l) => l.length)));
  const room = JOIN_LINE * (lines - 1);
  const [first, apart] = [SIZES.top + room, SIZES.row + room];
  const laid = rows.map((row, k): LaidRow => {
    const foot = first + k * apart + SIZES.bar + 4;
    const stages = row.stages
      .filter((s) => isDrawn(s.station))
      .map((s): LaidStage => {
        const height = heightOf(s.massMg);
        return {
          station: s.station,
          x: xOf(s.station),
          width: column - 2,
          y: foot - height,
          height,
          content: s.massMg > 0 ? (height * s.contentMg) / s.massMg : 0,
          isOpen: s.isOpen,
        };
      });
    return { row, foot, stages };
  });
  const byBatch = new Map(laid.map((l) => [l.row.batchId, l]));
  const height = Math.max(120, first + laid.length * apart + 8);

  const outside = new Map<string, Link[]>();
  for (const link of view.links) {
    const to = byBatch.get(link.toBatchId);
    if (link.fromBatchId !== null || !link.isTraced || !to) continue;
    // What joins on the way would cross what is drawn before it: it stands above its station.
    if (joining.has(placeOf(link.toBatchId, link.toStation))) continue;
    outside.set(link.parcelId, [...(outside.get(link.parcelId) ?? []), link]);
  }
  const joins = laid.flatMap(({ row, stages }) =>
    stages.flatMap((stage) => joinsAt(stage, joining.get(placeOf(row.batchId, stage.station)) ?? [])),
  );
  const total = [...outside.values()].flat().reduce((sum, l) => sum + heightOf(l.massMg), 0);
  let y = first + 18 + Math.max(0, (height - first - total - outside.size * 40) / 4);
  const sources = [...outside].map(([parcelId, links]): LaidSource => {
    const top = y;
    const flows = links.map((link) => {
      const h = heightOf(link.massMg);
      const target = byBatch.get(link.toBatchId)!;
      const stage = target.stages.find((s) => s.station === link.toStation) ?? target.stages[0];
      const x1 = 4 + SIZES.source;
      const x2 = stage?.x ?? SIZES.left;
      const to = target.foot - Math.min(h, SIZES.bar);
      const bend = Math.min(70, (x2 - x1) / 2);
      const path = `M${x1} ${y}C${x1 + bend} ${y} ${x2 - bend} ${to} ${x2} ${to}V${target.foot}C${x2 - bend} ${target.foot} ${x1 + bend} ${y + h} ${x1} ${y + h}Z`;
      y += h;
      return { toBatchId: link.toBatchId, path };
    });
    const source = {
      parcelId,
      name: links[0]!.name,
      massMg: links.reduce((sum, l) => sum + l.massMg, 0),
      y: top,
      height: y - top,
      flows,
    };
    y += 40;
    return source;
  });
  const crosses = view.links.flatMap((link): LaidCross[] => {
    const from = link.fromBatchId === null ? undefined : byBatch.get(link.fromBatchId);
    const to = byBatch.get(link.toBatchId);
    if (!from || !to || !link.isTraced) return [];
    const start = from.stages.find((s) => s.station === link.fromStation) ?? from.stages.at(-1);
    const end = to.stages.find((s) => s.station === link.toStation) ?? to.stages[0];
    if (!start || !end) return [];
    const [x1, y1] = [start.x + start.width * 0.7, from.foot];
    const down = to.foot > from.foot;
    const [x2, y2] = [end.x + 8, down ? end.y : to.foot];
    const middle = (y1 + y2) / 2;
    return [
      {
        link,
        path: `M${x1} ${y1}C${x1} ${middle} ${x2} ${middle} ${x2} ${y2}`,
        x: (x1 + x2) / 2 + 8,
        y: middle,
      },
    ];
  });
  return {
    width: Math.max(width, SIZES.left + SIZES.right + 52 * TRACED_STATIONS.length),
    height: Math.max(height, y),
    rows: laid,
    sources,
    crosses,
    joins,
    scale,
  };
}
