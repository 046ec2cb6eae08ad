import { sql } from 'drizzle-orm';
import type { MachineRun } from '@wunsch/contract';
import {
  DEFAULT_AIM_UM,
  forecastGrind,
  grindingHours,
  learnPrior,
  readingsToLearnFrom,
  type GrindPrior,
  type LearnedRun,
} from '@wunsch/core/grind';
import type { Db } from '../db/database.ts';
import type { EventBus } from '../live/bus.ts';
import { remember } from '../views/remember.ts';
import { grindClock, type GrindNote, type TimedReading } from '../stations/grind/index.ts';
import { concheClock, concheForecast, USUAL_SOUR_AIM, type ConcheClock } from '../stations/conche/index.ts';

/** What a run teaches is looked for once: two dozen fits where it does not go evenly. */
const learntFrom = remember(500, readingsToLearnFrom);

/** Latest runs of each machine that are looked at. */
const PER_MACHINE = 24;

/** An ingredient by what it leaves behind. */
export interface HeldIngredient {
  name: string;
  allergens: string[];
  strong: boolean;
}

/** What ingredients leave on a machine. */
export const leftBy = (held: readonly HeldIngredient[]): { allergens: string[]; strong: string[] } => ({
  allergens: [...new Set(held.flatMap((i) => i.allergens))].sort(),
  strong: [...new Set(held.flatMap((i) => (i.strong ? [i.name] : [])))].sort(),
});

/** A finished run with what later ones learn from it. */
export interface FinishedRun extends MachineRun {
  machineId: string;
  lotId: string;
  learned: LearnedRun | null;
  /** Its grit readings on the clock of grinding. */
  readings: readonly TimedReading[];
  /** Its settings and tastings, where it was a conche. */
  conche: ConcheClock | null;
  /** Rate of the acid fall at 60 °C, where it was a conche that was tasted. */
  acidRate: number | null;
}

interface Row {
  step_id: string;
  machine_id: string;
  batch_id: string;
  batch_code: string;
  lot_id: string;
  started_at: string;
  ended_at: string;
  kind: 'grind' | 'conche';
  details: { sourAim?: number };
  lines: { at: string; massMg: number; direction: string; fat: number | null }[] | null;
  notes: GrindNote[] | null;
  ingredients: HeldIngredient[] | null;
}

/** The latest finished runs of every machine at the grinder, newest first, with what can be learned from each. One query. */
export async function loadFinishedRuns(db: Db): Promise<FinishedRun[]> {
  const result = await db.execute(sql`
    select s.id as step_id, s.machine_id, s.batch_id, b.code as batch_code, b.lot_id, s.started_at, s.ended_at, s.kind, s.details,
      (select json_agg(json_build_object('at', m.at, 'massMg', m.mass_mg, 'direction', m.direction, 'fat',
          (i.composition->>'cocoaButter')::float8 + (i.composition->>'otherFat')::float8 + (i.composition->>'milkFat')::float8) order by m.seq)
        from movement m left join ingredient i on i.id = m.ingredient_id
        where m.step_id = s.id and m.replaced_by is null and not m.voided and m.direction <> 'loss') as lines,
      (select json_agg(json_build_object('id', o.id, 'at', o.at, 'data', o.data) order by o.at, o.seq) from observation o
        where o.step_id = s.id and o.replaced_by is null and not o.voided) as notes,
      (select json_agg(distinct jsonb_build_object('name', i2.name, 'allergens', i2.allergens, 'strong', i2.strong)) from movement m2
        join ingredient i2 on i2.id = m2.ingredient_id
        where m2.batch_id = s.batch_id and m2.replaced_by is null and not m2.voided) as ingredients
    from machine mc
    cross join lateral (
      select * from step where machine_id = mc.id and status = 'closed' and kind in ('grind', 'conche') and not voided
      order by ended_at desc limit ${PER_MACHINE}
    ) s
    join batch b on b.id = s.batch_id and b.state <> 'void'
    where mc.station = 'grind'
    order by s.ended_at desc`);
  return (result as unknown as { rows: Row[] }).rows.map(asRun);
}

