import { normalDraw, seededRandom } from '../../numerics/index.ts';
import {
  beanExpectedAt,
  crossing,
  forecastRoast,
  makeBean,
  makeOven,
  planMinutes,
  seriesAt,
  shiftOven,
  simulateRoast,
  smoothedAt,
  stageAt,
  STARTER_PLANS,
  watchRoast,
  type BeanReading,
  type RoastEvent,
} from '../../roast/index.ts';
import { DRIES, HIDDEN, WET } from './hidden.ts';
import { probed } from './probes.ts';
import { countIn, countWarning, type StationScore } from './score.ts';

const EVERY = 10;

/** Moments at which a roast is forecast, s, and how far ahead its beans are looked at. */
const ASKED = [0, 300, 600, 1200];
const AHEAD = 600;

/** How often a roast is watched while its thermostat may stick, s, and to what it then heats at least, °C. */
const WATCHED = 60;
const STUCK = { chance: 0.5, atLeastC: 150, spreadC: 40 };

/**
 * Roasts in ovens nobody has learned, their probes off and wandering: does what the forecast says hold, and is scorching by a thermostat
 * that sticks spoken of before it happens? One roast a seed.
 *
 * @param watched how many are also watched for scorching, which takes long
 */
export function scoreRoasts(seed: number, count: number, watched = Math.ceil(count / 2)): StationScore {
  const score: StationScore = { ranges: {}, warnings: {}, leadUnit: 's' };
  for (let k = 0; k < count; k += 1) foretell(seed + k, score);
  for (let k = 0; k < watched; k += 1) watch(seed + k, score);
  return score;
}

/** A roast as it was and as its probes read it. */
function roastOf(seed: number, events: readonly RoastEvent[]) {
  const random = seededRandom(seed);
  const usual = makeOven({ usableKg: 3 });
  const oven = shiftOven(
    usual,
    HIDDEN.map((sd) => sd * normalDraw(random)),
  );
  const plan = STARTER_PLANS[seed % 3]!;
  const common = { plan, loadKg: 1.5 + random(), events: [...events] };
  const beans = seededRandom(seed + 0.25);
  const between = ({ from, to }: typeof WET) => from + (to - from) * beans();
  const bean = makeBean({ moisture: between(WET) });
  bean.dryingRate *= between(DRIES);
  const run = simulateRoast({ ...common, bean, oven, sampleEvery: EVERY });
  return {
    live: {
      ...common,
      bean: makeBean(),
      events: [],
      oven: usual,
      ...probed(random, run, EVERY),
    },
    run,
    end: planMinutes(plan) * 60,
  };
}

function foretell(seed: number, { ranges }: StationScore): void {
  const { live, run, end } = roastOf(seed, []);
  const dose = run.dose.at(-1)!;
  const aimDose = 0.7 * dose;
  const points = Array.from(run.seconds, (s, i) => [s, run.dose[i]!] as const);
  const doseAt = crossing(points, aimDose)!;
  for (const now of ASKED) {
    if (now > end - 300) continue;
    const seen = now === 0 ? { beanReadings: [], ovenReadings: [] } : {};
    const said = forecastRoast({ ...live, ...seen, now, aimDose });
    const when = now === 0 ? 'before it begins' : `at ${now / 60} min`;
    const at = Math.min(now + AHEAD, end);
    const bean = beanExpectedAt(said, at);
    countIn(ranges, `beans in 10 min, ${when}`, seriesAt(live.beanReadings, at)!, bean.low, bean.high);
    countIn(ranges, `dose at the end, ${when}`, dose, said.dose.end.low, said.dose.end.high);
    countIn(ranges, `acid left, ${when}`, run.acid.at(-1)!, said.acid.end.low, said.acid.end.high);
    countIn(ranges, `loss, ${when}`, run.lossShare, said.lossShare.end.low, said.lossShare.end.high);
    countIn(ranges, `moisture, ${when}`, run.moisture.at(-1)!, said.moisture.end.low, said.moisture.end.high);
    if (now > 0) {
      const rise = celsiusShown(live.beanReadings, now + 60) - celsiusShown(live.beanReadings, now);
      countIn(ranges, `rise of the next minute, ${when}`, rise, said.pace.low, said.pace.high);
    }
    if (doseAt > now) countIn(ranges, `time of a dose, ${when}`, doseAt, said.doseAt!.low, said.doseAt!.high);
  }
}

/** What the screen shows of the beans at a moment, from the readings until then. */
const celsiusShown = (readings: readonly BeanReading[], now: number) =>
  smoothedAt(
    readings.filter((r) => r.seconds <= now),
    now,
  )!.celsius;

function watch(seed: number, { warnings }: StationScore): void {
  const random = seededRandom(seed + 0.5);
  const sticksAt = Math.round(400 + 700 * random());
  const stuck: RoastEvent[] =
    random() < STUCK.chance
      ? [{ seconds: sticksAt, kind: 'set', setC: STUCK.atLeastC + STUCK.spreadC * random() }]
      : [];
  const { live, run, end } = roastOf(seed, stuck);
  // The ceiling lies a little above what the roast as planned would reach, as makers set it.
  const ceilingC = simulateRoast({ ...live, sampleEvery: EVERY }).surfaceMax + 6 + 6 * random();
  const over = run.surface.findIndex((s) => s > ceilingC);
  const happened = over < 0 ? null : run.seconds[over]!;
  // An oven that ran away too late to scorch anything is rightly spoken of, and no event.
  if (happened === null && stuck.length > 0) return;
  let warned: number | null = null;
  for (let now = 240; now < Math.min(end, happened ?? end) && warned === null; now += WATCHED) {
    const said = forecastRoast({ ...live, now, ceilingC });
    const alarms = watchRoast({
      now,
      bean: live.beanReadings.filter((r) => r.seconds <= now),
      oven: live.ovenReadings.filter((r) => r.seconds <= now),
      setC: live.plan.stages[stageAt(live.plan, now / 60)?.index ?? 0]!.setC,
      expectedC: null,
      surfaceC: said.surfaceNow.median,
      ceilingC,
      ceiling: said.ceiling,
      stirEvery: null,
      lastStir: null,
      endSeconds: end,
      probe: true,
    });
    if (alarms.some((a) => a.code === 'scorch-ahead' || a.code === 'oven-hot')) warned = now;
  }
  countWarning(warnings, 'beans about to scorch', happened, warned);
}
