import { and, desc, eq } from 'drizzle-orm';
import { readDetails, WarningBook } from '@wunsch/contract';
import { usualLead, warnedOf, type Warning } from '@wunsch/core/calibration';
import { mouldSeen } from '@wunsch/core/ferment';
import { windowStays } from '@wunsch/core/temper';
import type { Db } from '../db/database.ts';
import { step } from '../db/schema/index.ts';
import type { App } from '../http/types.ts';
import { bowlLogs } from '../stations/temper/index.ts';
import { weighedDryings } from './dryings.ts';

/** Latest bowls that are looked back on. */
const BOWLS = 60;

/** Stays of the latest poured bowls in the window of their kind of chocolate. */
async function staysOfBowls(db: Db): Promise<Warning[]> {
  const bowls = await db
    .select({ id: step.id, details: step.details })
    .from(step)
    .where(and(eq(step.kind, 'temper'), eq(step.status, 'closed'), eq(step.voided, false)))
    .orderBy(desc(step.startedAt), desc(step.id))
    .limit(BOWLS);
  const logs = await bowlLogs(
    db,
    bowls.map((b) => b.id),
  );
  return bowls.flatMap(({ id, details }) => {
    const log = logs.find((l) => l.stepId === id);
    const { chocolateType = 'dark', method = 'seed' } = readDetails(details);
    if (!log || method === 'none') return [];
    return windowStays(
      log.points.map(([seconds, celsius]) => ({ seconds, celsius })),
      chocolateType,
    );
  });
}

/** Whether beans that dried here stood moist for too long, and whether that was said beforehand. */
async function mouldOfDryings(db: Db): Promise<Warning[]> {
  return (await weighedDryings(db)).flatMap(({ weighings }) => mouldSeen(weighings) ?? []);
}

/** Every kind of warning that can be looked back on from what was measured; a kind that had nothing to warn of is left out. */
export async function warningBook(db: Db): Promise<WarningBook> {
  const told = [
    { kind: 'bowl-window', station: 'temper', unit: 1, warnings: await staysOfBowls(db) },
    { kind: 'drying-mould', station: 'beans', unit: 3600, warnings: await mouldOfDryings(db) },
  ] as const;
  return told.flatMap(({ kind, station, unit, warnings }) => {
    if (warnings.length === 0) return [];
    const of = warnedOf(warnings);
    const lead = usualLead(of);
    return [
      {
        kind,
        station,
        happened: of.happened,
        inTime: of.inTime,
        leadSeconds: lead === null ? null : lead * unit,
        quiet: of.quiet,
        false: of.false,
      },
    ];
  });
}

/** How good the warnings have been here. */
export function warningRoutes(app: App): void {
  app.get(
    '/api/warnings',
    {
      config: { cached: true },
      schema: {
        tags: ['ledger'],
        summary:
          'Warnings looked back on: what was said beforehand of what came, and what was warned of for nothing',
        response: { 200: WarningBook },
      },
    },
    (request) => warningBook(request.store.db),
  );
}
