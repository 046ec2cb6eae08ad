import type { Station } from '../ledger/index.ts';
import type { NewBatch } from './needs.ts';
import type { PlanActivity, PlanHold, PlanUse, PlanWait } from './project.ts';
import {
  PLAN_STAGES,
  STATION_OF_STAGE,
  UNATTENDED,
  type PlanBatch,
  type PlanRoom,
  type PlanStage,
} from './room.ts';
import { stageTime, type StageTime } from './times.ts';
import { CABINET, familyOf, mouldId } from './workshopResources.ts';

const DAY = 1440;

/** Longest a piece of work for hands may be before it is parted, minutes. */
const LONGEST_HANDS = 180;

/** Greatest waits, minutes: roasted beans are cracked within three days, a charge goes in the same day, chocolate turns on until somebody comes. */
const MOST_WAIT = { winnow: 3 * DAY, load: 10 * 60, draw: 48 * 60, mould: 15, knock: 16 * 60 };

/** Bars set for so long before they are wrapped, and are tasted so long after they were moulded, minutes. */
const BEFORE_WRAP = 12 * 60;
const BEFORE_TASTE = DAY;

/** An activity of the workshop’s project, with what it is. */
export interface WorkshopStep {
  key: string;
  batch: string;
  code: string;
  batchId: string | null;
  recipeId: string | null;
  lotId: string | null;
  stage: PlanStage;
  part: number;
  parts: number;
  massMg: number;
  /** Its time with its spread; null for what is fixed. */
  time: StageTime | null;
  begun: boolean;
  /** Hold that says which machine it is on, or null. */
  hold: string | null;
}

/** Puts batches together as activities, waits and holds. */
export class BatchChains {
  readonly activities: (PlanActivity & { notBefore?: number; fixedAt?: number })[] = [];
  readonly waits: PlanWait[] = [];
  readonly holds: PlanHold[] = [];
  readonly steps: WorkshopStep[] = [];
  /** Activities after which a batch’s bars are there. */
  readonly lastOf = new Map<string, string[]>();
  private readonly room: PlanRoom;
  private readonly at: (ms: number) => number;
  private readonly has: ReadonlySet<string>;
  /** Longest a piece of work for hands may be, minutes. */
  private readonly longest: number;

  constructor(room: PlanRoom, at: (ms: number) => number, has: ReadonlySet<string>) {
    this.room = room;
    this.at = at;
    this.has = has;
    const spans = room.people.flatMap((p) => (p.week ?? room.week).flat().map(([a, b]) => b - a));
    this.longest = Math.max(30, Math.min(LONGEST_HANDS, ...(spans.length > 0 ? [Math.max(...spans)] : [])));
  }

  /** A batch that is on its way: from where it stands, with what runs fixed. */
  inFlight(batch: PlanBatch): void {
    const recipe = this.room.recipes.find((r) => r.id === batch.recipeId) ?? null;
    const route = new Set<string>(batch.route);
    // In a grinder that turns nothing is loaded any more.
    const isTurning = batch.running?.station === 'grind';
    const stages = stagesFrom(batch.here, (s) => passes(s, route) && !(isTurning && s === 'load'));
    if (stages.length === 0) return;
    this.chain(
      {
        key: batch.id,
        code: batch.code,
        batchId: batch.id,
        recipeId: batch.recipeId,
        lotId: batch.lotId,
        barMg: batch.barMg,
        allergens: recipe?.allergens ?? [],
        massOf: (stage) =>
          stage === 'wrap' || stage === 'mould' || stage === 'knock' || stage === 'temper'
            ? Math.max(batch.bars * batch.barMg, 1)
            : batch.massMg,
        bars: batch.bars,
      },
      stages,
      batch.running,
    );
  }

