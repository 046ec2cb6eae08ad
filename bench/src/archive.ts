import { createReadStream, mkdtempSync, rmSync, statSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { PassThrough } from 'node:stream';
import { gzipSync } from 'node:zlib';
import { getTableName, is, sql } from 'drizzle-orm';
import { PgTable } from 'drizzle-orm/pg-core';
import { fillSaltmarsh } from '@wunsch/demo';
import { openEmbedded, restoreArchive, schema, writeArchive, type Store } from '@wunsch/server';
import { printTable } from './table.ts';
import { take, type Taken } from './take.ts';
import { makeTenYears } from './tenYears.ts';

/** The archive, part by part as it is made. */
function streamed(store: Store): AsyncIterable<Uint8Array> {
  const out = new PassThrough();
  void writeArchive(store.db, {
    now: Date.now(),
    take: async (zip) => {
      for await (const part of zip) if (!out.write(part)) await new Promise((r) => out.once('drain', r));
      out.end();
    },
  }).catch((error: unknown) => out.destroy(error as Error));
  return out;
}

/** The plain way: all rows of each table at once, as one text, packed whole. */
async function* gathered(store: Store): AsyncGenerator<Uint8Array> {
  for (const table of Object.values(schema as Record<string, unknown>)) {
    if (!is(table, PgTable)) continue;
    const name = getTableName(table);
    const { rows } = (await store.db.execute(
      sql`select coalesce(json_agg(to_jsonb(t)), '[]')::text as all from ${sql.identifier(name)} t`,
    )) as unknown as { rows: { all: string }[] };
    yield gzipSync(rows[0]!.all);
  }
}

/** Ten years taken away as one file and put back, beside gathering each table whole. */
export async function archive(): Promise<void> {
  const folder = mkdtempSync(join(tmpdir(), 'wunsch-bench-'));
  const store = await openEmbedded({ directory: join(folder, 'ten'), snapshotAfter: Infinity });
  await fillSaltmarsh(store, { now: Date.now() });
  const made = await makeTenYears(store, 3000);
  const file = join(folder, 'ten.zip');
  const written = await take(() => streamed(store));
  const whole = await take(() => gathered(store));
  // Once more to a file, to be put back from.
  await writeArchive(store.db, {
    now: Date.now(),
    take: async (zip) => {
      const parts: Buffer[] = [];
      for await (const part of zip) parts.push(part as Buffer);
      writeFileSync(file, Buffer.concat(parts));
    },
  });
  await store.close();
  const back = await take(async () => {
    await restoreArchive(file, join(folder, 'back'));
    return createReadStream(file);
  });
  back.bytes = statSync(file).size;
  rmSync(folder, { recursive: true, force: true });
  const row = (name: string, r: Taken) => [
    name,
    `${r.seconds.toFixed(1)} s`,
    `${(r.bytes / 1e6).toFixed(0)} MB`,
    `${(r.extra / 1e6).toFixed(0)} MB`,
  ];
  printTable(
    `Ten years as one file: ${made.batches} batches, ${made.movements} movements, ${made.readings} readings`,
    [
      ['how', 'time', 'file', 'memory over the beginning'],
      row('archive, part by part (ours)', written),
      row('each table gathered whole', whole),
      row('put back into an empty directory', back),
    ],
  );
}
