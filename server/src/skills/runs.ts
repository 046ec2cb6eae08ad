import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import type { ObservationData, ObservationRecord, PersonRuns, RunsView } from '@wunsch/contract';
import { readDetails } from '@wunsch/contract';
import type { Station, StepKind } from '@wunsch/core/ledger';
import { fillControl } from '@wunsch/core/mould';
import { roastDose } from '@wunsch/core/roast';
import { isJudged, judgeRun, RUNS_LOOKED_AT, type RunSeen, type RunVerdict } from '@wunsch/core/skills';
import { type Db } from '../db/database.ts';
import { idsIn, instantOf, rowsOf } from '../db/raw.ts';
import { batch, observation, recipe, step, tasting } from '../db/schema/index.ts';
import { beanReadings, loadRoasts } from '../stations/roast/index.ts';
import { loadWhere } from '../views/bundle.ts';
import { loadSettings } from '../views/settings.ts';

/** A run of somebody, one of their last at its station. */
interface Run {
  stepId: string;
  personId: string;
  station: Station;
  kind: StepKind;
  at: string;
  batchId: string | null;
  batchCode: string | null;
  /** All of theirs there. */
  runs: number;
}

/** Points of a roast's log that are read for its dose. */
const POINTS = 120;

/** What is noted that tells how a run went. */
const TELLING = ['picked', 'grit', 'setTest', 'result', 'fillSample'] as const;

/** The last finished runs of each person at each station, latest first, with how many there ever were. */
async function lastRuns(db: Db, personId: string | null): Promise<Run[]> {
  return rowsOf<Run>(
    await db.execute(sql`
      with run as (
        select s.id, s.station, s.kind, s.batch_id, coalesce(s.ended_at, s.started_at) as at,
          unnest(coalesce(s.hands, array[s.by])) as hand
        from step s left join batch b on b.id = s.batch_id
        where s.status = 'closed' and not s.voided and coalesce(b.state, '') <> 'void'
          and s.kind in ('receive', 'dry', 'sort', 'roast', 'winnow', 'recipe', 'grind', 'conche', 'temper', 'mould', 'wrap')
      ), ranked as (
        select run.*, p.id as person_id,
          row_number() over (partition by p.id, run.station order by run.at desc, run.id desc) as place,
          count(*) over (partition by p.id, run.station) as runs
        from run join person p on p.initials = run.hand ${personId === null ? sql`` : sql`and p.id = ${personId}`}
      )
      select r.id as "stepId", r.person_id as "personId", r.station, r.kind, ${instantOf('r.at')} as at,
        r.batch_id as "batchId", b.code as "batchCode", r.runs::int as runs
      from ranked r left join batch b on b.id = r.batch_id
      where r.place <= ${RUNS_LOOKED_AT} order by r.at desc, r.id desc`),
  );
}

/** Mouldings that took from each bowl. */
async function pouredFrom(db: Db, bowls: readonly string[]): Promise<Map<string, string[]>> {
  const rows = rowsOf<{ bowl: string; mould: string }>(
    await db.execute(sql`
      select distinct o.step_id as bowl, i.step_id as mould
      from movement o join movement i on i.parcel_id = o.parcel_id and i.direction = 'in' and i.replaced_by is null and not i.voided
      where o.step_id in ${idsIn(bowls)} and o.direction = 'out' and o.replaced_by is null and not o.voided
        and o.material = 'tempered chocolate'`),
  );
  const found = new Map<string, string[]>();
  for (const { bowl, mould } of rows) found.set(bowl, [...(found.get(bowl) ?? []), mould]);
  return found;
}