  /** A batch that is to be made. */
  toMake(batch: NewBatch): void {
    const { recipe, lot } = batch;
    const route = new Set<string>(['sort', 'roast', 'winnow', 'recipe', 'grind', 'mould', 'wrap', 'taste']);
    if (recipe.tempered) route.add('temper');
    const first: Station =
      recipe.material === 'couverture' || recipe.material === 'chocolate'
        ? 'temper'
        : recipe.material === 'nibs'
          ? 'recipe'
          : 'sort';
    this.chain(
      {
        key: batch.key,
        code: batch.code,
        batchId: null,
        recipeId: recipe.id,
        lotId: lot?.id ?? null,
        barMg: recipe.barMg,
        allergens: recipe.allergens,
        massOf: (stage) =>
          stage === 'sort' || stage === 'roast'
            ? batch.startMg
            : stage === 'winnow'
              ? batch.startMg * 0.92
              : batch.chargeMg,
        bars: batch.bars,
        ...(lot?.from !== undefined && { notBefore: Math.max(0, this.at(Date.parse(lot.from))) }),
      },
      stagesFrom(first, (s) => passes(s, route)),
      null,
    );
  }

  private chain(
    batch: {
      key: string;
      code: string;
      batchId: string | null;
      recipeId: string | null;
      lotId: string | null;
      barMg: number;
      allergens: readonly string[];
      massOf: (stage: PlanStage) => number;
      bars: number;
      notBefore?: number;
    },
    stages: readonly PlanStage[],
    running: PlanBatch['running'],
  ): void {
    const { room } = this;
    const mould = room.moulds.find((m) => m.barMg === batch.barMg) ?? room.moulds[0] ?? null;
    const rounds = this.roundsOf(batch.bars, batch.massOf('temper'), mould);
    let before: string[] = [];
    let isFirst = true;
    const add = (
      stage: PlanStage,
      part: number,
      parts: number,
      more: { minutes?: StageTime; machine?: readonly string[]; on?: string; hold?: string | null } = {},
    ): string => {
      const key = `${batch.key}/${stage}/${part}`;
      const massMg = batch.massOf(stage) / parts;
      const time = more.minutes ?? stageTime(stage, massMg / 1e6, room);
      const isBegun = isFirst && running !== null && runs(stage, running.station);
      const uses: PlanUse[] = [];
      const able = room.people.filter(
        (p) => p.stations === null || p.stations.includes(STATION_OF_STAGE[stage]),
      );
      if (!UNATTENDED.has(stage) && !isBegun && able.length > 0) uses.push({ oneOf: able.map((p) => p.id) });
      if (more.machine && more.machine.length > 0) {
        const own = isBegun && running.machineId !== null && this.has.has(running.machineId);
        uses.push({ oneOf: own ? [running.machineId!] : more.machine });
      }
      const activity: (typeof this.activities)[number] = {
        id: key,
        duration: time.minutes,
        uses,
        ...(more.on !== undefined && { on: [more.on] }),
        ...(isFirst && batch.notBefore !== undefined && { notBefore: batch.notBefore }),
      };
      if (isBegun) {
        const start = this.at(Date.parse(running.startedAt));
        // What should be over by now ends soon.
        const end = running.endsAt ? this.at(Date.parse(running.endsAt)) : start + time.minutes;
        activity.fixedAt = start;
        activity.duration = Math.max(end, 5) - start;
      }
      this.activities.push(activity);
      this.steps.push({
        key,
        batch: batch.key,
        code: batch.code,
        batchId: batch.batchId,
        recipeId: batch.recipeId,
        lotId: batch.lotId,
        stage,
        part,
        parts,
        massMg: Math.round(massMg),
        time: isBegun ? null : time,
        begun: isBegun,
        hold: more.hold ?? null,
      });
      isFirst = false;
      return key;
    };
    const after = (from: readonly string[], to: string, least = 0, most?: number) => {
      for (const f of from) {
        // What has begun ends when it ends, at night too; nobody is to blame for what waits then.
        const isBound = most !== undefined && !this.steps.find((s) => s.key === f)?.begun;
        this.waits.push({ from: f, to, least, ...(isBound && { most }) });
      }
    };
    const machines = (station: Station, fits: (m: PlanRoom['machines'][number]) => boolean = () => true) =>
      room.machines
        .filter((m) => m.station === station && m.places === null && this.has.has(m.id) && fits(m))
        .map((m) => m.id);

    /** A piece of work for hands, in parts that fit between two breaks, one after the other. */
    const parted = (
      stage: PlanStage,
      from: readonly string[],
      {
        time = stageTime(stage, batch.massOf(stage) / 1e6, room),
        machine,
        least = 0,
        most,
      }: { time?: StageTime; machine?: readonly string[]; least?: number; most?: number } = {},
    ): string[] => {
      const parts = Math.max(1, Math.ceil(time.minutes / this.longest));
      const share = (minutes: number) => Math.ceil(minutes / parts / 5) * 5;
      const minutes = {
        minutes: share(time.minutes),
        minutes80: share(time.minutes80),
        batches: time.batches,
      };
      let last: readonly string[] = from;
      for (let part = 1; part <= parts; part += 1) {
        const key = add(stage, part, parts, { minutes, ...(machine && { machine }) });
        if (part === 1) after(last, key, least, most);
        else after(last, key);
        last = [key];
      }
      return [...last];
    };

    for (const stage of stages) {
      if (stage === 'sort' || stage === 'roast' || stage === 'winnow') {
        const kg = batch.massOf(stage) / 1e6;
        const able = machines(STATION_OF_STAGE[stage], (m) => stage !== 'roast' || m.maxMg !== null);
        const most = Math.max(
          0,
          ...room.machines.filter((m) => able.includes(m.id)).map((m) => m.maxMg ?? 0),
        );
        const loads = stage === 'roast' ? Math.max(1, Math.ceil((kg * 1e6) / (most || kg * 1e6))) : 1;
        const time = stageTime(stage, kg / loads, room);
        before = parted(stage, before, {
          time: { ...time, minutes: time.minutes * loads, minutes80: time.minutes80 * loads },
          ...(stage !== 'sort' && { machine: able }),
          ...(stage === 'winnow' && { least: Math.round(room.restHours * 60), most: MOST_WAIT.winnow }),
        });
      } else if (stage === 'recipe') {
        before = parted(stage, before);
      } else if (stage === 'load' || stage === 'grind' || stage === 'draw') {
        before = this.grinding(batch, stages, stage, before, add, after, machines, running);
      } else if (stage === 'temper' || (stage === 'mould' && !stages.includes('temper'))) {
        before = this.bowls(batch, stages, rounds, mould, before, add, after, machines);
      } else if (stage === 'set' || stage === 'knock') {
        // Parts of the bowls’ rounds, unless bars already set.
        if (stages.includes('mould')) continue;
        const key = add(stage, 1, 1);
        after(before, key);
        before = [key];
      } else if (stage === 'wrap') {
        before = parted(stage, before, { least: stages.includes('knock') ? BEFORE_WRAP : 0 });
        this.lastOf.set(batch.key, before);
      } else if (stage === 'taste') {
        const key = add(stage, 1, 1);
        after(before, key, stages.includes('wrap') ? BEFORE_TASTE - BEFORE_WRAP : 0);
      }
    }
    // Bars that are already there are there now.
    if (!this.lastOf.has(batch.key)) this.lastOf.set(batch.key, []);
  }