function asRun(row: Row): FinishedRun {
  const startedAt = new Date(row.started_at).toISOString();
  const endedAt = new Date(row.ended_at).toISOString();
  const end = Date.parse(endedAt);
  const notes = row.notes ?? [];
  const lines = row.lines ?? [];
  const sum = (direction: string) =>
    lines.filter((l) => l.direction === direction).reduce((s, l) => s + Number(l.massMg), 0);
  const clock = grindClock({ startedAt, lines: lines.filter((l) => l.direction === 'in'), notes });
  const work = row.kind;
  const fit =
    work === 'grind' ? forecastGrind({ readings: learntFrom(clock.readings), aimUm: DEFAULT_AIM_UM }) : null;
  const conche = work === 'conche' ? concheClock(startedAt, notes, end) : null;
  return {
    stepId: row.step_id,
    machineId: row.machine_id,
    batchId: row.batch_id,
    batchCode: row.batch_code,
    lotId: row.lot_id,
    work,
    startedAt,
    endedAt,
    hours: grindingHours(Date.parse(startedAt), end, clock.pauses),
    chargeMg: sum('in'),
    outMg: sum('out'),
    rate: fit?.ok ? fit.curve.rate : null,
    finest: fit?.ok ? fit.curve.finest : null,
    ...leftBy(row.ingredients ?? []),
    learned: fit?.ok ? fit.learned : null,
    readings: clock.readings,
    conche,
    acidRate: conche && acidRate(conche, row.details.sourAim ?? USUAL_SOUR_AIM),
  };
}

function acidRate(clock: ConcheClock, aim: number): number | null {
  return clock.tastings.length >= 2 ? concheForecast(clock, aim, []).rate : null;
}

/** What machines and lots have told so far. */
export interface Learned {
  runs: FinishedRun[];
  /** Prior of the next grind on a machine, its runs since the last rebuild; the usual one for a machine unknown. */
  prior: (machineId: string | null) => GrindPrior;
  /** Rates of the acid fall of a lot's earlier conches. */
  acidRates: (lotId: string) => number[];
  /** When a machine was last rebuilt before an instant; empty where it never was. */
  rebuiltBefore: (machineId: string, at: string) => string;
}

/** What machines have learned, worked out once and kept until an entry that may change it. */
export class RunCache {
  private kept: Promise<Learned> | null = null;

  constructor(
    private readonly db: Db,
    bus: EventBus,
  ) {
    bus.whenTouched(['runs'], () => (this.kept = null));
  }

  /** See {@link Learned}. */
  load(): Promise<Learned> {
    if (!this.kept) {
      const found = this.learn();
      found.catch(() => (this.kept = null));
      this.kept = found;
    }
    return this.kept;
  }

  private async learn(): Promise<Learned> {
    const runs = await loadFinishedRuns(this.db);
    const rebuilt = await rebuilds(this.db);
    const priors = new Map<string, GrindPrior>();
    return {
      runs,
      prior: (machineId) => {
        if (!machineId) return learnPrior([]);
        const known = priors.get(machineId);
        if (known) return known;
        const since = rebuilt.get(machineId)?.at(-1) ?? '';
        const prior = learnPrior(
          runs.flatMap((r) =>
            r.machineId === machineId && r.startedAt >= since && r.learned ? [r.learned] : [],
          ),
        );
        priors.set(machineId, prior);
        return prior;
      },
      acidRates: (lotId) =>
        runs.flatMap((r) => (r.lotId === lotId && r.acidRate !== null ? [r.acidRate] : [])),
      rebuiltBefore: (machineId, at) => rebuilt.get(machineId)?.findLast((r) => r <= at) ?? '',
    };
  }
}

/** Instants at which each machine was rebuilt, in order of time. */
async function rebuilds(db: Db): Promise<Map<string, string[]>> {
  const result = await db.execute(
    sql`select machine_id, at from machine_event where kind = 'rebuilt' and not voided order by at`,
  );
  const found = new Map<string, string[]>();
  for (const { machine_id: id, at } of (result as unknown as { rows: { machine_id: string; at: string }[] })
    .rows)
    found.set(id, [...(found.get(id) ?? []), new Date(at).toISOString()]);
  return found;
}