/** How runs went, by step; what nothing measured can tell of is not there. */
async function judged(db: Db, runs: readonly Run[]): Promise<Map<string, RunVerdict>> {
  const steps = new Map(runs.filter((r) => isJudged(r.kind)).map((r) => [r.stepId, r.kind]));
  if (steps.size === 0) return new Map();
  const of = (kind: StepKind) => [...steps].filter(([, k]) => k === kind).map(([id]) => id);
  const [roasts, grinds, bowls] = [of('roast'), of('grind'), of('temper')];
  const settings = await loadSettings(db);
  const poured = bowls.length > 0 ? await pouredFrom(db, bowls) : new Map<string, string[]>();
  const looked = [...new Set([...steps.keys(), ...[...poured.values()].flat()])];
  const seen = await loadWhere(
    db,
    and(inArray(observation.stepId, looked), inArray(observation.kind, [...TELLING])),
  );
  const details = new Map(
    (
      await db
        .select({ id: step.id, details: step.details })
        .from(step)
        .where(inArray(step.id, [...steps.keys()]))
    ).map((s) => [s.id, readDetails(s.details)]),
  );
  const aims = new Map(
    grinds.length === 0
      ? []
      : (
          await db
            .select({ id: step.id, aimUm: recipe.aimUm })
            .from(step)
            .innerJoin(batch, eq(batch.id, step.batchId))
            .innerJoin(recipe, eq(recipe.id, batch.recipeId))
            .where(and(inArray(step.id, grinds), isNotNull(recipe.aimUm)))
        ).map((r) => [r.id, r.aimUm]),
  );
  const doses = new Map(
    roasts.length === 0
      ? []
      : (await loadRoasts(db, { ids: roasts.join(','), limit: roasts.length, width: POINTS })).map((load) => {
          const readings = beanReadings(load);
          return [load.step.id, readings && roastDose(readings)];
        }),
  );
  const at = (stepIds: readonly string[]) => seen.filter((o) => stepIds.includes(o.stepId ?? ''));
  return new Map(
    [...steps].flatMap(([id, kind]) => {
      if (!isJudged(kind)) return [];
      const mine = at([id]);
      const kept = details.get(id)!;
      const sample = noted(mine, 'picked').findLast((p) => p.of === 'husk' && p.sampleMg > 0);
      const told: RunSeen = {
        doseMinutes: doses.get(id) ?? null,
        doseAim: kept.aim?.doseMinutes ?? settings.roast.doseMinutes,
        huskSample: sample ? { foundG: sample.foundMg / 1000, sampleG: sample.sampleMg / 1000 } : null,
        grits: noted(mine, 'grit'),
        gritAimUm: kept.aimUm ?? aims.get(id) ?? settings.gritAimUm,
        dips: noted(mine, 'setTest'),
        bars: noted(kind === 'temper' ? at(poured.get(id) ?? []) : mine, 'result'),
        fills: noted(mine, 'fillSample').map((f) => fillControl(f.weightsMg, f.nominalMg).verdict),
        lastLook: kept.lastLook ?? null,
      };
      return [[id, judgeRun(kind, told)] as const];
    }),
  );
}

/** What was noted of one kind, oldest first. */
function noted<K extends ObservationData['kind']>(
  seen: readonly ObservationRecord[],
  kind: K,
): Extract<ObservationData, { kind: K }>[] {
  return seen.flatMap((o) => (o.data.kind === kind ? [o.data as Extract<ObservationData, { kind: K }>] : []));
}

/** Tasting is no step: each card is a run nothing measured can tell of. */
async function tastings(db: Db, personId: string | null): Promise<RunsView> {
  const rows = await db
    .select({
      personId: tasting.personId,
      runs: sql<number>`count(*)::int`,
      lastAt: sql<string>`${instantOf('max(tasting.at)')}`,
    })
    .from(tasting)
    .where(
      and(
        eq(tasting.voided, false),
        personId === null ? isNotNull(tasting.personId) : eq(tasting.personId, personId),
      ),
    )
    .groupBy(tasting.personId)
    .orderBy(tasting.personId);
  return rows.map((r) => ({
    personId: r.personId!,
    station: 'taste' as const,
    runs: r.runs,
    lastAt: r.lastAt,
    good: 0,
    wanting: 0,
    unseen: 0,
    done: Math.min(r.runs, RUNS_LOOKED_AT),
  }));
}

/** What people have done at the stations, and how their last runs went. */
export async function runsOf(db: Db, personId: string | null = null): Promise<PersonRuns> {
  const runs = await lastRuns(db, personId);
  const verdicts = await judged(db, runs);
  const sums = new Map<string, RunsView[number]>();
  for (const r of runs) {
    const key = `${r.personId} ${r.station}`;
    const sum = sums.get(key) ?? {
      personId: r.personId,
      station: r.station,
      runs: r.runs,
      lastAt: r.at,
      good: 0,
      wanting: 0,
      unseen: 0,
      done: 0,
    };
    const verdict = verdicts.get(r.stepId);
    if (!verdict) sum.done++;
    else if (verdict.good === null) sum.unseen++;
    else if (verdict.good) sum.good++;
    else sum.wanting++;
    sums.set(key, sum);
  }
  return {
    sums: [...sums.values(), ...(await tastings(db, personId))],
    latest: runs.map(({ stepId, batchId, batchCode, station, kind, at }) => ({
      stepId,
      batchId,
      batchCode,
      station,
      kind,
      at,
      good: verdicts.get(stepId)?.good ?? null,
      faults: verdicts.get(stepId)?.faults ?? [],
    })),
  };
}
