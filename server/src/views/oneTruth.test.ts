import { v7 } from 'uuid';
import type { BatchView, BenchView, RoastRecord, StockItem, TastedBatch } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what is to be expected of a batch, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  /** A finished batch that was sorted, with a yield. */
  async function sorted(code: string, lot: { id: string; parcelId: string }, share: number) {
    const batch = await maker.batch(code, lot.id);
    const step = await maker.step(batch, 'sort');
    await maker.take(step, lot.parcelId, 1);
    await maker.make(step, 'sorted beans', share);
    await maker.close(step, 'unexplained');
    await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'finished' });
  }

  test('is the same on the Bench as on its own page, whichever other lots are at work', async () => {
    const lots = [await maker.lot('AA', 90), await maker.lot('BB', 90), await maker.lot('CC', 90)];
    const shares = [0.99, 0.93, 0.86];
    for (let n = 0; n < 8; n += 1)
      for (const [i, lot] of lots.entries())
        await sorted(`${'ABC'[i]}-${n}`, lot, shares[i]! - 0.004 * (n % 3));
    const open = [
      await maker.batch('A-now', lots[0]!.id, { plannedMg: 10_000_000 }),
      await maker.batch('B-now', lots[1]!.id, { plannedMg: 10_000_000 }),
    ];
    const bench: BenchView = (await shop.send('GET', '/api/bench')).body;
    expect(bench.batches.map((b) => b.id).sort()).toEqual([...open].sort());
    for (const { id, flow } of bench.batches) {
      const page: BatchView = (await shop.send('GET', `/api/batches/${id}`)).body;
      expect(page.flow).toEqual(flow);
    }
    const sortedOf = (id: string) =>
      bench.batches.find((b) => b.id === id)!.flow.stations.find((s) => s.station === 'sort')!.expected
        .meanMg;
    // Lots that were sorted harder are expected to give less.
    expect(sortedOf(open[1]!)).toBeLessThan(sortedOf(open[0]!));
  });

  test('a batch that was tasted asks for it nowhere, and is liked as much on every page', async () => {
    const lot = await maker.lot('DD', 90);
    const batch = await maker.batch('D-1', lot.id);
    const before = (hours: number) => new Date(Date.now() - hours * 3_600_000).toISOString();
    const roast = await maker.step(batch, 'roast', { startedAt: before(15) });
    await maker.take(roast, lot.parcelId, 2);
    const roasted = await maker.make(roast, 'roasted beans', 1.9);
    await maker.close(roast, 'moisture');
    const winnow = await maker.step(batch, 'winnow', { startedAt: before(14) });
    await maker.take(winnow, roasted.parcelId, 1.9);
    const nibs = await maker.make(winnow, 'nibs', 1.5);
    await maker.close(winnow, 'husk');
    const grind = await maker.step(batch, 'grind', { startedAt: before(12) });
    await maker.take(grind, nibs.parcelId, 1.5);
    await maker.note(grind, { kind: 'pause' }, before(9));
    await maker.note(grind, { kind: 'resume' }, before(5));
    const chocolate = await maker.make(grind, 'chocolate', 1.4);
    await maker.close(grind, 'machine hold-up');
    const mould = await maker.step(batch, 'mould', { details: { bestBefore: '2027-05-01' } });
    await maker.take(mould, chocolate.parcelId, 1.4);
    await maker.make(mould, 'bars', 1.4, { count: 28, place: 'shelf' });
    await maker.close(mould);

    const pages = async () => {
      const bench: BenchView = (await shop.send('GET', '/api/bench')).body;
      const onBench = bench.batches.find((b) => b.id === batch)!;
      const page: BatchView = (await shop.send('GET', `/api/batches/${batch}`)).body;
      expect([onBench.next, onBench.flow]).toEqual([page.next, page.flow]);
      return page;
    };
    expect((await pages()).next.code).toBe('taste');

    // In a session that is not open yet nothing has been said.
    const table = await maker.tableSet([{ batchId: batch }, { other: { maker: 'Harbour Lane' } }]);
    const quick = (liking: number) => ({ form: 'quick', sour: 3, grit: 1, liking });
    for (const place of [1, 2]) await maker.paperCard(table, place, quick(8));
    expect((await pages()).next.code).toBe('taste');
    await maker.opened(table);
    const tasted = await pages();
    expect(tasted.next.code).toBe('nothing');
    expect(tasted.impressions).toEqual([
      expect.objectContaining({ by: 'Mia', liking: 8, session: 1, sessionId: table.sessionId }),
    ]);
    await shop.send('PUT', `/api/tastings/${v7()}`, { batchId: batch, card: quick(5) });
    expect((await pages()).tastings).toHaveLength(1);

    await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'finished' });
    const read = async (url: string) =>
      ((await shop.send('GET', url)).body as { batchId: string; hours: number; liking: number }[]).find(
        (b) => b.batchId === batch,
      )!;
    const all = (await shop.send('GET', '/api/tasted-batches')).body as TastedBatch[];
    const { cards, hours, bestBefore } = all.find((b) => b.batchId === batch)!;
    const stock = (await shop.send('GET', '/api/stock-items')).body as StockItem[];
    const bars = stock.find((i) => i.batchId === batch && i.material === 'bars')!;
    expect([bestBefore, bars.bestBefore]).toEqual(['2027-05-01', '2027-05-01']);
    expect(cards.map((c) => c.liking).sort()).toEqual([5, 8]);
    const conched = await read('/api/conches');
    // The four hours it stood are not among those it ran.
    expect([conched.liking, conched.hours]).toEqual([6.5, hours]);
    expect(hours).toBeCloseTo(8, 2);
    const roasts = (await shop.send('GET', `/api/roasts?batchId=${batch}&limit=5&width=10`))
      .body as RoastRecord[];
    expect(roasts.map((r) => [r.liking, r.tastings, r.sourness])).toEqual([[6.5, 2, 3]]);
  });

  test('as many bars are to be expected while a recipe is weighed in as before, and where its sugar goes in at the grinder', async () => {
    const nibs = await maker.lot('WEI', 20, { material: 'nibs' });
    const shelf = (await shop.send('GET', '/api/ingredients')).body as { id: string; key: string }[];
    const id = (key: string) => shelf.find((x) => x.key === key)!.id;
    const recipeId = v7();
    const lines = [
      { ingredientId: id('nibs'), massMg: 6_500_000 },
      { ingredientId: id('cane-sugar'), massMg: 3_000_000 },
      { ingredientId: id('cocoa-butter'), massMg: 500_000 },
    ];
    expect((await shop.send('PUT', `/api/recipes/${recipeId}`, { name: 'Weighed 70', lines })).status).toBe(
      201,
    );
    const batch = await maker.batch('WEI-01', nibs.id, { recipeId, plannedMg: kg(6.5) });
    const bars = async () => {
      const { low, high } = ((await shop.send('GET', `/api/batches/${batch}`)).body as BatchView).flow
        .barsExpected!;
      return (low + high) / 2;
    };
    const before = await bars();
    const about = () => expect.closeTo(before, -1);
    expect(before).toBeGreaterThan(100);
    const bowl = await maker.step(batch, 'recipe');
    await maker.take(bowl, nibs.parcelId, 6.5);
    expect(await bars()).toEqual(about());
    await maker.weigh(bowl, 'cocoa-butter', 0.5);
    expect(await bars()).toEqual(about());
    const charge = await maker.make(bowl, 'charge', 7);
    await maker.close(bowl);
    expect(await bars()).toEqual(about());
    const grind = await maker.step(batch, 'grind');
    await maker.take(grind, charge.parcelId, 7);
    expect(await bars()).toEqual(about());
    await maker.weigh(grind, 'cane-sugar', 3);
    expect(await bars()).toEqual(about());
  });
});
