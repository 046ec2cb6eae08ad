import type { Ran } from '../grind/index.ts';
import type { Station } from '../ledger/index.ts';
import { normalQuantile } from '../numerics/index.ts';
import type { PlanActivity, PlanHold, PlanUse, PlanWait } from './project.ts';
import { covers, skillOf } from '../skills/index.ts';
import {
  STATION_OF_STAGE,
  UNATTENDED,
  type PlanBatch,
  type PlannedStep,
  type PlanRoom,
  type PlanStage,
} from './room.ts';
import { stageTime, type StageTime } from './times.ts';

/** An activity of the workshop’s project, with what it is. */
export interface WorkshopStep extends Pick<
  PlannedStep,
  | 'key'
  | 'batch'
  | 'code'
  | 'batchId'
  | 'recipeId'
  | 'lotId'
  | 'stage'
  | 'part'
  | 'parts'
  | 'massMg'
  | 'bars'
  | 'begun'
> {
  /** Its time with its spread; of what has begun, of what is left of it. */
  time: StageTime;
  /** Hold that says which machine it is on, or null. */
  hold: string | null;
  /** Machine it has begun on, or null. */
  begunOn: string | null;
}

/** A project while it is put together. */
export interface Building {
  room: PlanRoom;
  /** Minutes of the project at epoch ms. */
  at: (ms: number) => number;
  /** Ids of its resources. */
  has: ReadonlySet<string>;
  /** Longest a piece of work for hands may be, minutes. */
  longest: number;
  /** Longest time between two breaks, minutes. */
  span: number;
  activities: PlanActivity[];
  /** Activities that are no steps of anybody’s. */
  unseen: PlanActivity[];
  waits: PlanWait[];
  holds: PlanHold[];
  steps: WorkshopStep[];
  /** By machine, the batch whose charge lies in it now. */
  filled: ReadonlyMap<string, string>;
}

/** A batch that is to be put together. */
export interface ChainBatch {
  key: string;
  code: string;
  batchId: string | null;
  recipeId: string | null;
  lotId: string | null;
  barMg: number;
  /** What it leaves on the machines it runs on. */
  ran: Ran;
  massOf: (stage: PlanStage) => number;
  bars: number;
  notBefore?: number;
}

/** What should be over by now ends soon, minutes. */
const LEAST_LEFT = 5;

/** Which machines a stage runs on: its own for as long as it takes, or those of a hold. */
interface OnMachines {
  minutes?: StageTime;
  /** Machines it occupies one of. */
  machine?: readonly string[];
  /** Hold whose machine it is worked at, and the machines that may be. */
  hold?: { id: string; oneOf: readonly string[] } | null;
  /** Lies within the hours of the hold’s machine. */
  runsOn?: boolean;
  /** Each part is all of the charge. */
  isWhole?: boolean;
}

/** An equal share of a time, in whole five minutes. */
export function shareOf(time: StageTime, parts: number): StageTime {
  const share = (minutes: number) => Math.ceil(minutes / parts / 5) * 5;
  return { minutes: share(time.minutes), minutes80: share(time.minutes80), batches: time.batches };
}

/** Work on bars that are counted. */
const COUNTED: ReadonlySet<PlanStage> = new Set(['knock', 'wrap']);

/** Pieces of one of so many parts, from 1 on; all parts come to the whole. */
const partOf = (pieces: number, part: number, parts: number) =>
  Math.floor((pieces * part) / parts) - Math.floor((pieces * (part - 1)) / parts);

/** Activities, waits and holds of one batch. */
export class Chain {
  readonly batch: ChainBatch;
  readonly running: PlanBatch['running'];
  private readonly to: Building;
  private isFirst = true;

  constructor(to: Building, batch: ChainBatch, running: PlanBatch['running']) {
    this.to = to;
    this.batch = batch;
    this.running = running;
  }

  /** The room it is put together for. */
  get room(): PlanRoom {
    return this.to.room;
  }

  /** Longest time between two breaks, minutes. */
  get span(): number {
    return this.to.span;
  }

  /** Whether the project knows a resource. */
  has(id: string): boolean {
    return this.to.has.has(id);
  }

