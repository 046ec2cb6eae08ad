import { and, asc, eq, isNull } from 'drizzle-orm';
import { readObservation, type BatchView, type ObservationData, type StepRecord } from '@wunsch/contract';
import type { FaultRecord } from '@wunsch/core/faults';
import { gritValue } from '@wunsch/core/grind';
import { dewPoint } from '@wunsch/core/mould';
import { recipeFigures } from '@wunsch/core/recipe';
import { beansOwn, roastDose, untilBeansOut } from '@wunsch/core/roast';
import { beansCounted } from '@wunsch/core/sort';
import {
  bowlCorners,
  crystallise,
  excursions,
  meltingShift,
  pathByMilkFat,
  pathBySheet,
  STIRRED,
  inTheBowl,
  type BowlReading,
} from '@wunsch/core/temper';
import type { Db } from '../db/database.ts';
import { machine, observation } from '../db/schema/index.ts';
import { loadBars } from '../stations/mould/barFacts.ts';

type Seen<K extends ObservationData['kind']> = Extract<ObservationData, { kind: K }>;

/** Where bars set, °C, as such places usually are. */
const USUAL_PLACE = { cabinet: 13, 'cold-room': 10, refrigerator: 5 } as const;

/** Below this a bowl is cool enough for what stands to matter, °C above its cool step. */
const COOL_ENOUGH = 4;

const last = <T>(list: readonly T[]): T | null => list.at(-1) ?? null;
const sum = (values: readonly number[]) => values.reduce((a, b) => a + b, 0);
const minutesOf = (ms: number) => ms / 60_000;

/** Observations of a kind, in order of time. */
function seen<K extends ObservationData['kind']>(
  observations: readonly { at: string; stepId: string | null; data: ObservationData }[],
  kind: K,
  stepIds?: ReadonlySet<string>,
): { at: string; data: Seen<K> }[] {
  return observations
    .filter((o) => o.data.kind === kind && (!stepIds || (o.stepId !== null && stepIds.has(o.stepId))))
    .map((o) => ({ at: o.at, data: o.data as Seen<K> }))
    .sort((a, b) => a.at.localeCompare(b.at));
}

/** Temperatures of a place on a step: probe and hand together, seconds since it began; of a roast until its beans came out. */
function temperatures(view: BatchView, step: StepRecord, place: 'bean' | 'bowl'): BowlReading[] {
  const start = Date.parse(step.startedAt);
  const all = [
    ...view.series
      .filter((s) => s.stepId === step.id && s.place === place)
      .flatMap((s) =>
        s.points.map(([seconds, celsius]) => ({
          seconds: (Date.parse(s.startedAt) - start) / 1000 + seconds,
          celsius,
        })),
      ),
    ...view.observations.flatMap((o) =>
      o.stepId === step.id && o.data.kind === 'temperature' && o.data.place === place
        ? [{ seconds: (Date.parse(o.at) - start) / 1000, celsius: o.data.celsius, byHand: true }]
        : [],
    ),
  ].sort((a, b) => a.seconds - b.seconds);
  const events = view.observations.flatMap((o) =>
    o.stepId === step.id && o.data.kind === 'event' ? [{ name: o.data.name, at: o.at }] : [],
  );
  return untilBeansOut(all, events, step.startedAt);
}

/** The bowl a moulding was poured from. */
function bowlOf(view: BatchView, mould: StepRecord | null): StepRecord | null {
  if (!mould) return null;
  const poured = new Set(
    view.movements.flatMap((m) =>
      m.stepId === mould.id && m.direction === 'in' && m.inForce && m.parcelId ? [m.parcelId] : [],
    ),
  );
  const from = new Set(view.parcels.flatMap((p) => (poured.has(p.id) && p.stepId ? [p.stepId] : [])));
  return view.steps.find((s) => s.kind === 'temper' && from.has(s.id)) ?? null;
}

/** Longest stretch in which a cool bowl was not stirred, min; null where nobody said how it was stirred. */
function standing(
  stirrings: readonly { seconds: number; stirring: number }[],
  readings: readonly BowlReading[],
  below: number,
): number | null {
  if (stirrings.length === 0) return null;
  const end = readings.at(-1)?.seconds ?? 0;
  const isCool = (from: number, to: number) =>
    readings.some((r) => r.seconds >= from && r.seconds <= to && r.celsius < below);
  return Math.max(
    0,
    ...stirrings.map((s, k) => {
      const to = stirrings[k + 1]?.seconds ?? end;
      return s.stirring <= STIRRED.still && isCool(s.seconds, to) ? (to - s.seconds) / 60 : 0;
    }),
  );
}

