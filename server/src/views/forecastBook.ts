import { ForecastBook } from '@wunsch/contract';
import { CONCHE_DEFAULTS } from '@wunsch/core/conche';
import { followDrying, forecastDrying } from '@wunsch/core/ferment';
import { forecastGrind, misreadGrit, learnPrior } from '@wunsch/core/grind';
import { expectedYield, historyOf, STATIONS, type Station } from '@wunsch/core/ledger';
import { normalQuantile } from '@wunsch/core/numerics';
import type { Db } from '../db/database.ts';
import type { App } from '../http/types.ts';
import type { FinishedRun, Learned } from '../machines/runs.ts';
import { concheForecast } from '../stations/conche/index.ts';
import type { Store } from '../store/store.ts';
import { weighedDryings } from './dryings.ts';
import { yieldBook } from './yieldBook.ts';

/** Years looked back on, and how many earlier batches a yield is foretold from, as on the Bench. */
const YEARS = 3;
const FROM = 12;

/** A yield is foretold once so many batches of the station are known: before, it is the trade’s guess and not the workshop’s. */
const KNOWN = 3;

/** A grind is looked back on where it was read so often before its last reading. */
const READ_BEFORE = 3;

/** A conche is looked back on where it was tasted so often before its last tasting, drying beans where they were weighed so often. */
const TASTED_BEFORE = 2;
const WEIGHED_BEFORE = 2;

/** How well a weighing tells the moisture, % points. */
const WEIGHED_TO = 0.3;

/** A range of 80 % reaches so many standard deviations to each side. */
const HALF = normalQuantile(0.9);

type Kind = ForecastBook[number];

/** Yields as each would have been foretold from those before it. */
async function yieldsForetold(db: Db): Promise<Kind[]> {
  const first = await yieldBook(db, undefined);
  const books = [first];
  for (const year of first.years.filter((y) => y !== first.year).slice(0, YEARS - 1))
    books.push(await yieldBook(db, year));
  const all = books
    .flatMap((b) => b.yields)
    .map((y) => ({ ...y, value: y.outMg / y.inMg }))
    .filter((y) => y.value > 0 && y.value <= 1.2)
    .sort((a, b) => a.at.localeCompare(b.at));
  return STATIONS.flatMap((station): Kind[] => {
    const here = all.filter((y) => y.station === station);
    const forecasts = here.flatMap((y, i) => {
      if (i < KNOWN) return [];
      const before = here.slice(0, i);
      // As its page would have: from the lot's latest batches, and the workshop's.
      const own = before.filter((b) => b.lotId === y.lotId).slice(-FROM);
      const others = before.slice(-FROM).filter((b) => b.lotId !== y.lotId);
      const { mean, sd } = expectedYield(historyOf(station, [...own, ...others], y.lotId));
      return [{ id: y.batchId, code: y.batchCode, at: y.at, mean, sd, actual: y.value }];
    });
    return forecasts.length > 0 ? [{ kind: 'yield', station, forecasts }] : [];
  });
}

/** The grit of each grind at its last reading, foretold from the readings before it and the machine’s earlier runs since it was last rebuilt. */
function gritForetold({ runs, rebuiltBefore }: Learned, station: Station): Kind[] {
  const grinds = runs
    .filter((r) => r.work === 'grind')
    .sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  const forecasts = grinds.flatMap((run, i) => {
    const misread = misreadGrit(run.readings);
    const read = run.readings.filter((r) => !misread.includes(r));
    const last = read.at(-1);
    const before = last
      ? read.filter((r) => r !== last && (r.segment !== last.segment || r.hours < last.hours))
      : [];
    if (!last || before.length < READ_BEFORE) return [];
    // New stones had nothing to learn from what the old ones did.
    const since = rebuiltBefore(run.machineId, run.startedAt);
    const learned = grinds
      .slice(0, i)
      .flatMap((r) =>
        r.machineId === run.machineId && r.startedAt >= since && r.learned ? [r.learned] : [],
      );
    const forecast = forecastGrind({
      readings: before,
      aimUm: last.um,
      prior: learnPrior(learned),
      segment: last.segment,
    });
    if (!forecast.ok) return [];
    const { median, low, high } = forecast.at(last.hours);
    // What is compared is a reading, which is no surer than its instrument.
    const sd = Math.hypot((high - low) / (2 * HALF), last.uUm);
    return [{ id: run.batchId, code: run.batchCode, at: run.endedAt, mean: median, sd, actual: last.um }];
  });
  return forecasts.length > 0 ? [{ kind: 'grit', station, forecasts }] : [];
}

/** How sour each conche was at its last tasting, foretold from the tastings before it and the lot’s earlier conches. */
function sournessForetold(runs: readonly FinishedRun[]): Kind[] {
  const conches = runs
    .filter((r) => r.conche !== null)
    .sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  const forecasts = conches.flatMap((run, i) => {
    const tastings = run.conche!.tastings.toSorted((a, b) => a.hours - b.hours);
    const last = tastings.at(-1);
    if (!last || tastings.length < TASTED_BEFORE + 1) return [];
    const rates = conches
      .slice(0, i)
      .flatMap((r) => (r.lotId === run.lotId && r.acidRate !== null ? [r.acidRate] : []));
    const said = concheForecast({ ...run.conche!, tastings: tastings.slice(0, -1) }, last.score, rates);
    const { median, low, high } = said.at(last.hours);
    // What is compared is what a tongue said.
    const sd = Math.hypot((high - low) / (2 * HALF), CONCHE_DEFAULTS.scoreU);
    return [{ id: run.batchId, code: run.batchCode, at: last.at, mean: median, sd, actual: last.score }];
  });
  return forecasts.length > 0 ? [{ kind: 'sourness', station: 'grind', forecasts }] : [];
}

/** How moist each drying lot was at its last weighing, foretold from those before it. */
async function dryingForetold(db: Db): Promise<Kind[]> {
  const forecasts = (await weighedDryings(db)).flatMap(({ id, code, weighings, lastAt }) => {
    if (weighings.length < WEIGHED_BEFORE + 2) return [];
    const whole = followDrying(weighings);
    const before = followDrying(weighings.slice(0, -1));
    const last = whole.isKnown && whole.weighings.at(-1);
    // A last weighing that cannot be says nothing of the forecast.
    if (!last || last.of !== weighings.at(-1) || !before.isKnown) return [];
    const said = forecastDrying(before);
    if (!said.ok) return [];
    const { median, low, high } = said.at(last.of.hours - before.weighings[0]!.of.hours);
    const sd = Math.hypot((high - low) / (2 * HALF), WEIGHED_TO);
    return [{ id, code, at: lastAt, mean: median, sd, actual: last.moisture }];
  });
  return forecasts.length > 0 ? [{ kind: 'drying', station: 'beans', forecasts }] : [];
}

/** Every kind of forecast looked back on, but for roasts, which take their time and are made again where they are read. */
export async function forecastBook({ db, runs }: Pick<Store, 'db' | 'runs'>): Promise<ForecastBook> {
  const known = await runs.load();
  return [
    ...(await yieldsForetold(db)),
    ...(await dryingForetold(db)),
    ...gritForetold(known, 'grind'),
    ...sournessForetold(known.runs),
  ];
}

/** How good the forecasts have been here. */
export function forecastRoutes(app: App): void {
  app.get(
    '/api/forecasts',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary: 'Forecasts looked back on: what was expected from what was known before, and what came',
        response: { 200: ForecastBook },
      },
    },
    (request) => forecastBook(request.store),
  );
}
