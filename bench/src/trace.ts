import { eq, sql } from 'drizzle-orm';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fillSaltmarsh } from '@wunsch/demo';
import { loadProof, loadStockItems, openEmbedded, schema, traceView, type Store } from '@wunsch/server';
import { median, ms, printTable, time } from './table.ts';
import { makeTenYears } from './tenYears.ts';

/** A walk by hand: from parcel to parcel, a question for each, as with a card index. Gives the batches and bars it reached. */
async function walk(db: Store['db'], root: string): Promise<{ batches: number; bars: number }> {
  const { movement, parcel, step } = schema;
  const seen = new Set<string>([root]);
  const steps = new Set<string>();
  const batches = new Set<string>();
  let bars = 0;
  const open = [root];
  while (open.length > 0) {
    const id = open.pop()!;
    const users = await db.select().from(movement).where(eq(movement.parcelId, id));
    for (const use of users) {
      if (use.direction !== 'in' || use.voided || use.replacedBy || steps.has(use.stepId)) continue;
      steps.add(use.stepId);
      const [at] = await db.select().from(step).where(eq(step.id, use.stepId));
      if (at?.batchId) batches.add(at.batchId);
      for (const out of await db.select().from(movement).where(eq(movement.stepId, use.stepId))) {
        if (out.direction !== 'out' || out.voided || out.replacedBy || !out.parcelId) continue;
        const [made] = await db.select().from(parcel).where(eq(parcel.id, out.parcelId));
        if (made?.material === 'bars' && at?.kind === 'mould') bars += out.count ?? 0;
        if (!seen.has(out.parcelId)) {
          seen.add(out.parcelId);
          open.push(out.parcelId);
        }
      }
    }
  }
  return { batches: batches.size, bars };
}

/** A recall on ten years, against a walk from parcel to parcel that must find the same; and the pages of the stock beside it. */
export async function trace(): Promise<void> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  const store = await openEmbedded({ directory, snapshotAfter: Infinity });
  await fillSaltmarsh(store, { now: Date.now() });
  const made = await makeTenYears(store, 3000);
  const rows = [['', 'batches', 'bars', 'time, median of 5', 'walk from parcel to parcel']];
  for (const code of ['TL', 'GH']) {
    const [lot] = await store.db.select().from(schema.lot).where(eq(schema.lot.code, code));
    if (!lot) continue;
    const query = { of: 'lot', id: lot.id, way: 'forward' } as const;
    const view = await traceView(store.db, query);
    const times = await time(5, () => traceView(store.db, query));
    const begun = performance.now();
    const byHand = await walk(store.db, lot.parcelId);
    const walked = performance.now() - begun;
    if (byHand.bars !== view.recall!.bars.made || byHand.batches !== view.recall!.batches.length)
      throw new Error(
        `the walk found ${JSON.stringify(byHand)}, the trace ${JSON.stringify(view.recall!.bars)}`,
      );
    rows.push([
      `recall of lot ${code}`,
      String(byHand.batches),
      String(byHand.bars),
      ms(median(times)),
      ms(walked),
    ]);
  }
  const [bars] = (
    (await store.db.execute(
      sql`select id from parcel where material = 'bars' order by made_at desc limit 1`,
    )) as unknown as { rows: { id: string }[] }
  ).rows;
  rows.push([
    'bars back to their sack',
    '',
    '',
    ms(median(await time(5, () => traceView(store.db, { of: 'parcel', id: bars!.id, way: 'back' })))),
    '',
  ]);
  rows.push(['everything on hand', '', '', ms(median(await time(3, () => loadStockItems(store.db)))), '']);
  rows.push(['proof of the books', '', '', ms(median(await time(3, () => loadProof(store.db)))), '']);
  printTable(`Trace over ten years: ${made.batches} batches, ${made.movements} movements`, rows);
  await store.close();
  rmSync(directory, { recursive: true, force: true });
}
