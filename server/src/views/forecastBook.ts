import { ForecastBook } from '@wunsch/contract';
import { forecastGrind, learnPrior } from '@wunsch/core/grind';
import { expectedYield, STATIONS, type Station } from '@wunsch/core/ledger';
import { normalQuantile } from '@wunsch/core/numerics';
import type { Db } from '../db/database.ts';
import type { App } from '../http/types.ts';
import type { FinishedRun } from '../machines/runs.ts';
import type { Store } from '../store/store.ts';
import { yieldBook } from './yieldBook.ts';

/** Years looked back on, and how many earlier batches a yield is foretold from, as on the Bench. */
const YEARS = 3;
const FROM = 12;

/** A yield is foretold once so many batches of the station are known: before, it is the trade’s guess and not the workshop’s. */
const KNOWN = 3;

/** A grind is looked back on where it was read so often before its last reading. */
const READ_BEFORE = 3;

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
      const { mean, sd } = expectedYield({
        station,
        lot: before
          .filter((b) => b.lotId === y.lotId)
          .slice(-FROM)
          .map((b) => b.value),
        workshop: before
          .filter((b) => b.lotId !== y.lotId)
          .slice(-FROM)
          .map((b) => b.value),
      });
      return [{ batchId: y.batchId, batchCode: y.batchCode, at: y.at, mean, sd, actual: y.value }];
    });
    return forecasts.length > 0 ? [{ kind: 'yield', station, forecasts }] : [];
  });
}

/** The grit of each grind at its last reading, foretold from the readings before it and the machine’s earlier runs. */
function gritForetold(runs: readonly FinishedRun[], station: Station): Kind[] {
  const grinds = runs
    .filter((r) => r.work === 'grind')
    .sort((a, b) => a.startedAt.localeCompare(b.startedAt));
  const half = normalQuantile(0.9);
  const forecasts = grinds.flatMap((run, i) => {
    const last = run.readings.at(-1);
    const before = last
      ? run.readings.filter((r) => r !== last && (r.segment !== last.segment || r.hours < last.hours))
      : [];
    if (!last || before.length < READ_BEFORE) return [];
    const learned = grinds
      .slice(0, i)
      .flatMap((r) => (r.machineId === run.machineId && r.learned ? [r.learned] : []));
    const forecast = forecastGrind({
      readings: before,
      aimUm: last.um,
      prior: learnPrior(learned),
      segment: last.segment,
    });
    if (!forecast.ok) return [];
    const { median, low, high } = forecast.at(last.hours);
    // What is compared is a reading, which is no surer than its instrument.
    const sd = Math.hypot((high - low) / (2 * half), last.uUm);
    return [
      { batchId: run.batchId, batchCode: run.batchCode, at: run.endedAt, mean: median, sd, actual: last.um },
    ];
  });
  return forecasts.length > 0 ? [{ kind: 'grit', station, forecasts }] : [];
}

/** Every kind of forecast looked back on. */
export async function forecastBook({ db, runs }: Pick<Store, 'db' | 'runs'>): Promise<ForecastBook> {
  return [...(await yieldsForetold(db)), ...gritForetold((await runs.load()).runs, 'grind')];
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
