import { STATIONS, type BatchFlow, type Station, type StationFlow } from '@wunsch/core/ledger';

/** One block of the ribbon, in px from the ribbon's own corner. */
export interface Block {
  station: Station;
  x: number;
  width: number;
  top: number;
  height: number;
  massMg: number;
  known: boolean;
  /** It went through this station: elsewhere the band only passes by, and no weight is told. */
  visited: boolean;
}

/** A strand that leaves at the bottom, or joins from above. */
export interface Strand {
  station: Station;
  x: number;
  y: number;
  thickness: number;
  massMg: number;
  share: number;
  reasons: { reason: string; massMg: number; kept: boolean }[];
  known: boolean;
}

/** The ribbon laid out: blocks, strands, and where now is. */
export interface Layout {
  blocks: Block[];
  losses: Strand[];
  joins: Strand[];
  nowX: number | null;
  bottom: number;
  here: Station;
}

/** Heights are in px per mg; columns as wide as the line's. */
export interface LayoutOptions {
  column: number;
  scale: number;
  /** y of the top edge before anything joins. */
  top: number;
}

/** Lays a batch's flow out on the nine columns. The top edge moves only where something joins, the bottom only at losses. */
export function layoutRibbon(flow: BatchFlow, { column, scale, top }: LayoutOptions): Layout {
  const hereIndex = STATIONS.indexOf(flow.here);
  const blocks: Block[] = [];
  const losses: Strand[] = [];
  const joins: Strand[] = [];
  let [edge, before] = [top, flow.startMg];
  let nowX: number | null = null;
  flow.stations.forEach((s, i) => {
    if (s.station === 'taste') return;
    const ended = flow.here === 'taste';
    const known = ended || i < hereIndex;
    const mass = massOf(s, before, known || i === hereIndex);
    const joined = s.additions.reduce((sum, a) => sum + a.massMg, 0) || expectedJoin(s, before, mass);
    const x = i * column;
    const fallen = s.losses.filter((l) => l.massMg > 0);
    const lost =
      known || i === hereIndex
        ? fallen.reduce((sum, l) => sum + l.massMg, 0)
        : Math.max(0, before + joined - mass);
    if (joined > 0) {
      edge -= joined * scale;
      joins.push({
        station: s.station,
        x: x + column * 0.55,
        y: edge + joined * scale,
        thickness: joined * scale,
        massMg: joined,
        share: joined / (before + joined),
        reasons: s.additions.map((a) => ({ reason: a.label, massMg: a.massMg, kept: false })),
        known: s.additions.length > 0,
      });
    }
    const height = Math.max(1, mass * scale);
    const visited = s.state !== 'skipped' && s.state !== 'not needed';
    if (lost > 0 && s.state !== 'skipped') {
      const reached = known || i === hereIndex;
      const base =
        reached && s.inMg > 0 ? s.inMg + s.additions.reduce((sum, a) => sum + a.massMg, 0) : before + joined;
      losses.push({
        station: s.station,
        x,
        y: edge + height,
        thickness: Math.max(1, lost * scale),
        massMg: lost,
        share: base > 0 ? lost / base : 0,
        reasons: reached ? fallen : [],
        known: reached && fallen.length > 0,
      });
    }
    const done = i === hereIndex && !ended ? Math.max(0.06, Math.min(1, s.progress)) : 1;
    if (i === hereIndex && !ended) {
      nowX = x + column * done;
      blocks.push({
        station: s.station,
        x,
        width: column * done,
        top: edge,
        height,
        massMg: mass,
        known: true,
        visited,
      });
      // What the bowl still waits for joins what is there.
      const coming = expectedJoin(s, mass, s.expected.meanMg);
      if (coming > 0) {
        joins.push({
          station: s.station,
          x: x + column * Math.max(0.75, done),
          y: edge,
          thickness: coming * scale,
          massMg: coming,
          share: coming / (mass + coming),
          reasons: [],
          known: false,
        });
        edge -= coming * scale;
      }
      if (done < 1)
        blocks.push({
          station: s.station,
          x: x + column * done,
          width: column * (1 - done),
          top: edge,
          height: height + coming * scale,
          massMg: s.expected.meanMg,
          known: false,
          visited,
        });
    } else {
      blocks.push({ station: s.station, x, width: column, top: edge, height, massMg: mass, known, visited });
    }
    // What is still in this station's hands loses its share before it goes on.
    before = i === hereIndex && !ended ? s.expected.meanMg : mass;
  });
  return {
    blocks,
    losses,
    joins,
    nowX,
    bottom: Math.max(...blocks.map((b) => b.top + b.height), top),
    here: flow.here,
  };
}

function massOf(s: StationFlow, before: number, reached: boolean): number {
  if (s.station === 'beans') return before;
  if (s.state === 'skipped') return before;
  if (!reached) return s.expected.meanMg;
  const there = s.outMg + s.inProcessMg + s.waitingMg;
  return there > 0 ? there : before;
}

/** Stations at which something joins the cacao. */
const JOINED: ReadonlySet<Station> = new Set<Station>(['recipe', 'grind']);

function expectedJoin(s: StationFlow, before: number, mass: number): number {
  return JOINED.has(s.station) && mass > before ? mass - before : 0;
}

/** A name beside the ribbon: its left end, its first base line and its width, px, and in how many lines it is written. */
export interface Label {
  x: number;
  y: number;
  width: number;
  lines: number;
}

/** From one line of a name to the next, px. */
export const LINE = 14;

/** Names may come as near as this beyond a line, px: what was moved by a line stands clear, however it was rounded. */
const CLEAR = 0.5;

const stand = (a: Label, b: Label): boolean =>
  a.x < b.x + b.width &&
  b.x < a.x + a.width &&
  Math.abs(a.y - b.y) < LINE * Math.max(a.lines, b.lines) - CLEAR;

/**
 * Base lines of names so that none stands on another: from the left, each moves down below what it would stand on. One for which there is no room
 * stays where it was.
 *
 * @param fixed names that stay
 * @param lowest lowest base line there is room for
 */
export function settleLabels(labels: readonly Label[], fixed: readonly Label[], lowest: number): number[] {
  const settled: Label[] = [...fixed];
  return labels.map((label) => {
    let y = label.y;
    for (let hit = settled.find((s) => stand({ ...label, y }, s)); hit;) {
      y = hit.y + LINE * Math.max(hit.lines, label.lines);
      hit = settled.find((s) => stand({ ...label, y }, s));
    }
    if (y + LINE * (label.lines - 1) > lowest) y = label.y;
    settled.push({ ...label, y });
    return y;
  });
}

/**
 * Base lines of names above the ribbon so that none stands on another: from the left, each moves up above what it would stand on; null for one for
 * which there is no room.
 *
 * @param highest highest base line there is room for
 */
export function raiseLabels(labels: readonly Label[], highest: number): (number | null)[] {
  const raised: Label[] = [];
  return labels.map((label) => {
    let y = label.y;
    for (let hit = raised.find((r) => stand({ ...label, y }, r)); hit;) {
      y = hit.y - LINE * Math.max(hit.lines, label.lines);
      hit = raised.find((r) => stand({ ...label, y }, r));
    }
    if (y < highest) return null;
    raised.push({ ...label, y });
    return y;
  });
}
