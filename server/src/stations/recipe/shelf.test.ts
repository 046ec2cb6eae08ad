import { v7 } from 'uuid';
import type { IngredientRecord, PlanRoomView, StockPace } from '@wunsch/contract';
import { DATABASES, kg, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(DATABASES)('what there is of an ingredient, on %s', (kind) => {
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
    expect(line.onHandMg / 1e6).toBe(9);
    const [heading, ...rows] = String(await get<string>('/api/tables/ingredients.csv')).split('\r\n');
    // Cells that hold commas stand between quotes.
    const cells = (row: string) => row.split(/,(?=(?:[^"]*"[^"]*")*[^"]*$)/);
    const row = rows.find((r) => r.includes(id))!;
    expect(cells(row)[cells(heading!).indexOf('on the shelf (g)')]).toBe('9000');
  });
});
