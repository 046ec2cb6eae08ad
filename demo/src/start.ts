import { spawn } from 'node:child_process';
import { existsSync, rmSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { and, eq } from 'drizzle-orm';
import { newDeviceToken, schema, serve, tokenHash, type Store } from '@wunsch/server';
import { writeCases } from './cases.ts';
import { writeClasses } from './classes.ts';
import { writeSkills } from './skills.ts';
import { writeHarvest } from './harvest.ts';
import { writePressing, writeWatch } from './watch.ts';
import { acceptPlan } from './orders.ts';
import { takeStock } from './sales.ts';
import { HIDDEN_OVEN } from './roast.ts';
import { fillSaltmarsh } from './saltmarsh.ts';

const directory = process.env.WUNSCH_DATA ?? 'data/demo';
if (process.argv.includes('--fresh')) rmSync(directory, { recursive: true, force: true });

/** After so long, s, beans left in the oven are no demonstration any more. */
const LONGEST_ROAST = 3 * 3600;

/** Lets the load in the oven go on: the oven stand-in takes over with the oven's hidden figures, through the same door as a real board. */
async function carryOnRoasting(store: Store): Promise<void> {
  const oven = fileURLToPath(new URL('../../standins/dist/oven.js', import.meta.url));
  const [running] = await store.db
    .select({ startedAt: schema.step.startedAt, machineId: schema.step.machineId })
    .from(schema.step)
    .where(and(eq(schema.step.station, 'roast'), eq(schema.step.status, 'open')));
  const [owner] = await store.db.select({ id: schema.person.id }).from(schema.person);
  if (!running?.machineId || !owner || !existsSync(oven)) return;
  const from = Math.round((Date.now() - Date.parse(running.startedAt)) / 1000);
  if (from > LONGEST_ROAST) return;
  const token = newDeviceToken();
  await store.writer.submit({
    kind: 'machine.token',
    target: running.machineId,
    actor: { id: owner.id, initials: 'AK', role: 'owner' },
    body: { tokenHash: tokenHash(token) },
  });
  const url = `http://127.0.0.1:${process.env.PORT ?? '4310'}`;
  const child = spawn(
    process.execPath,
    [
      oven,
      '--token',
      token,
      '--url',
      url,
      '--from',
      String(from),
      '--figures',
      HIDDEN_OVEN.join(','),
      '--load',
      '2.9',
      '--beans',
      '88',
      '--moisture',
      '7.1',
      '--every',
      '3',
      '--after',
      '180',
    ],
    { stdio: 'ignore' },
  );
  child.unref();
  process.once('exit', () => child.kill());
}

await serve({
  directory,
  onOpen: async (store) => {
    const [there] = await store.db.select().from(schema.workshop);
    if (there) {
      console.log(
        'the demo workshop as you left it; npm run demo -- --fresh makes it anew, dated from today',
      );
      await carryOnRoasting(store);
      return;
    }
    const count = await fillSaltmarsh(store, { now: Date.now() });
    console.log(`made Saltmarsh Row from ${count} entries`);
    await takeStock(store);
    await writeSkills(store, Date.now());
    await writeWatch(store, Date.now());
    await writePressing(store, Date.now());
    await writeHarvest(store, Date.now());
    await writeCases(store, Date.now());
    await writeClasses(store, Date.now());
    await acceptPlan(store, Date.now());
    await carryOnRoasting(store);
  },
});
