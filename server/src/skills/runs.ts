import { and, eq, inArray, isNotNull, sql } from 'drizzle-orm';
import {
  readDetails,
  type ObservationData,
  type ObservationRecord,
  type PersonRuns,
  type RunsView,
} from '@wunsch/contract';
import { WORK_KINDS, type StepKind } from '@wunsch/core/ledger';
import { fillControl } from '@wunsch/core/mould';
import { roastDose } from '@wunsch/core/roast';
import {
  isJudged,
  judgeRun,
  RUNS_LOOKED_AT,
  SKILLS,
  type RunSeen,
  type RunVerdict,
  type Skill,
} from '@wunsch/core/skills';
import type { Db } from '../db/database.ts';
import { arrayOf, idsIn, instantOf, rowsOf } from '../db/raw.ts';
import { batch, observation, readings, recipe, step, tasting } from '../db/schema/index.ts';
import { beanReadings, withHandReadings } from '../stations/roast/index.ts';
import { loadSeries } from '../readings/series.ts';
import { loadWhere } from '../views/bundle.ts';
import { loadSettings } from '../views/settings.ts';

/** A run of somebody, one of their last at its skill. */
interface Run {
  stepId: string;
  personId: string;
  skill: Skill;
  kind: StepKind;
  startedAt: string;
  at: string;
  batchId: string | null;
  batchCode: string | null;
}

/** Points of a roast's log that are read for its dose. */
const POINTS = 120;

/** Latest runs of a skill that are looked through for everybody's last ones: who is not among them has been away for long. */
const LATEST = 400;

/** What is noted that tells how a run went; of a roast, temperatures read by eye and when its beans were out. */
const TELLING = ['picked', 'grit', 'setTest', 'result', 'fillSample', 'event', 'temperature'] as const;

/** Work that counts as a run: on the line, taking in, drying and packing. */
const COUNTED: readonly StepKind[] = ['receive', 'dry', ...WORK_KINDS, 'wrap'];

/** A finished step somebody did that stands in the books. */
const DONE = sql`s.status = 'closed' and s.ended_at is not null and not s.voided
  and s.kind = any(${arrayOf(COUNTED)}::text[])`;

/** Who was at a step, by initials. */
const HANDS = sql`coalesce(s.hands, array[s.by])`;

/** The last finished runs of each person at each skill, latest first. */
async function lastRuns(db: Db, personId: string | null): Promise<Run[]> {
  return rowsOf<Run>(
    await db.execute(sql`
      with person_at as (select id, initials from person ${personId === null ? sql`` : sql`where id = ${personId}`}),
      run as (
        select t.skill, x.* from (select skill, case when skill = 'wrap' then 'mould' else skill end as station
          from unnest(${arrayOf(SKILLS)}::text[]) u(skill)) t cross join lateral (
          select s.id, s.kind, s.batch_id, s.started_at, s.ended_at as at, ${HANDS} as hands
          from step s where s.station = t.station and (s.kind = 'wrap') = (t.skill = 'wrap') and ${DONE}
            ${personId === null ? sql`` : sql`and (select initials from person_at) = any(${HANDS})`}
          order by s.ended_at desc, s.id desc limit ${LATEST}) x
      ), ranked as (
        select run.*, p.id as person_id,
          row_number() over (partition by p.id, run.skill order by run.at desc, run.id desc) as place
        from run join person_at p on p.initials = any(run.hands)
        left join batch b on b.id = run.batch_id where coalesce(b.state, '') <> 'void'
      )
      select r.id as "stepId", r.person_id as "personId", r.skill, r.kind, ${instantOf('r.at')} as at,
        ${instantOf('r.started_at')} as "startedAt", r.batch_id as "batchId", b.code as "batchCode"
      from ranked r left join batch b on b.id = r.batch_id
      where r.place <= ${RUNS_LOOKED_AT} order by r.at desc, r.id desc`),
  );
}

