import type { PGlite } from '@electric-sql/pglite';
import { startPglite } from './pglite.ts';
import { withPreparedStatements } from './prepared.ts';
import { emptyArchive } from './template.ts';

let bare: PGlite;
let prepared: PGlite;

beforeAll(async () => {
  bare = await startPglite(undefined, { loadDataDir: await emptyArchive('bare') });
  await bare.exec(
    `create table thing (id int primary key, name text, at timestamptz, tags text[], share float8, big bigint,
     data jsonb, yes boolean); create table counter (n int)`,
  );
  prepared = withPreparedStatements(bare).client;
});
afterAll(() => bare.close());

const ROW = [
  1,
  'Müller’s “77 %”',
  '2026-11-25T10:00:00.000Z',
  ['a', 'b,c', 'd"e'],
  0.1,
  9_007_199_254_740_991,
  { deep: [1, null, 'ü'] },
  true,
];

test('answers are those of the bare database: types, nulls, objects and arrays of rows, and how many were changed', async () => {
  const insert = 'insert into thing values ($1, $2, $3, $4, $5, $6, $7, $8)';
  expect((await prepared.query(insert, ROW)).affectedRows).toBe(1);
  await prepared.query(insert, [2, ...ROW.slice(1).map(() => null)]);
  for (const rowMode of ['array', 'object'] as const)
    for (const text of [
      'select * from thing order by id',
      'select count(*) as n, max(at) from thing where id > $1',
    ]) {
      const values = text.includes('$1') ? [0] : [];
      const wanted = await bare.query(text, values, { rowMode });
      for (let again = 0; again < 3; again += 1) {
        const found = await prepared.query(text, values, { rowMode });
        expect(found.rows).toEqual(wanted.rows);
        expect(found.fields).toEqual(wanted.fields);
      }
    }
  const updated = await prepared.query('update thing set share = share + $1 where id < $2', [1, 9]);
  expect(updated.affectedRows).toBe(2);
  expect((await prepared.query('delete from thing where id = $1 returning name', [2])).rows).toEqual([
    { name: null },
  ]);
});

test('a refusal carries its code, ends the transaction, and leaves the statement fit for use', async () => {
  const insert = 'insert into thing (id) values ($1)';
  await expect(prepared.query(insert, [1])).rejects.toMatchObject({ code: '23505' });
  await expect(
    prepared.transaction(async (tx) => {
      await tx.query('insert into counter values ($1)', [1]);
      await tx.query(insert, [1]);
    }),
  ).rejects.toMatchObject({ code: '23505' });
  expect((await prepared.query('select * from counter')).rows).toEqual([]);
  await expect(prepared.query('select no_such_thing')).rejects.toMatchObject({ code: '42703' });
  expect((await prepared.query(insert, [3])).affectedRows).toBe(1);
});

test('what is behind a savepoint is taken back alone', async () => {
  await prepared.transaction(async (tx) => {
    await tx.query('insert into counter values ($1)', [7]);
    await tx.query('savepoint one');
    await tx.query('insert into thing (id) values ($1)', [1]).catch(() => undefined);
    await tx.query('rollback to savepoint one');
  });
  expect((await prepared.query('select n from counter')).rows).toEqual([{ n: 7 }]);
});

test('nothing from outside comes between the parts of a transaction', async () => {
  const seen: number[] = [];
  const change = (n: number) =>
    prepared.transaction(async (tx) => {
      const [row] = (await tx.query<{ n: number }>('select n from counter')).rows;
      await new Promise((resolve) => setTimeout(resolve, 2));
      await tx.query('update counter set n = $1', [row!.n + n]);
      seen.push(n);
    });
  const looks = Array.from({ length: 10 }, async (_, i) => {
    await new Promise((resolve) => setTimeout(resolve, i));
    return (await prepared.query<{ n: number }>('select n from counter')).rows[0]!.n;
  });
  await Promise.all([change(1), change(10), change(100), ...looks]);
  expect(seen).toEqual([1, 10, 100]);
  for (const look of await Promise.all(looks)) expect([7, 8, 18, 118]).toContain(look);
});

test('more statements than are kept still answer', async () => {
  for (let i = 0; i < 900; i += 1) {
    const { rows } = await prepared.query(`select ${i % 450} as n, $1::int as m`, [i]);
    expect(rows).toEqual([{ n: i % 450, m: i }]);
  }
  const kept = await bare.query<{ n: string }>('select count(*)::text as n from pg_prepared_statements');
  expect(Number(kept.rows[0]!.n)).toBeLessThanOrEqual(401);
});