  /** In, grinding by itself, and out again, with the machine held from the one to the other. */
  private grinding(
    batch: { key: string; allergens: readonly string[]; massOf: (stage: PlanStage) => number },
    stages: readonly PlanStage[],
    stage: 'load' | 'grind' | 'draw',
    before: string[],
    add: (stage: PlanStage, part: number, parts: number, more?: object) => string,
    after: (from: readonly string[], to: string, least?: number, most?: number) => void,
    machines: (station: Station, fits?: (m: PlanRoom['machines'][number]) => boolean) => string[],
    running: PlanBatch['running'],
  ): string[] {
    const hold = `${batch.key}/bowl`;
    const mass = batch.massOf('grind');
    const isGrinder = (m: PlanRoom['machines'][number]) => !/conche|mixer/i.test(m.kind);
    const fitting = machines(
      'grind',
      (m) => isGrinder(m) && (m.maxMg ?? Infinity) >= mass * 0.98 && (m.minMg ?? 0) <= mass * 1.02,
    );
    const any = fitting.length > 0 ? fitting : machines('grind', isGrinder);
    const isHere =
      running?.station === 'grind' && running.machineId !== null && this.has.has(running.machineId);
    const options = isHere ? [running!.machineId!] : any;
    const first = stages.find((s) => s === 'load' || s === 'grind' || s === 'draw')!;
    const key = add(stage, 1, 1, {
      ...(options.length > 0 && { hold, ...(stage === 'grind' && { on: hold }) }),
    });
    if (stage === 'load')
      after(before, key, 0, before.some((b) => b.includes('/recipe/')) ? MOST_WAIT.load : undefined);
    else if (stage === 'grind') after(before, key, 0, 0);
    else after(before, key, 0, MOST_WAIT.draw);
    if (stage === 'draw' && options.length > 0)
      this.holds.push({
        id: hold,
        from: `${batch.key}/${first}/1`,
        to: key,
        oneOf: options,
        family: familyOf(batch.allergens),
      });
    return [key];
  }