/** How many runs somebody ever had, by skill. */
async function countRuns(db: Db, personId: string): Promise<Map<Skill, number>> {
  const rows = rowsOf<{ skill: Skill; runs: number }>(
    await db.execute(sql`
      select case when s.kind = 'wrap' then 'wrap' else s.station end as skill, count(*)::int as runs
      from step s left join batch b on b.id = s.batch_id
      where ${DONE} and coalesce(b.state, '') <> 'void'
        and (select initials from person where id = ${personId}) = any(${HANDS})
      group by 1`),
  );
  return new Map(rows.map((r) => [r.skill, r.runs]));
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
  const [grinds, bowls] = [of('grind'), of('temper')];
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
  const doses = await dosesOf(db, runs, seen);
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
      };
      return [[id, judgeRun(kind, told)] as const];
    }),
  );
}

/** Dose of each roast whose beans were logged, equivalent minutes at 120 °C. */
async function dosesOf(
  db: Db,
  runs: readonly Run[],
  seen: readonly ObservationRecord[],
): Promise<Map<string, number>> {
  const roasts = new Map(runs.filter((r) => r.kind === 'roast').map((r) => [r.stepId, r]));
  if (roasts.size === 0) return new Map();
  const where = and(inArray(readings.stepId, [...roasts.keys()]), eq(readings.place, 'bean'));
  const series = await loadSeries(db, where, POINTS);
  return new Map(
    [...roasts.values()].flatMap((step) => {
      const events = seen.flatMap((o) =>
        o.stepId === step.stepId && o.data.kind === 'event'
          ? [{ name: o.data.name, at: o.at, value: o.data.value ?? null }]
          : [],
      );
      const probes = series.filter((x) => x.stepId === step.stepId);
      const notes = seen.filter((o) => o.stepId === step.stepId);
      const own = withHandReadings(probes, { id: step.stepId, startedAt: step.startedAt }, notes);
      const beans = beanReadings({ step, series: own, events });
      return beans ? [[step.stepId, roastDose(beans)] as const] : [];
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
async function tastings(db: Db, personId: string | null): Promise<{ sum: RunsView[number]; all: number }[]> {
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
    sum: {
      personId: r.personId!,
      skill: 'taste',
      lastAt: r.lastAt,
      good: 0,
      wanting: 0,
      unseen: 0,
      done: Math.min(r.runs, RUNS_LOOKED_AT),
    },
    all: r.runs,
  }));
}

/** Everybody's last runs at the stations, and how they went. */
export async function everybodysRuns(db: Db): Promise<RunsView> {
  const runs = await lastRuns(db, null);
  return [...sumsOf(runs, await judged(db, runs)), ...(await tastings(db, null)).map((t) => t.sum)];
}

/** What one person has done at the stations, and how their last runs went. */
export async function runsOf(db: Db, personId: string): Promise<PersonRuns> {
  const runs = await lastRuns(db, personId);
  const verdicts = await judged(db, runs);
  const counts = await countRuns(db, personId);
  return {
    sums: [
      ...sumsOf(runs, verdicts).map((sum) => ({ ...sum, runs: counts.get(sum.skill) ?? 0 })),
      ...(await tastings(db, personId)).map(({ sum, all }) => ({ ...sum, runs: all })),
    ],
    latest: runs.map(({ stepId, batchId, batchCode, skill, kind, at }) => ({
      stepId,
      batchId,
      batchCode,
      skill,
      kind,
      at,
      good: verdicts.get(stepId)?.good ?? null,
      faults: verdicts.get(stepId)?.faults ?? [],
    })),
  };
}

/** How the last runs of each person at each skill went. */
function sumsOf(runs: readonly Run[], verdicts: ReadonlyMap<string, RunVerdict>): RunsView {
  const sums = new Map<string, RunsView[number]>();
  for (const { personId, skill, at, stepId } of runs) {
    const key = `${personId} ${skill}`;
    const sum = sums.get(key) ?? { personId, skill, lastAt: at, good: 0, wanting: 0, unseen: 0, done: 0 };
    const verdict = verdicts.get(stepId);
    if (!verdict) sum.done++;
    else if (verdict.good === null) sum.unseen++;
    else if (verdict.good) sum.good++;
    else sum.wanting++;
    sums.set(key, sum);
  }
  return [...sums.values()];
}
