import { sql } from 'drizzle-orm';
import type { UsualWork } from '@wunsch/contract';
import type { StepWork } from '@wunsch/core/cost';
import type { Station } from '@wunsch/core/ledger';
import type { Db } from '../db/database.ts';
import { rowsOf } from '../db/raw.ts';
import { loadSettings } from '../views/settings.ts';
import { loadWorks } from './flow.ts';

/** How many of the last finished batches say what is usual. */
const LEARNED_FROM = 20;

/** A step of one of them, and the kg of bars its batch gave. */
interface Step {
  id: string;
  batchId: string;
  station: Station;
  /** Of hands, where somebody noted them. */
  minutes: number | null;
  inMg: number;
  barKg: number;
}

/** What work, power and wear at each station come to for a kg of bars, from the last finished batches that say so there. */
export async function loadUsualWork(db: Db): Promise<UsualWork> {
  const steps = rowsOf<Step>(
    await db.execute(sql`
      with made as (
        select b.id, (
          select sum(m.mass_mg)::float8 / 1e6 from step s join movement m on m.step_id = s.id
            join parcel p on p.id = m.parcel_id and p.material = 'bars'
          where s.batch_id = b.id and s.kind = 'mould' and not s.voided
            and m.direction = 'out' and m.replaced_by is null and not m.voided
        ) as kg
        from batch b where b.state = 'finished' order by b.started_at desc, b.id limit ${LEARNED_FROM}
      )
      select s.id, s.batch_id as "batchId", s.station, s.hands_on_minutes as minutes, made.kg as "barKg", coalesce((
        select sum(m.mass_mg) from movement m
        where m.step_id = s.id and m.direction = 'in' and m.replaced_by is null and not m.voided
      ), 0)::float8 as "inMg"
      from step s join made on made.id = s.batch_id
      where made.kg > 0 and not s.voided and s.kind <> 'leave'`),
  );
  const { labourRate, energyPrice } = await loadSettings(db);
  const works = await loadWorks(
    db,
    steps.map((s) => s.id),
  );
  /** What one kind of cost is for a kg of bars at each station, over the batches of which somebody has said it there. */
  const perKg = (cost: (work: StepWork, step: Step) => number | null): Partial<Record<Station, number>> => {
    const sums = new Map<Station, { cost: number; barKg: Map<string, number> }>();
    for (const step of steps) {
      const said = cost(works.get(step.id)!, step);
      if (said === null) continue;
      const sum = sums.get(step.station) ?? { cost: 0, barKg: new Map<string, number>() };
      sum.cost += said;
      sum.barKg.set(step.batchId, step.barKg);
      sums.set(step.station, sum);
    }
    return Object.fromEntries(
      [...sums].map(([station, { cost, barKg }]) => [
        station,
        cost / [...barKg.values()].reduce((kg, of) => kg + of, 0),
      ]),
    );
  };
  const worked = new Map<Station, Set<string>>();
  for (const { minutes, station, batchId } of steps)
    if (minutes !== null) worked.set(station, (worked.get(station) ?? new Set()).add(batchId));
  return {
    batches: Math.max(0, ...[...worked.values()].map((of) => of.size)),
    labourPerKg: perKg((_, s) => (s.minutes === null ? null : (s.minutes / 60) * labourRate)),
    energyPerKg: perKg((w) => (w.watts > 0 ? (w.machineHours * w.watts * energyPrice) / 1000 : null)),
    machinesPerKg: perKg((w, s) => (w.writeOffPerKg > 0 ? (s.inMg / 1e6) * w.writeOffPerKg : null)),
  };
}