  /** How many rounds a batch’s bars take: by the bowl, the moulds and the places. */
  private roundsOf(bars: number, massMg: number, mould: PlanRoom['moulds'][number] | null): number {
    const bowl = Math.max(
      0,
      ...this.room.machines.filter((m) => m.station === 'temper').map((m) => m.maxMg ?? 0),
    );
    const places = this.room.machines.reduce((sum, m) => sum + (m.places ?? 0), 0);
    const moulds = mould ? Math.min(mould.count, places > 0 ? places : mould.count) : 0;
    return Math.max(
      1,
      bowl > 0 ? Math.ceil(massMg / bowl) : 1,
      mould && moulds > 0 ? Math.ceil(bars / mould.cavities / moulds) : 1,
    );
  }

  /** Bowls: tempered, poured at once, set by themselves, knocked out; moulds and places are held from the pouring on. */
  private bowls(
    batch: { key: string; massOf: (stage: PlanStage) => number; bars: number },
    stages: readonly PlanStage[],
    rounds: number,
    mould: PlanRoom['moulds'][number] | null,
    before: string[],
    add: (stage: PlanStage, part: number, parts: number, more?: object) => string,
    after: (from: readonly string[], to: string, least?: number, most?: number) => void,
    machines: (station: Station) => string[],
  ): string[] {
    const bowls = machines('temper');
    const rest = stages.includes('draw') ? Math.round(this.room.restDays * DAY) : 0;
    const out: string[] = [];
    const cabinet = this.has.has(CABINET);
    for (let r = 1; r <= rounds; r += 1) {
      let last = before;
      let wait = rest;
      if (stages.includes('temper')) {
        const temper = add('temper', r, rounds, { machine: bowls });
        after(last, temper, wait);
        last = [temper];
        wait = 0;
      }
      const pour = add('mould', r, rounds);
      after(last, pour, wait, last === before ? undefined : MOST_WAIT.mould);
      const set = add('set', r, rounds);
      after([pour], set, 0, 0);
      const knock = add('knock', r, rounds);
      after([set], knock, 0, MOST_WAIT.knock);
      out.push(knock);
      if (!mould) continue;
      const needed = Math.min(mould.count, Math.ceil(batch.bars / mould.cavities / rounds));
      this.holds.push({
        id: `${batch.key}/moulds/${r}`,
        from: pour,
        to: knock,
        oneOf: [mouldId(mould.id)],
        amount: needed,
      });
      if (cabinet)
        this.holds.push({
          id: `${batch.key}/places/${r}`,
          from: pour,
          to: knock,
          oneOf: [CABINET],
          amount: needed,
        });
    }
    return out;
  }
}

/** Whether a stage is what runs in an open step of a station. */
function runs(stage: PlanStage, station: Station): boolean {
  if (station === 'grind') return stage === 'grind';
  return STATION_OF_STAGE[stage] === station && !UNATTENDED.has(stage);
}

/** Whether a stage is on a route of work. */
function passes(stage: PlanStage, route: ReadonlySet<string>): boolean {
  if (stage === 'load' || stage === 'draw') return route.has('grind');
  if (stage === 'set' || stage === 'knock') return route.has('mould');
  if (stage === 'wrap') return route.has('mould');
  if (stage === 'taste') return true;
  return route.has(stage);
}

/** Stages from a station on; in a grinder what runs begins with the grinding itself. */
function stagesFrom(station: Station, isOnRoute: (stage: PlanStage) => boolean): PlanStage[] {
  const first = PLAN_STAGES.findIndex((s) => STATION_OF_STAGE[s] === station);
  return PLAN_STAGES.slice(Math.max(0, first)).filter(isOnRoute);
}