/** What the bowl the bars were poured from says of itself. */
function bowlFacts(view: BatchView, step: StepRecord | null, milkFatShare: number | null) {
  const none = {
    minutesHot: null,
    hottestC: null,
    minutesCool: null,
    stablePercent: null,
    unstablePercent: null,
    standingMinutes: null,
  };
  if (!step || step.details.method === 'none') return none;
  const readings = temperatures(view, step, 'bowl');
  if (readings.length < 3) return none;
  const type = step.details.chocolateType ?? 'dark';
  const { sheet } = view.lot;
  const hasSheet =
    sheet !== null && (sheet.coolC !== null || sheet.workLowC !== null || sheet.workHighC !== null);
  const path = hasSheet
    ? pathBySheet(type, sheet)
    : milkFatShare === null
      ? pathBySheet(type, null)
      : pathByMilkFat(type, Math.min(1, milkFatShare));
  const spells = excursions(readings, path);
  const minutes = (kind: 'too-warm' | 'too-cool') =>
    sum(spells.filter((s) => s.kind === kind).map((s) => (s.toSeconds - s.fromSeconds) / 60));
  const hot = spells.filter((s) => s.kind === 'too-warm');
  const stirrings = view.observations
    .flatMap((o) =>
      o.stepId === step.id && o.data.kind === 'stirring'
        ? [
            {
              seconds: (Date.parse(o.at) - Date.parse(step.startedAt)) / 1000,
              stirring: STIRRED[o.data.level],
            },
          ]
        : [],
    )
    .sort((a, b) => a.seconds - b.seconds);
  // Seed that was weighed in is no part of this: where there was some, the crystals are left to the set test.
  const seeded =
    view.movements.filter((m) => m.stepId === step.id && m.direction === 'in' && m.inForce).length > 1;
  const corners = bowlCorners(readings, stirrings);
  const run =
    !seeded && corners.length > 2 && readings[0]!.celsius > path.meltC - 6
      ? crystallise({ path: corners, type, shift: meltingShift(type, path.coolC) })
      : null;
  return {
    minutesHot: minutes('too-warm'),
    hottestC:
      hot.length > 0
        ? Math.max(...hot.map((s) => s.extremeC))
        : Math.max(
            ...inTheBowl(readings)
              .slice(-5)
              .map((r) => r.celsius),
          ),
    minutesCool: minutes('too-cool'),
    stablePercent: run ? 100 * run.stable.at(-1)! : null,
    unstablePercent: run ? 100 * run.unstable.at(-1)! : null,
    standingMinutes: standing(stirrings, readings, path.coolC + COOL_ENOUGH),
  };
}

/** Least time a round of moulds set, min; null where no round was noted. */
function setFor(
  rounds: ReturnType<typeof seen<'round'>>,
  outs: ReturnType<typeof seen<'roundOut'>>,
  ids: readonly string[],
) {
  const times = rounds.flatMap(({ at }, k) => {
    const out = outs.find((o) => o.data.roundId === ids[k]);
    return out ? [minutesOf(Date.parse(out.at) - Date.parse(at))] : [];
  });
  return times.length > 0 ? Math.min(...times) : null;
}

/**
 * What a batch's record holds that bears on faults of its bars, from what was weighed, measured and noted; what nobody wrote down is null.
 *
 * @param code what is on the bar, where it is known: it tells which bowl and moulding of the batch it is of; the last otherwise
 */
