import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { BatchBrief, ParcelRecord, TraceView } from '@wunsch/contract';
import { parcel } from '../db/schema/index.ts';
import { DATABASES, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('lists that grow with the years, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let lot: Awaited<ReturnType<Maker['lot']>>;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    lot = await maker.lot('NK', 40);
    for (const code of ['NK-01', 'NK-02', 'nk-03', 'NKO-9', 'N%-1', 'N_-1']) await maker.batch(code, lot.id);
  });
  afterAll(() => shop.close());

  const codes = async (query: string) => {
    const { status, body } = await shop.send('GET', `/api/batches?${query}`);
    expect(status).toBe(200);
    return (body as BatchBrief[]).map((b) => b.code).sort();
  };

  test('batches are told by what their codes begin with, letters alike, marks as they are', async () => {
    expect(await codes('code=NK-')).toEqual(['NK-01', 'NK-02', 'nk-03']);
    expect(await codes('code=NK')).toEqual(['NK-01', 'NK-02', 'NKO-9', 'nk-03']);
    expect(await codes(`code=${encodeURIComponent('N%')}`)).toEqual(['N%-1']);
    expect(await codes('code=N_')).toEqual(['N_-1']);
    expect(await codes(`code=${encodeURIComponent('\\')}`)).toEqual([]);
    expect(await codes('limit=2')).toEqual(['N%-1', 'N_-1'].sort());
    expect(await codes('limit=20000')).toHaveLength(6);
    expect((await shop.send('GET', '/api/batches?limit=20001')).status).toBe(422);
  });

  test('a list says of each batch what its own page says', async () => {
    const recipe = v7();
    await shop.send('PUT', `/api/recipes/${recipe}`, {
      name: 'Rustic',
      tempered: false,
      conched: true,
      lines: [
        {
          ingredientId: (await shop.send('GET', '/api/ingredients')).body.find(
            (i: { key: string }) => i.key === 'nibs',
          ).id,
          massMg: kg(1),
        },
      ],
    });
    const id = await maker.batch('NK-20', lot.id, { recipeId: recipe });
    const [brief] = ((await shop.send('GET', '/api/batches?code=NK-20')).body as BatchBrief[])!;
    const { batch } = (await shop.send('GET', `/api/batches/${id}`)).body;
    expect(brief).toEqual(expect.objectContaining({ route: batch.route, barMg: batch.barMg, id }));
    expect(brief!.route).toContain('conche');
    expect(brief!.route).not.toContain('temper');
  });

  test('with thousands of bags of husk about, the beans that came in today can still be weighed in', async () => {
    const [beans] = await shop.store.db.select({ stepId: parcel.stepId }).from(parcel);
    const { stepId } = beans!;
    const husk = Array.from({ length: 3000 }, (_, i) => ({
      id: v7(),
      material: 'husk' as const,
      label: '',
      remainingMg: 500_000,
      madeAt: new Date(Date.UTC(2020, 0, 1) + i * 3_600_000).toISOString(),
      stepId,
      batchId: null,
      lotId: null,
    }));
    for (let i = 0; i < husk.length; i += 500)
      await shop.store.db.insert(parcel).values(husk.slice(i, i + 500));
    const of = async (query: string) => (await shop.send('GET', `/api/stock${query}`)).body as ParcelRecord[];
    const all = await of('');
    // Lots all come along, of the rest the newest; told oldest first.
    expect([all.length, all.filter((p) => p.material === 'husk').length]).toEqual([2000, 1999]);
    expect(all.map((p) => p.madeAt)).toEqual(all.map((p) => p.madeAt).sort());
    expect(all.some((p) => p.id === lot.parcelId)).toBe(true);
    expect(all.some((p) => p.id === husk.at(-1)!.id)).toBe(true);
    const work = await of('?of=work');
    expect(work.map((p) => p.id)).toEqual([lot.parcelId]);
    await shop.store.db.update(parcel).set({ onHold: true }).where(eq(parcel.id, lot.parcelId));
    await maker.batch('NK-30', lot.id);
    expect((await of('?of=work')).map((p) => p.onHold)).toEqual([true]);
    const book = (await shop.send('GET', '/api/stock-items')).body as { id: string }[];
    expect(book.some((p) => p.id === lot.parcelId)).toBe(true);
  });

  // Midnight of Greenwich is the evening before in America.
  test('what came on a day says the day wherever it is listed, and no hour', async () => {
    const day = (await shop.send('GET', `/api/lots/${lot.id}`)).body.lot.receivedOn as string;
    expect(day).toMatch(/^\d{4}-\d\d-\d\d$/);
    const listed = async (path: string) =>
      ((await shop.send('GET', path)).body as ParcelRecord[]).find((p) => p.id === lot.parcelId)!.madeAt;
    expect([await listed('/api/stock'), await listed('/api/stock-items')]).toEqual([day, day]);
    await shop.store.db.update(parcel).set({ onHold: false }).where(eq(parcel.id, lot.parcelId));
    const id = await maker.batch('NK-40', lot.id);
    const step = await maker.step(id, 'roast');
    await maker.take(step, lot.parcelId, 1);
    await maker.make(step, 'roasted beans', 0.9);
    await maker.close(step, 'moisture');
    const { steps } = (await shop.send('GET', '/api/trace?of=code&id=NK-40&way=back')).body as TraceView;
    expect(steps.find((s) => s.kind === 'receive')?.startedAt).toBe(day);
    expect(steps.find((s) => s.kind === 'roast')?.startedAt).toMatch(/T.*Z$/);
    // What was made here has its hour.
    const chocolate = ((await shop.send('GET', '/api/stock')).body as ParcelRecord[]).find(
      (p) => p.batchCode === 'NK-40',
    );
    expect(chocolate?.madeAt).toMatch(/T.*Z$/);
  });
});
