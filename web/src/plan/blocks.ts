import { dayOf, readyWork, UNATTENDED, type PlannedStep, type ReadyWork } from '@wunsch/core/plan';
import type { Station } from '@wunsch/core/ledger';

/** What is drawn as one block: a batch’s work at a station in one go. */
export interface Block {
  key: string;
  batch: string;
  code: string;
  station: Station;
  steps: PlannedStep[];
  start: number;
  end: number;
  begun: boolean;
  /** Lane within the column, and how many there are beside each other. */
  lane: number;
  lanes: number;
}

/**
 * Steps drawn together: parts of one station on one day, and all of a charge in a grinder or a conche. Those have a lane each; elsewhere what overlaps lies
 * side by side.
 */
export function blocksOf(
  steps: readonly PlannedStep[],
  timeZone: string,
  grinders: readonly string[],
): Block[] {
  const groups = new Map<string, PlannedStep[]>();
  for (const s of steps) {
    const apart = s.station === 'grind' ? (s.machineId ?? '') : dayOf(Date.parse(s.start), timeZone);
    const key = `${s.batch} ${s.station} ${apart}`;
    groups.set(key, [...(groups.get(key) ?? []), s]);
  }
  const blocks = [...groups].map(([key, of]): Block => {
    const own = of.filter((s) => s.stage !== 'set' || of.length === 1);
    const [first] = own;
    return {
      key,
      batch: first!.batch,
      code: first!.code,
      station: first!.station,
      steps: of.sort((a, b) => a.start.localeCompare(b.start)),
      start: Math.min(...own.map((s) => Date.parse(s.start))),
      end: Math.max(...own.map((s) => Date.parse(s.end))),
      begun: of.some((s) => s.begun),
      lane: 0,
      lanes: 1,
    };
  });
  blocks.sort((a, b) => a.start - b.start || a.end - b.end || a.key.localeCompare(b.key));
  const stations = new Map<Station, Block[]>();
  for (const b of blocks) stations.set(b.station, [...(stations.get(b.station) ?? []), b]);
  for (const [station, line] of stations) {
    if (station === 'grind' && grinders.length > 0) {
      for (const b of line) {
        const machine = b.steps.find((s) => s.machineId !== null)?.machineId ?? '';
        b.lane = Math.max(0, grinders.indexOf(machine));
        b.lanes = grinders.length;
      }
      continue;
    }
    packLanes(line);
  }
  return blocks;
}

/** Work on a grinder between two charges, drawn in its lane. */
export interface ReadyBlock extends Block {
  work: ReadyWork;
}

/** See {@link ReadyBlock}; before the charge each is for, in its lane. */
export function readyBlocksOf(steps: readonly PlannedStep[], blocks: readonly Block[]): ReadyBlock[] {
  return readyWork(steps).flatMap((work) => {
    const charge = blocks.find((b) => b.steps.some((s) => s.key === work.step.key));
    if (!charge) return [];
    const [start, end] = [Date.parse(work.hands.start), Date.parse(work.hands.end)];
    return [{ ...charge, key: work.key, steps: [], start, end, begun: false, work }];
  });
}

/** Side by side what overlaps, as few lanes as each cluster needs. */
function packLanes(line: Block[]): void {
  let cluster: Block[] = [];
  let until = -Infinity;
  const close = () => {
    const lanes = Math.max(0, ...cluster.map((b) => b.lane)) + 1;
    for (const b of cluster) b.lanes = lanes;
    cluster = [];
  };
  for (const b of line) {
    if (b.start >= until) close();
    const taken = new Set(cluster.filter((x) => x.end > b.start).map((x) => x.lane));
    while (taken.has(b.lane)) b.lane += 1;
    cluster.push(b);
    until = Math.max(until, b.end);
  }
  close();
}

/** Hours of a day each person works by the plan. */
export function hoursByPerson(
  steps: readonly PlannedStep[],
  timeZone: string,
): Map<string, Map<string, number>> {
  const days = new Map<string, Map<string, number>>();
  const own = steps.filter((s) => !UNATTENDED.has(s.stage));
  for (const s of [...own, ...readyWork(steps).map((r) => r.hands)]) {
    if (s.personId === null) continue;
    const day = dayOf(Date.parse(s.start), timeZone);
    const people = days.get(day) ?? new Map<string, number>();
    people.set(
      s.personId,
      (people.get(s.personId) ?? 0) + (Date.parse(s.end) - Date.parse(s.start)) / 3_600_000,
    );
    days.set(day, people);
  }
  return days;
}
