import { v7 } from 'uuid';
import type { CustomerBook, PlanRoomView, StockItem, StockPace } from '@wunsch/contract';
import { planWorkshop } from '@wunsch/core/plan';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

const DAY = 86_400_000;

describe.each(USUAL_DATABASE)('bars of bought chocolate without a recipe, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let lot: { id: string; parcelId: string };
  const orderId = v7();
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    lot = await maker.lot('BUT', 20, {
      material: 'couverture',
      name: 'Dark buttons',
      sheet: { kind: 'milk', cacao: 38, allergens: ['soy'] },
    });
  });
  afterAll(() => shop.close());

  const get = async <T>(path: string) => (await shop.send('GET', path)).body as T;
  const room = () => get<PlanRoomView>('/api/plan');
  const order = (bars: number, recipeId = lot.id) => ({
    customerId: null,
    title: 'Fair',
    kind: 'order',
    due: new Date(Date.now() + 20 * DAY).toISOString(),
    weight: 1,
    state: 'open',
    lines: [{ id: v7(), recipeId, lotId: null, bars }],
  });

  test('they can be ordered: the lot stands for its own recipe, tempered and moulded and no more', async () => {
    expect((await room()).recipes).toEqual([
      expect.objectContaining({
        id: lot.id,
        name: 'Dark buttons',
        material: 'couverture',
        lotId: lot.id,
        lines: [],
        allergens: expect.arrayContaining(['milk', 'soy']),
      }),
    ]);
    expect((await shop.send('PUT', `/api/orders/${orderId}`, order(60))).status).toBe(201);
    const found = await room();
    const plan = planWorkshop(found, { budgetMs: 200, draws: 20 });
    expect(plan.needs.impossible).toEqual([]);
    expect(plan.needs.batches).toMatchObject([{ lot: { id: lot.id }, recipe: { id: lot.id } }]);
    expect(plan.needs.batches[0]!.bars).toBeGreaterThanOrEqual(60);
    const stages = new Set(plan.steps.map((s) => s.stage));
    for (const none of ['sort', 'roast', 'winnow', 'grind'] as const) expect(stages.has(none)).toBe(false);
    for (const some of ['temper', 'mould'] as const) expect(stages.has(some)).toBe(true);
    const kept = await shop.send('PUT', `/api/kept-plans/${v7()}`, {
      steps: plan.steps,
      orders: plan.orders,
    });
    expect(kept.status).toBe(201);
    expect((await shop.send('GET', '/api/plan-steps?days=60')).status).toBe(200);
  });

  test('what is moulded of it, recipe or none, serves the order; what goes out is taken off it', async () => {
    const batch = await maker.batch('BUT-01', lot.id);
    const mould = await maker.step(batch, 'mould', { details: { bestBefore: '2027-09-01' } });
    await maker.take(mould, lot.parcelId, 2.5);
    const bars = await maker.make(mould, 'bars', 2.4, { count: 40 });
    await maker.close(mould, 'hold-up');
    expect(await room()).toMatchObject({ stock: [{ recipeId: lot.id, lotId: lot.id, bars: 40 }] });
    const item = (await get<StockItem[]>('/api/stock-items')).find((i) => i.id === bars.parcelId)!;
    expect(item).toMatchObject({ recipeId: lot.id, recipeName: null });
    const needs = planWorkshop(await room(), { budgetMs: 100, draws: 20 }).needs;
    expect(needs.supplies).toContainEqual(expect.objectContaining({ bars: 40, batch: null }));
    const customerId = v7();
    await shop.send('PUT', `/api/customers/${customerId}`, { name: 'Quay stall', channel: 'trade' });
    const line = { parcelId: bars.parcelId, stepId: v7(), takenId: v7(), lossId: v7(), count: 25 };
    const gone = await shop.send('PUT', `/api/deliveries/${v7()}`, { customerId, orderId, lines: [line] });
    expect(gone.status).toBe(201);
    expect((await get<CustomerBook>('/api/customers')).orders).toMatchObject([
      { lines: [{ recipeId: lot.id, recipeName: 'Dark buttons', bars: 35 }] },
    ]);
    const paces = await get<StockPace[]>('/api/stock-paces');
    expect(paces.find((p) => p.kind === 'bars')).toMatchObject({
      key: lot.id,
      name: 'Dark buttons',
      onHand: 15,
    });
    const point = { kind: 'bars', key: lot.id, atLeast: 30 };
    expect((await shop.send('PUT', `/api/reorder-points/${v7()}`, point)).status).toBe(201);
  });

  test('once it is used up it is no longer offered, unless somebody still waits for it', async () => {
    const more = await maker.lot('BUX', 1, { material: 'couverture', name: 'Last of it' });
    const names = async () => (await room()).recipes.map((r) => r.name).sort();
    expect(await names()).toEqual(['Dark buttons', 'Last of it']);
    const batch = await maker.batch('BUX-01', more.id);
    await maker.take(await maker.step(batch, 'temper'), more.parcelId, null);
    await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'abandoned', reason: 'burnt' });
    expect(await names()).toEqual(['Dark buttons']);
    const wanted = await shop.send('PUT', `/api/orders/${v7()}`, order(10, more.id));
    expect(wanted.status).toBe(201);
    expect(await names()).toEqual(['Dark buttons', 'Last of it']);
  });

  test('a lot that has to be made into chocolate first is no recipe', async () => {
    const beans = await maker.lot('BEA', 5);
    expect(await shop.send('PUT', `/api/orders/${v7()}`, order(5, beans.id))).toMatchObject({ status: 404 });
    expect((await room()).recipes.some((r) => r.id === beans.id)).toBe(false);
    const point = { kind: 'bars', key: beans.id, atLeast: 30 };
    expect((await shop.send('PUT', `/api/reorder-points/${v7()}`, point)).status).toBe(404);
  });
});
