import { v7 } from 'uuid';
import {
  LotUpdate,
  type BatchCost,
  type BatchSpending,
  type BatchView,
  type IngredientRecord,
  type LotView,
  type MachineView,
  type StockValues,
  type UsualWork,
} from '@wunsch/contract';
import { totalCost } from '@wunsch/core/cost';
import { loadPast } from '../plan/ledgerReads.ts';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what bars cost on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const put = async (path: string, body: object) => {
    const id = v7();
    const answer = await shop.send('PUT', `${path}/${id}`, body);
    if (answer.status >= 300) throw new Error(JSON.stringify(answer.body));
    return id;
  };
  const costs = async () => (await shop.send('GET', '/api/costs')).body as BatchCost[];

  test('an empty workshop has no costs; a batch has them by hand, and what each channel brought', async () => {
    expect(await costs()).toEqual([]);
    const [ida] = (await shop.send('GET', '/api/machines')).body as { id: string; version: number }[];
    const machine = await shop.send(
      'PUT',
      `/api/machines/${ida!.id}`,
      { name: 'Ida', station: 'grind', price: 100_000, resale: 20_000, lifeKg: 2000, watts: 500 },
      { 'if-match': String(ida!.version) },
    );
    expect(machine.status).toBe(201);
    // 10 kg of nibs at 9.00, three hours of Ida, 10 min of hands (Maker closes with 10), to 9 kg of chocolate.
    const lot = await maker.lot('NK', 40, { material: 'nibs' });
    const batch = await maker.batch('NK-01', lot.id);
    const grind = await maker.step(batch, 'grind', { machineId: ida!.id, startedAt: '2026-10-01T08:00:00Z' });
    await maker.take(grind, lot.parcelId, 10);
    const chocolate = await maker.make(grind, 'chocolate', 9);
    await shop.send('PUT', `/api/steps/${grind}/close`, {
      remainder: 'hold-up',
      remainderId: v7(),
      handsOnMinutes: 20,
      endedAt: '2026-10-01T11:00:00Z',
    });
    const mould = await maker.step(batch, 'mould');
    await maker.take(mould, chocolate.parcelId, 9);
    const bars = await maker.make(mould, 'bars', 9, { count: 180 });
    await maker.close(mould, null, 40);
    const [plain] = await costs();
    expect(plain).toMatchObject({
      code: 'NK-01',
      bars: 180,
      onHand: 180,
      unpaid: 0,
      channels: [],
      barMg: 50_000,
    });
    expect(plain!.bar.beans).toBeCloseTo(9000 / 180, 6);
    expect(plain!.unpriced).toEqual([]);
    expect(plain!.bar.labour).toBeCloseTo((60 / 60) * (1500 / 180), 6);
    expect(plain!.bar.machines).toBeCloseTo((10 * 40) / 180, 6);
    // Nothing was wrapped: the workshop’s usual stands for it.
    expect(plain!.bar.packaging).toBe(30);
    expect(plain!.bar.energy).toBe(0);

    // By when they were begun, so that a year long past has its own.
    const begun = async (query: string) =>
      ((await shop.send('GET', `/api/costs?${query}`)).body as BatchCost[]).map((c) => c.code);
    const year = new Date().getUTCFullYear();
    expect(await begun(`from=${year - 1}-01-01&before=${year + 1}-01-02&limit=1000`)).toEqual(['NK-01']);
    expect(await begun(`before=${year - 1}-01-01`)).toEqual([]);
    expect(await begun(`from=${year + 1}-01-02`)).toEqual([]);
    expect((await shop.send('GET', '/api/costs?from=yesterday')).status).toBe(422);

    const customerId = await put('/api/customers', { name: 'Café', channel: 'trade' });
    const out = v7();
    const delivery = await put('/api/deliveries', {
      customerId,
      lines: [{ parcelId: bars.parcelId, count: 100, price: 400, stepId: out, takenId: v7(), lossId: v7() }],
    });
    await put('/api/leaves', {
      parcelId: bars.parcelId,
      count: 10,
      destination: 'sold',
      fetched: 5600,
      takenId: v7(),
      lossId: v7(),
    });
    await put('/api/leaves', {
      parcelId: bars.parcelId,
      count: 5,
      destination: 'gift',
      takenId: v7(),
      lossId: v7(),
    });
    await put('/api/returns', {
      deliveryId: delivery,
      lines: [{ stepId: out, count: 20, parcelId: v7(), madeId: v7(), lossId: v7() }],
    });
    const [sold] = await costs();
    expect(sold!.channels).toEqual([
      { channel: 'trade', bars: 80, fetched: 32_000 },
      { channel: 'counter', bars: 10, fetched: 5600 },
    ]);
    expect(sold).toMatchObject({ bars: 180, onHand: 85, unpaid: 5 });
    // Selling changes nothing of what a bar cost.
    expect(totalCost(sold!.bar)).toBeCloseTo(totalCost(plain!.bar), 6);
    expect((await shop.send('GET', `/api/costs?batchId=${batch}`)).body).toEqual([sold]);
    expect((await shop.send('GET', `/api/costs?batchId=${v7()}`)).body).toEqual([]);
  });

  test('a machine that stood in between drew nothing meanwhile', async () => {
    const session = (await shop.send('GET', '/api/session')).body as { workshop: Record<string, unknown> };
    const { version, createdAt: _, ...settings } = session.workshop;
    const changed = { ...settings, energyPrice: 40 };
    const told = await shop.send('PUT', '/api/workshop', changed, { 'if-match': `"${String(version)}"` });
    expect(told.status).toBeLessThan(300);
    const machineId = v7();
    const facts = { name: 'Otto', station: 'grind', kind: 'stone grinder', watts: 1000 };
    await shop.send('PUT', `/api/machines/${machineId}`, facts);
    const lot = await maker.lot('PAU', 20, { material: 'nibs' });
    const energyOf = async (code: string, notes: readonly [kind: string, at: string][]) => {
      const batchId = await maker.batch(code, lot.id);
      const grind = await maker.step(batchId, 'grind', { machineId, startedAt: '2026-10-01T08:00:00Z' });
      await maker.take(grind, lot.parcelId, 5);
      const chocolate = await maker.make(grind, 'chocolate', 5);
      for (const [kind, at] of notes)
        await put('/api/observations', { batchId, stepId: grind, data: { kind }, at });
      await shop.send('PUT', `/api/steps/${grind}/close`, {
        remainder: null,
        remainderId: v7(),
        handsOnMinutes: 0,
        endedAt: '2026-10-02T08:00:00Z',
      });
      const mould = await maker.step(batchId, 'mould');
      await maker.take(mould, chocolate.parcelId, 5);
      await maker.make(mould, 'bars', 5, { count: 100 });
      await maker.close(mould, null, 0);
      return (await costs()).find((c) => c.code === code)!.bar.energy * 100;
    };
    // 24 kWh at 40; then ten hours of the night at rest.
    expect(await energyOf('PAU-01', [])).toBeCloseTo(24 * 40, 6);
    const night: [string, string][] = [
      ['pause', '2026-10-01T21:00:00Z'],
      ['resume', '2026-10-02T07:00:00Z'],
    ];
    expect(await energyOf('PAU-02', night)).toBeCloseTo(14 * 40, 6);
    // The machine's own page counts the same hours.
    const { totals } = (await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView;
    expect(totals).toMatchObject({ runs: 2, hours: 38, sinceServiceHours: 38 });
  });

  test('a winnower left open over night ran while hands were at it, and the plan learns no more', async () => {
    const machineId = v7();
    const facts = { name: 'Fan', station: 'winnow', kind: 'winnower', watts: 1000 };
    await shop.send('PUT', `/api/machines/${machineId}`, facts);
    const lot = await maker.lot('FAN', 20, { material: 'roasted beans' });
    const batchId = await maker.batch('FAN-01', lot.id);
    const winnow = await maker.step(batchId, 'winnow', { machineId, startedAt: '2026-10-01T17:00:00Z' });
    await maker.take(winnow, lot.parcelId, 5);
    await maker.make(winnow, 'nibs', 4);
    const closed = await shop.send('PUT', `/api/steps/${winnow}/close`, {
      remainder: 'husk',
      remainderId: v7(),
      handsOnMinutes: 45,
      endedAt: '2026-10-02T08:00:00Z',
    });
    expect(closed.status).toBe(201);
    const { totals } = (await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView;
    expect(totals).toMatchObject({ runs: 1, hours: 0.75 });
    const past = await loadPast(shop.store.db);
    expect(past.find((p) => p.machineId === machineId)).toEqual({
      kind: 'winnow',
      machineId,
      kg: 5,
      minutes: 45,
    });
  });

  test('beans and sugar taken in without a price are named, so that nobody takes the bar for cheap', async () => {
    const lot = await maker.lot('FREE', 40, { material: 'nibs', pricePerKg: 0 });
    const batch = await maker.batch('FREE-01', lot.id);
    const grind = await maker.step(batch, 'grind');
    await maker.take(grind, lot.parcelId, 7);
    await maker.weigh(grind, 'cane-sugar', 3);
    const chocolate = await maker.make(grind, 'chocolate', 10);
    await maker.close(grind);
    const mould = await maker.step(batch, 'mould');
    await maker.take(mould, chocolate.parcelId, 10);
    await maker.make(mould, 'bars', 10, { count: 200 });
    const of = async () => (await costs()).find((c) => c.code === 'FREE-01')!;
    expect((await of()).unpriced).toEqual(['FREE lot']);
    expect((await of()).bar.beans).toBe(0);
    const bowl = async () => ((await shop.send('GET', `/api/batches/${batch}`)).body as BatchView).bowl!;
    expect((await bowl()).filter((l) => l.ingredient.isFree)).toEqual([]);
    // A customer's own beans cost nothing, and nobody need be told so of each bar.
    const { lot: now } = (await shop.send('GET', `/api/lots/${lot.id}`)).body as LotView;
    const told = await shop.send(
      'PUT',
      `/api/lots/${lot.id}/facts`,
      { ...LotUpdate.parse(now), isFree: true },
      { 'if-match': `"${now.version}"` },
    );
    expect(told.status).toBe(201);
    expect(await of()).toMatchObject({ unpriced: [], bar: { beans: 0 } });
    expect((await bowl()).map((l) => [l.ingredient.name, l.ingredient.isFree ?? false])).toEqual([
      ['Nibs', true],
      ['Cane sugar', false],
    ]);
  });

  test('what a batch has cost is told the same on its page, in the book, and by what stands in the machine', async () => {
    const spending = async (id: string) =>
      (await shop.send('GET', `/api/batches/${id}/cost`)).body as BatchSpending;
    const values = async () => (await shop.send('GET', '/api/stock-values')).body as StockValues;
    const lot = await maker.lot('SP', 40, { material: 'nibs' });
    const batch = await maker.batch('SP-01', lot.id);
    expect(await spending(batch)).toMatchObject({ bars: 0, bar: null, minutes: 0, spent: { beans: 0 } });
    const grind = await maker.step(batch, 'grind');
    await maker.take(grind, lot.parcelId, 10);
    const inside = (await values()).inside.find((s) => s.batchId === batch)!;
    expect(inside).toMatchObject({ batchCode: 'SP-01', station: 'grind', massMg: 10_000_000, stepId: grind });
    expect(inside.value).toBeCloseTo(9000, 6);
    expect((await spending(batch)).spent.beans).toBeCloseTo(9000, 6);
    const chocolate = await maker.make(grind, 'chocolate', 10);
    await maker.close(grind, null, 60);
    // A fifth of it goes into another batch, and takes its share of beans and hands along.
    const other = await maker.batch('SP-02', lot.id);
    const into = await maker.step(other, 'mould');
    await maker.take(into, chocolate.parcelId, 2);
    const mine = await spending(batch);
    expect(mine.spent.beans).toBeCloseTo(7200, 6);
    expect(mine.spent.labour).toBeCloseTo(1200, 6);
    expect((await spending(other)).spent).toMatchObject({
      beans: expect.closeTo(1800, 6),
      labour: expect.closeTo(300, 6),
    });
    const mould = await maker.step(batch, 'mould');
    await maker.take(mould, chocolate.parcelId, 8);
    const bars = await maker.make(mould, 'bars', 8, { count: 160 });
    await maker.close(mould, null, 0);
    // Sold for more than they cost: what bars fetch is no by-product of their batch.
    await put('/api/leaves', {
      parcelId: bars.parcelId,
      destination: 'sold',
      fetched: 64_000,
      count: 100,
      massMg: 5_000_000,
      takenId: v7(),
      lossId: v7(),
    });
    const sold = await spending(batch);
    const [book] = (await shop.send('GET', `/api/costs?batchId=${batch}`)).body as BatchCost[];
    expect(sold).toMatchObject({ bars: 160, wrapped: 0, spent: { credit: 0 } });
    expect(sold.bar).toEqual(book!.bar);
    expect(sold.bar!.beans).toBeCloseTo(7200 / 160, 6);
    const here = (await values()).items.find((v) => v.parcelId === bars.parcelId)!;
    expect(here.materials).toBeCloseTo((7200 * 60) / 160, 6);
    expect(here.value).toBeGreaterThan(here.materials + (1200 * 60) / 160 - 1e-6);
    expect((await shop.send('GET', `/api/batches/${v7()}/cost`)).status).toBe(404);
  });

  test('usual work is that of finished batches by the kg of bars; what a recipe adds is told of a batch that has one', async () => {
    const usual = async () => (await shop.send('GET', '/api/usual-work')).body as UsualWork;
    const before = await usual();
    expect(before).toEqual({ batches: 0, labourPerKg: {}, energyPerKg: {}, machinesPerKg: {} });
    const machineId = v7();
    // 40 pence are written off for each kg.
    const facts = { name: 'Uta', station: 'grind', watts: 500, price: 100_000, resale: 20_000, lifeKg: 2000 };
    await shop.send('PUT', `/api/machines/${machineId}`, facts);
    const lot = await maker.lot('USU', 40, { material: 'nibs' });
    const made = async (code: string, handsOnMinutes: number, at: string | null) => {
      const batch = await maker.batch(code, lot.id);
      const startedAt = '2026-10-01T08:00:00Z';
      const grind = await maker.step(batch, 'grind', { machineId: at, startedAt });
      await maker.take(grind, lot.parcelId, 5);
      const chocolate = await maker.make(grind, 'chocolate', 5);
      const over = { remainder: null, remainderId: v7(), handsOnMinutes, endedAt: '2026-10-01T18:00:00Z' };
      await shop.send('PUT', `/api/steps/${grind}/close`, over);
      const mould = await maker.step(batch, 'mould');
      await maker.take(mould, chocolate.parcelId, 5);
      const bars = await maker.make(mould, 'bars', 4, { count: 80 });
      await maker.close(mould, 'trim', 60);
      // Sent to a shop: that is no work on the batch.
      await put('/api/leaves', { parcelId: bars.parcelId, destination: 'gift', takenId: v7(), lossId: v7() });
      return batch;
    };
    const [first, second] = [await made('USU-01', 30, machineId), await made('USU-02', 50, null)];
    // Nothing is usual before a batch is finished.
    expect((await usual()).batches).toBe(0);
    for (const batch of [first, second])
      expect((await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'finished' })).status).toBe(201);
    const { batches, labourPerKg, energyPerKg, machinesPerKg } = await usual();
    expect(batches).toBe(2);
    expect(Object.keys(labourPerKg).sort()).toEqual(['grind', 'mould']);
    // 8 kg of bars took 80 min at the grinder and 120 at the moulds; an hour is 15.00.
    expect(labourPerKg.grind).toBeCloseTo(((80 / 60) * 1500) / 8, 6);
    expect(labourPerKg.mould).toBeCloseTo((2 * 1500) / 8, 6);
    // Of the second nobody has said which machine: the first stands for both. 5 kWh at 40, and 5 kg in, for 4 kg of bars.
    expect(energyPerKg).toEqual({ grind: expect.closeTo((5 * 40) / 4, 6) });
    expect(machinesPerKg).toEqual({ grind: expect.closeTo((5 * 40) / 4, 6) });

    const shelf = (await shop.send('GET', '/api/ingredients')).body as IngredientRecord[];
    const of = (key: string) => shelf.find((i) => i.key === key)!;
    const recipeId = v7();
    const lines = [
      { ingredientId: of('nibs').id, massMg: 600_000 },
      { ingredientId: of('cane-sugar').id, massMg: 300_000 },
      { ingredientId: of('cocoa-butter').id, massMg: 100_000 },
    ];
    expect((await shop.send('PUT', `/api/recipes/${recipeId}`, { name: 'Usual 70', lines })).status).toBe(
      201,
    );
    const [plain, written] = [
      await maker.batch('USU-03', lot.id),
      await maker.batch('USU-04', lot.id, { recipeId }),
    ];
    const spending = async (id: string) =>
      (await shop.send('GET', `/api/batches/${id}/cost`)).body as BatchSpending;
    expect((await spending(plain)).usual.ingredientsPerKg).toBeNull();
    expect((await spending(written)).usual.ingredientsPerKg).toBeCloseTo(
      0.3 * of('cane-sugar').pricePerKg + 0.1 * of('cocoa-butter').pricePerKg,
      6,
    );
  });
});
