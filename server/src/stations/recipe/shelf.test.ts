import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { IngredientRecord, PlanRoomView, StockItem, StockPace } from '@wunsch/contract';
import { readBody } from '../../commands/body.ts';
import { movement } from '../../db/schema/index.ts';
import { movementAdd } from '../../ledger/weighing.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what there is of an ingredient, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(url: string): Promise<T> => (await shop.send('GET', url)).body;
  const sugar = async () =>
    (await get<IngredientRecord[]>('/api/ingredients')).find((i) => i.key === 'cane-sugar')!;
  const there = async () => {
    const { shelfMg, onHandMg } = await sugar();
    return [shelfMg, onHandMg].map((mg) => (mg === null ? null : mg / 1e6));
  };
  /** Counts the shelf, as the form does. */
  const count = async (amount: number | null, more: Partial<IngredientRecord> = {}) => {
    const { id, version, ...facts } = await sugar();
    const body = { ...facts, ...more, stockMg: amount === null ? null : kg(amount) };
    const answer = await shop.send('PUT', `/api/ingredients/${id}`, body, { 'if-match': `"${version}"` });
    expect(answer.status).toBe(201);
  };
  const grinding = async () => {
    const code = `G${Math.random().toString(36).slice(2, 8)}`;
    const lot = await maker.lot(code, 40, { material: 'nibs' });
    return maker.step(await maker.batch(`${code}-01`, lot.id), 'grind');
  };
  const lastWeight = async () => {
    const [last] = await get<{ seq: number; target: string }[]>('/api/trail?limit=1');
    return last!;
  };

  test('nothing is said where nobody keeps count; counted, it falls as it is weighed in and comes back', async () => {
    const grind = await grinding();
    await maker.weigh(grind, 'cane-sugar', 1);
    expect(await there()).toEqual([null, null]);
    // What had been weighed in before is no longer on the shelf that is counted.
    await count(25);
    expect(await there()).toEqual([25, 25]);
    await maker.weigh(grind, 'cane-sugar', 3);
    const weighed = await lastWeight();
    expect(await there()).toEqual([22, 22]);
    await maker.correct(weighed.target, 3.4);
    expect(await there()).toEqual([21.6, 21.6]);
    await maker.weigh(grind, 'cane-sugar', 2);
    await shop.send('PUT', `/api/undos/${v7()}`, { seq: (await lastWeight()).seq });
    expect(await there()).toEqual([21.6, 21.6]);
  });

  test('a change of anything else leaves it; counted anew it begins there, and a weight of before that is corrected takes nothing from it', async () => {
    const grind = await grinding();
    await count(20);
    await maker.weigh(grind, 'cane-sugar', 5);
    const weighed = await lastWeight();
    await count(20, { origin: 'another mill' });
    expect(await there()).toEqual([15, 15]);
    await count(14.8);
    expect(await there()).toEqual([14.8, 14.8]);
    await maker.correct(weighed.target, 4);
    expect(await there()).toEqual([14.8, 14.8]);
    await maker.weigh(grind, 'cane-sugar', 90);
    expect(await there()).toEqual([0, 0]);
  });

  test('deliveries stand beside it and go first; pace, plan and table tell the same', async () => {
    await count(10);
    const { id } = await sugar();
    await shop.send('PUT', `/api/supplies/${v7()}`, {
      ingredientId: id,
      name: 'Cane sugar',
      massMg: kg(4),
      pricePerKg: 200,
      receivedOn: '2026-11-01',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
    });
    expect(await there()).toEqual([10, 14]);
    const grind = await grinding();
    await maker.weigh(grind, 'cane-sugar', 5);
    expect(await there()).toEqual([9, 9]);
    const pace = (await get<StockPace[]>('/api/stock-paces')).find((p) => p.key === id)!;
    expect(pace.onHand / 1e6).toBe(9);
    const recipe = v7();
    await shop.send('PUT', `/api/recipes/${recipe}`, {
      name: 'Sweet',
      lines: [{ ingredientId: id, massMg: kg(1) }],
    });
    const room = await get<PlanRoomView>('/api/plan');
    const line = room.recipes.find((r) => r.id === recipe)!.lines.find((l) => l.ingredientId === id)!;
    expect(line.onHandMg! / 1e6).toBe(9);
    const [heading, ...rows] = String(await get<string>('/api/tables/ingredients.csv')).split('\r\n');
    // Cells that hold commas stand between quotes.
    const cells = (row: string) => row.split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/);
    const row = rows.find((r) => r.includes(id))!;
    expect(cells(row)[cells(heading!).indexOf('on the shelf (g)')]).toBe('9000');
  });

  test('what is set aside is not there: it is not taken unasked, and refused where nothing else is left', async () => {
    const milk = (await get<IngredientRecord[]>('/api/ingredients')).find(
      (i) => i.key === 'whole-milk-powder',
    )!;
    const parcels = [v7(), v7()];
    for (const [i, parcelId] of parcels.entries())
      await shop.send('PUT', `/api/supplies/${v7()}`, {
        ingredientId: milk.id,
        name: 'Whole milk powder',
        massMg: kg(3),
        pricePerKg: 700 + 50 * i,
        receivedOn: '2026-11-01',
        bestBefore: `2027-0${i + 3}-01`,
        stepId: v7(),
        movementId: v7(),
        parcelId,
      });
    const hold = (parcelIds: string[], onHold = true) =>
      shop.send('PUT', `/api/parcel-holds/${v7()}`, { parcelIds, onHold, reason: 'smells of smoke' });
    const left = async () => {
      const stock = await get<StockItem[]>('/api/stock-items');
      return parcels.map((id) => (stock.find((i) => i.id === id)?.remainingMg ?? 0) / 1e6);
    };
    const told = async () => {
      const of = (await get<IngredientRecord[]>('/api/ingredients')).find((i) => i.id === milk.id)!;
      const pace = (await get<StockPace[]>('/api/stock-paces')).find((p) => p.key === milk.id)!;
      return [of.onHandMg! / 1e6, pace.onHand / 1e6];
    };
    const stepId = await grinding();
    const weigh = (amount: number, more: object = {}) => {
      const body = { stepId, direction: 'in', ingredientId: milk.id, massMg: kg(amount), ...more };
      return shop.send('PUT', `/api/movements/${v7()}`, body);
    };
    // The one that keeps shortest is set aside: the other is taken.
    const next = async () =>
      (await get<IngredientRecord[]>('/api/ingredients')).find((i) => i.id === milk.id)!.nextBestBefore;
    const price = async () =>
      (await get<IngredientRecord[]>('/api/ingredients')).find((i) => i.id === milk.id)!.priceNow;
    expect(milk.priceNow).toBe(milk.pricePerKg);
    expect([await next(), await price()]).toEqual(['2027-03-01', 700]);
    expect((await hold([parcels[0]!])).status).toBe(201);
    expect([await next(), await price()]).toEqual(['2027-04-01', 750]);
    expect(await told()).toEqual([3, 3]);
    expect((await weigh(1)).status).toBe(201);
    expect(await left()).toEqual([3, 2]);
    const refused = await weigh(2.5);
    expect(refused).toMatchObject({
      status: 409,
      body: { code: 'set-aside', params: { material: 'Whole milk powder' } },
    });
    expect(await left()).toEqual([3, 2]);
    expect((await weigh(2.5, { holdOverride: 'only the bag smells; Ada' })).status).toBe(201);
    expect(await left()).toEqual([2.5, 0]);
    // Only what lay aside says why it was used.
    const rows = await shop.store.db.select().from(movement).where(eq(movement.stepId, stepId));
    expect(
      rows.filter((m) => m.holdOverride !== '').map((m) => [m.parcelId, m.massMg, m.holdOverride]),
    ).toEqual([[parcels[0], kg(0.5), 'only the bag smells; Ada']]);
    await hold([parcels[0]!], false);
    expect(await told()).toEqual([2.5, 2.5]);
    expect((await weigh(1)).status).toBe(201);
    // Once all is used up the last that came says what it costs.
    expect([(await weigh(1.5)).status, await left(), await price()]).toEqual([201, [0, 0], 750]);
  });

  test('an entry made before anybody asked about what is set aside is read as it was meant', () => {
    const ids = { stepId: v7(), ingredientId: v7() };
    const old = { ...ids, direction: 'in', massMg: 1000 };
    const entry = { seq: 1, target: v7(), at: '2026-01-01T00:00:00Z' };
    const read = (version: number, body: object) =>
      (readBody(movementAdd, version, body, entry) as { holdOverride: string }).holdOverride;
    expect(read(1, old)).not.toBe('');
    expect(read(2, old)).toBe('');
    expect(read(1, { ...old, ingredientId: null, parcelId: v7() })).toBe('');
  });
});
