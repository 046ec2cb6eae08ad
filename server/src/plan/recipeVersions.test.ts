import { v7 } from 'uuid';
import type {
  BatchPages,
  CustomerBook,
  PlanRoomView,
  Reminder,
  StockItem,
  StockPace,
} from '@wunsch/contract';
import { needsOf, planWorkshop } from '@wunsch/core/plan';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

const DAY = 86_400_000;

describe.each(USUAL_DATABASE)('a recipe that is written anew, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let lotId: string;
  let beans: string;
  let shelf: { id: string; key: string }[];
  const first = v7();
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('RV', 90, { material: 'couverture' });
    [lotId, beans] = [lot.id, lot.parcelId];
    shelf = (await shop.send('GET', '/api/ingredients')).body;
    await write(first, 'Seventy', ['nibs', 'cane-sugar']);
  });
  afterAll(() => shop.close());

  const put = async (what: string, body: unknown, id = v7()) => {
    const { status, body: answer } = await shop.send('PUT', `/api/${what}/${id}`, body);
    if (status !== 201) throw new Error(`${what}: ${JSON.stringify(answer)}`);
    return answer as { seq: number };
  };
  const write = (id: string, name: string, of: string[], follows: string | null = null) =>
    put(
      'recipes',
      {
        name,
        follows,
        lines: of.map((key, i) => ({
          ingredientId: shelf.find((s) => s.key === key)!.id,
          massMg: i === 0 ? 700_000 : 150_000,
        })),
      },
      id,
    );
  const get = async <T>(url: string) => (await shop.send('GET', url)).body as T;
  const room = () => get<PlanRoomView>('/api/plan');

  /** Bars of a batch on the shelf. */
  async function bars(code: string, count: number, bestBefore: string, recipeId: string) {
    const batchId = await maker.batch(code, lotId, { recipeId });
    const temper = await maker.step(batchId, 'temper');
    await maker.take(temper, beans, count * 0.05);
    const chocolate = await maker.make(temper, 'chocolate', count * 0.05);
    await maker.close(temper);
    const mould = await maker.step(batchId, 'mould', { details: { bestBefore } });
    await maker.take(mould, chocolate.parcelId, count * 0.05);
    const { parcelId } = await maker.make(mould, 'bars', count * 0.05, { count, place: 'shelf' });
    await maker.close(mould);
    return parcelId;
  }
  const day = (days: number) => new Date(Date.now() + days * DAY).toISOString().slice(0, 10);

  test('is still what was promised, kept in stock, on its way and planned; what is made by the older one is known as that', async () => {
    const held = await bars('RV-1', 10, day(200), first);
    const customerId = v7();
    await put('customers', { name: 'Quay Grocer' }, customerId);
    const orderId = v7();
    const due = new Date(Date.now() + 40 * DAY).toISOString();
    await put('orders', { customerId, due, lines: [{ id: v7(), recipeId: first, bars: 400 }] }, orderId);
    await put('stock-aims', { recipeId: first, lotId: null, floor: 5, aim: 20 });
    const { seq } = await put('reorder-points', { kind: 'bars', key: first, atLeast: 15 });
    const flight = await maker.batch('RV-2', lotId, { recipeId: first, plannedMg: 8_000_000 });
    await maker.step(flight, 'temper');
    const before = await room();
    const plan = planWorkshop(before, { budgetMs: 200 });
    const toCome = plan.steps.find((s) => s.batchId === null)!;
    await put('kept-plans', {
      steps: plan.steps,
      orders: plan.orders,
      pins: [{ step: toCome.key, at: toCome.start, how: 'at' }],
    });

    await put('reminders', { station: 'temper', text: 'Warm the bowl.', recipeId: first });

    // Another name, and nothing of the milk that was in it.
    const next = v7();
    const last = v7();
    await write(next, 'Seventy, finer', ['nibs', 'whole-milk-powder'], first);
    await write(last, 'Seventy-two', ['nibs', 'cane-sugar'], next);
    await maker.step(await maker.batch('RV-3', lotId, { recipeId: next }), 'temper');

    const after = await room();
    // And the bought chocolate it is made of, which could be made into bars as it is.
    expect(after.recipes.map((r) => r.name)).toEqual(['Seventy-two', 'RV lot']);
    const ids = (of: readonly { recipeId: string | null }[]) => [...new Set(of.map((o) => o.recipeId))];
    for (const of of [after.orders, after.aims, after.batches, after.stock, after.allOrders[0]!.lines])
      expect(ids(of)).toEqual([last]);
    expect(after.batches.map((b) => [b.code, b.madeBy?.id ?? null, b.madeBy?.allergens])).toEqual([
      ['RV-3', next, ['milk']],
      ['RV-2', first, []],
      ['RV-1', first, []],
    ]);
    const supplies = ({ supplies: of }: ReturnType<typeof needsOf>) =>
      of.reduce((sum, s) => sum + (s.batch?.startsWith('new:') ? 0 : s.bars), 0);
    expect(needsOf(after).impossible).toEqual([]);
    expect(supplies(needsOf(after))).toBeGreaterThanOrEqual(supplies(needsOf(before)));
    expect(ids(after.kept!.steps)).toEqual([last]);
    const keys = new Set(after.kept!.steps.map((s) => s.key));
    expect(keys.has(after.kept!.pins[0]!.step)).toBe(true);
    expect(after.kept!.steps.every((s) => s.key.startsWith(s.batch))).toBe(true);

    // Shop and stock go by the same.
    const book = await get<CustomerBook>('/api/customers');
    expect(book.orders[0]!.lines[0]).toMatchObject({ recipeId: last, recipeName: 'Seventy-two', bars: 400 });
    const item = (await get<StockItem[]>('/api/stock-items')).find((i) => i.id === held)!;
    expect(item).toMatchObject({ recipeId: last, recipeName: 'Seventy' });
    const pace = async () => (await get<StockPace[]>('/api/stock-paces')).filter((p) => p.kind === 'bars');
    expect(await pace()).toEqual([
      expect.objectContaining({ key: last, name: 'Seventy-two', onHand: 10, reorderAt: 15 }),
    ]);
    const second = await put('reorder-points', { kind: 'bars', key: last, atLeast: 30 });
    expect((await pace())[0]!.reorderAt).toBe(30);
    await put('undos', { seq: second.seq });
    expect((await pace())[0]!.reorderAt).toBe(15);
    await put('undos', { seq });
    expect((await pace())[0]!.reorderAt).toBeNull();

    const [reminder] = await get<Reminder[]>('/api/reminders');
    expect(new Set(reminder!.recipeIds)).toEqual(new Set([first, next, last]));

    // Bars of either version serve the order.
    const newer = await bars('RV-4', 20, day(300), last);
    for (const [parcelId, count] of [
      [held, 4],
      [newer, 6],
    ] as const)
      await put('deliveries', {
        customerId,
        orderId,
        lines: [{ parcelId, count, stepId: v7(), takenId: v7(), lossId: v7() }],
      });
    expect((await room()).orders.map((o) => o.bars)).toEqual([390]);
  });

  test('has its public page on, or off, for bars of every version', async () => {
    const older = v7();
    const newer = v7();
    await write(older, 'Sixty', ['nibs', 'cane-sugar']);
    await write(newer, 'Sixty-two', ['nibs', 'cane-sugar'], older);
    const batches = [
      await maker.batch('RV-6', lotId, { recipeId: older }),
      await maker.batch('RV-7', lotId, { recipeId: newer }),
    ];
    const pages = () =>
      Promise.all(
        batches.map(async (id) => (await get<BatchPages>(`/api/pages/of-batch/${id}`)).recipe?.isOn),
      );
    await put('pages', { of: 'recipe', isOn: true }, older);
    expect(await pages()).toEqual([true, true]);
    await put('pages', { of: 'recipe', isOn: false }, newer);
    expect(await pages()).toEqual([false, false]);
  });

  test('bars past their best before are neither promised nor counted as there, but still in stock', async () => {
    const before = await get<StockPace[]>('/api/stock-paces');
    const old = await bars('RV-5', 70, day(-2), first);
    expect((await get<StockItem[]>('/api/stock-items')).find((i) => i.id === old)!.count).toBe(70);
    expect(await get('/api/stock-paces')).toEqual(before);
    const found = await room();
    expect(found.stock).toContainEqual(expect.objectContaining({ bars: 70, bestBefore: day(-2) }));
    const from = needsOf(found).supplies.filter((s) => s.batch === null);
    expect(from.reduce((sum, s) => sum + s.bars, 0)).toBe(20);
  });
});