  /** Adds a stage, or a part of one, and answers with its key. What runs already is fixed where it began. */
  add(stage: PlanStage, part: number, parts: number, on: OnMachines = {}): string {
    const { room, at, has } = this.to;
    const { batch, running } = this;
    const key = `${batch.key}/${stage}/${part}`;
    const massMg = batch.massOf(stage) / (on.isWhole ? 1 : parts);
    const options = on.machine ?? on.hold?.oneOf ?? [];
    const time =
      on.minutes ?? stageTime(stage, massMg / 1e6, room, options.length === 1 ? options[0]! : null);
    const isBegun = this.isFirst && running !== null && running.kind === stage;
    const uses: PlanUse[] = [];
    const skill = skillOf(stage, STATION_OF_STAGE[stage]);
    const able = room.people.filter((p) => p.stations === null || p.stations.some((s) => covers(s, skill)));
    if (!UNATTENDED.has(stage) && !isBegun && able.length > 0) uses.push({ oneOf: able.map((p) => p.id) });
    if (on.machine && on.machine.length > 0) {
      const own = isBegun && running.machineId !== null && has.has(running.machineId);
      uses.push({ oneOf: own ? [running.machineId!] : on.machine });
    }
    const activity: PlanActivity = {
      id: key,
      duration: time.minutes,
      uses,
      ...(on.hold && on.runsOn && { on: [on.hold.id] }),
      ...(this.isFirst && batch.notBefore !== undefined && { notBefore: batch.notBefore }),
    };
    if (isBegun) {
      const start = at(Date.parse(running.startedAt));
      const end = running.endsAt ? at(Date.parse(running.endsAt)) : start + time.minutes;
      activity.fixedAt = start;
      activity.duration = Math.max(end, LEAST_LEFT) - start;
    }
    this.to.activities.push(activity);
    const { code, batchId, recipeId, lotId } = batch;
    this.to.steps.push({
      key,
      batch: batch.key,
      code,
      batchId,
      recipeId,
      lotId,
      stage,
      part,
      parts,
      massMg: Math.round(massMg),
      ...(COUNTED.has(stage) && { bars: partOf(Math.round(batch.bars), part, parts) }),
      time: isBegun ? this.timeLeft(activity.fixedAt! + activity.duration, time) : time,
      begun: isBegun,
      hold: on.hold?.id ?? null,
      begunOn: isBegun && has.has(running.machineId ?? '') ? running.machineId : null,
    });
    this.isFirst = false;
    return key;
  }

  /** What is left of the step that runs, until `end`: as uncertain as is said of it, else as its stage is. Minutes of the project begin now. */
  private timeLeft(end: number, usual: StageTime): StageTime {
    const within = this.running!.endsWithin;
    const left = (iso: string) => Math.max(LEAST_LEFT, this.to.at(Date.parse(iso)));
    // Of a log-normal time the range of 80 % lies between its tenth and its ninetieth percentile.
    const perDeviation = normalQuantile(0.8) / (2 * normalQuantile(0.9));
    const ratio = within?.high
      ? (left(within.high) / left(within.low)) ** perDeviation
      : usual.minutes80 / usual.minutes;
    return { minutes: end, minutes80: Math.max(end, Math.round(end * ratio)), batches: usual.batches };
  }

  /** Says that something comes after all of some others, at least and at most so long. */
  after(from: readonly string[], to: string, least = 0, most?: number): void {
    for (const f of from) {
      // What has begun ends when it ends, at night too; nobody is to blame for what waits then.
      const isBound = most !== undefined && !this.hasBegun(f);
      this.to.waits.push({ from: f, to, least, ...(isBound && { most }) });
    }
  }

  /** Says that something begins no earlier than something else. */
  begunAfter(first: string, then: string): void {
    const { duration } = this.to.activities.find((a) => a.id === first)!;
    this.to.waits.push({ from: first, to: then, least: -duration });
  }

  /** Whether a step is under way. */
  hasBegun(key: string): boolean {
    return this.to.steps.find((s) => s.key === key)?.begun ?? false;
  }

  /** Occupies something from one activity to another. */
  hold(hold: PlanHold): void {
    this.to.holds.push(hold);
  }

  /** Whether it is this batch’s charge that lies in a machine: the record may have two there, of which neither can wait for the other. */
  fills(machineId: string): boolean {
    return this.to.filled.get(machineId) === this.batch.key;
  }

  /** Machines of a station that fit, and take what is new. */
  machines(station: Station, fits: (m: PlanRoom['machines'][number]) => boolean = () => true): string[] {
    return this.room.machines
      .filter((m) => m.station === station && m.places === null && !m.retired && this.has(m.id) && fits(m))
      .map((m) => m.id);
  }

  /** A piece of work for hands, in parts that fit between two breaks, one after the other. */
  parted(
    stage: PlanStage,
    from: readonly string[],
    {
      time = stageTime(stage, this.batch.massOf(stage) / 1e6, this.room),
      machine,
      least = 0,
      most,
    }: { time?: StageTime; machine?: readonly string[]; least?: number; most?: number } = {},
  ): string[] {
    const parts = Math.max(1, Math.ceil(time.minutes / this.to.longest));
    const minutes = shareOf(time, parts);
    let last: readonly string[] = from;
    for (let part = 1; part <= parts; part += 1) {
      const key = this.add(stage, part, parts, { minutes, ...(machine && { machine }) });
      if (part === 1) this.after(last, key, least, most);
      else this.after(last, key);
      last = [key];
    }
    return [...last];
  }

  /** Something that has lain somewhere since before the plan begins: an activity of no length that nobody sees. */
  since(what: string): string {
    const key = `${this.batch.key}/${what}`;
    this.to.unseen.push({ id: key, duration: 0, fixedAt: 0 });
    return key;
  }
}