export async function faultRecord(db: Db, view: BatchView, code = ''): Promise<FaultRecord> {
  const lotNotes = await db
    .select({ at: observation.at, stepId: observation.stepId, data: observation.data })
    .from(observation)
    .where(
      and(eq(observation.lotId, view.lot.id), isNull(observation.replacedBy), eq(observation.voided, false)),
    )
    .orderBy(asc(observation.at));
  const ofLot = lotNotes.map((o) => ({ ...o, data: readObservation(o.data) }));
  const all = [...ofLot, ...view.observations];
  const steps = (kind: StepRecord['kind']) =>
    view.steps.filter((s) => s.kind === kind).sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  const ids = (list: readonly StepRecord[]) => new Set(list.map((s) => s.id));
  const [roast, grind] = [steps('roast'), steps('grind')];
  const moulds = steps('mould');
  const mould = moulds.find((s) => code !== '' && s.details.barCode === code) ?? last(moulds);
  const temper = bowlOf(view, mould) ?? last(steps('temper'));

  // Beans.
  const cut = last(seen(all, 'cutTest'))?.data.counts ?? null;
  const counted = cut ? beansCounted(cut) : 0;
  const percent = (kind: 'slaty' | 'mouldy') =>
    cut && counted > 0 ? (100 * (cut[kind] ?? 0)) / counted : null;
  const traps = seen(ofLot, 'traps');
  const notes = `${view.lot.notes} ${view.lot.growerNotes}`;

  // Recipe, as it was made.
  const bars = view.parcels.find((p) => p.material === 'bars' && p.batchId === view.batch.id);
  const lines = bars
    ? await loadBars(db, bars.id, () => '').then(
        (b) => (b.bar.complete ? b.bar.lines : null),
        () => null,
      )
    : null;
  const figures = lines && lines.length > 0 ? recipeFigures([...lines]) : null;

  // Roast: the last load stands for all.
  const beans = roast
    .map((s) => beansOwn(temperatures(view, s, 'bean')).readings)
    .filter((r) => r.length > 5);
  const aim = last(roast)?.details.aim?.doseMinutes ?? null;

  // Grind.
  const ins = view.movements.filter((m) => m.inForce && m.direction === 'in' && ids(grind).has(m.stepId));
  const sugar = last(
    ins.filter((m) => /sugar|zucker/i.test(m.label ?? '')).sort((a, b) => a.at.localeCompare(b.at)),
  );
  const ground = last(grind)?.endedAt ?? null;
  const [mill] = last(grind)?.machineId
    ? await db
        .select({ maxMg: machine.maxMg })
        .from(machine)
        .where(eq(machine.id, last(grind)!.machineId!))
    : [];
  const misread = new Set(view.grind.flatMap((g) => g.readings.flatMap((r) => (r.isMisread ? [r.at] : []))));
  const grits = seen(view.observations, 'grit')
    .filter((o) => !misread.has(o.at))
    .flatMap((o) => gritValue(o.data)?.um ?? []);
  const conched = [...view.grind.map((g) => g.allHours), ...view.conche.map((c) => c.hours)];
  const sour = last(
    [
      ...seen(view.observations, 'sourness').map((o) => ({ at: o.at, score: o.data.score as number | null })),
      ...seen(view.observations, 'retaste').map((o) => ({ at: o.at, score: o.data.sourness })),
    ]
      .filter((o) => o.score !== null)
      .sort((a, b) => a.at.localeCompare(b.at)),
  );

  // Mould.
  const here = new Set([...(mould ? [mould.id] : []), ...(temper ? [temper.id] : [])]);
  const room = last(seen(view.observations, 'room', here))?.data ?? null;
  const place = mould?.details.setPlace ?? null;
  const test = last(seen(view.observations, 'setTest', here))?.data ?? null;
  const rounds = view.observations
    .filter((o) => o.data.kind === 'round' && o.stepId !== null && here.has(o.stepId))
    .sort((a, b) => a.at.localeCompare(b.at));
  const husk = seen(view.observations, 'picked').filter((o) => o.data.of === 'husk');
  return {
    fermentDays: null,
    slatyPercent: percent('slaty'),
    mouldyPercent: percent('mouldy'),
    beanMoisture: view.lot.moisture,
    smokeNoted: /smok|rauch|ham\b|schinken/i.test(notes) ? true : null,
    mothsCaught: traps.length > 0 ? sum(traps.map((o) => o.data.count)) : null,
    wasHeld: seen(ofLot, 'hold').length > 0 ? true : null,
    dose: beans.length > 0 ? sum(beans.map((r) => roastDose(r))) / beans.length : null,
    doseAim: aim,
    surfaceMaxC: beans.length > 0 ? Math.max(...beans.flatMap((r) => r.map((x) => x.celsius))) : null,
    ceilingC: last(roast)?.details.ceilingC ?? view.lot.ceilingC,
    huskPercent:
      husk.length > 0
        ? (100 * sum(husk.map((o) => o.data.foundMg))) / Math.max(1, sum(husk.map((o) => o.data.sampleMg)))
        : null,
    cacaoPercent: figures?.cacaoAll ?? null,
    fatPercent: figures?.fat ?? null,
    lecithinPercent: figures?.composition.emulsifier ?? null,
    otherFatPercent: figures && figures.fat > 0 ? (100 * figures.composition.otherFat) / figures.fat : null,
    // What the nibs themselves hold stays out of it: it is what came in beside them that thickens.
    waterPercent:
      lines && figures
        ? (100 *
            sum(
              lines
                .filter((l) => l.ingredient.cacao !== 'bean')
                .map((l) => (l.massMg * l.ingredient.composition.water) / 100),
            )) /
          figures.totalMg
        : null,
    gritUm: last(grits),
    gritAimUm: last(grind)?.details.aimUm ?? null,
    sugarHours: sugar && ground ? minutesOf(Date.parse(ground) - Date.parse(sugar.at)) / 60 : null,
    chargeKg: ins.length > 0 ? sum(ins.map((m) => m.massMg)) / 1e6 : null,
    usableKg: mill?.maxMg ? mill.maxMg / 1e6 : null,
    concheHours: conched.length > 0 && ground ? sum(conched) : null,
    sourness: sour?.score ?? null,
    ...bowlFacts(view, temper, figures && figures.fat > 0 ? figures.milkFat / figures.fat : null),
    setMinutes: test?.minutes ?? null,
    testStreaks: test ? test.streaks || test.gloss !== 'even' : null,
    roomC: room?.celsius ?? null,
    roomHumidity: room?.humidity ?? null,
    setPlaceC: place === null ? null : place === 'room' ? (room?.celsius ?? null) : USUAL_PLACE[place],
    dewPointC: room ? dewPoint(room.celsius, room.humidity) : null,
    setForMinutes: setFor(
      rounds.map((o) => ({ at: o.at, data: o.data as Seen<'round'> })),
      seen(view.observations, 'roundOut'),
      rounds.map((o) => o.id),
    ),
    mouldC: null,
  };
}
