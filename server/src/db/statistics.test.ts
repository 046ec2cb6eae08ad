import { sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { rowsOf } from './raw.ts';
import { refreshStatistics } from './statistics.ts';

describe('what an embedded database knows of its tables', () => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop('embedded');
  });
  afterAll(() => shop.close());

  const known = async () =>
    Number(
      rowsOf<{ n: string }>(
        await shop.store.db.execute(
          sql`select reltuples as n from pg_class where relname = 'movement' and relkind = 'r'`,
        ),
      )[0]!.n,
    );
  const take = (body: object) => shop.send('PUT', `/api/imports/${v7()}`, body);

  test('it is counted anew as it grows, by itself, and looks things up from then on', async () => {
    expect(await known()).toBeLessThanOrEqual(0);
    await take({
      of: 'lots',
      file: 'a.csv',
      rows: [{ row: 2, code: 'NK', name: 'Nkondo', receivedOn: '2024-02-13', massMg: 900_000_000 }],
    });
    const rows = Array.from({ length: 150 }, (_, i) => ({
      row: i + 2,
      code: `NK-${i}`,
      lot: 'NK',
      startedOn: '2024-03-01',
      beansMg: 2_500_000,
      roastedMg: 2_360_000,
      nibsMg: 1_870_000,
      chocolateMg: 1_800_000,
      bars: 25,
      barMg: 70_000,
    }));
    expect((await take({ of: 'batches', file: 'b.csv', rows })).status).toBe(201);
    await shop.store.writer.settled();
    expect(await known()).toBeGreaterThan(1000);
    // A join that an empty table would have it read from end to end.
    const plan = rowsOf<{ 'QUERY PLAN': string }>(
      await shop.store.db.execute(
        sql.raw(`explain select m.id from movement m join parcel p on p.id = m.parcel_id
          where p.step_id = '${v7()}' and m.direction = 'in' and m.replaced_by is null and not m.voided limit 1`),
      ),
    )
      .map((r) => r['QUERY PLAN'])
      .join('\n');
    expect(plan).not.toContain('Seq Scan');
    expect(await refreshStatistics(shop.store.db)).toEqual([]);
  });
});
