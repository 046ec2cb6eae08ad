import { v7 } from 'uuid';
import type { BenchView, IngredientRecord, StockItem, StockProof, StockValues } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('butter seed on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let butter: string;
  let sugar: string;

  const put = (path: string, body: object) => shop.send('PUT', path, body);
  const stock = async () => (await shop.send('GET', '/api/stock-items')).body as StockItem[];
  const leftOf = async (id: string) => (await stock()).find((s) => s.id === id)?.remainingMg ?? 0;
  const undo = (seq: number) => put(`/api/undos/${v7()}`, { seq });
  const proof = async () => (await shop.send('GET', '/api/stock-proof')).body as StockProof;
  const bells = async () =>
    ((await shop.send('GET', '/api/bench')).body as BenchView).due.filter((d) => d.kind === 'timer');
  const supply = async (ingredientId: string, kg: number) => {
    const parcelId = v7();
    await put(`/api/supplies/${v7()}`, {
      ingredientId,
      name: 'delivered',
      massMg: kg * 1e6,
      pricePerKg: 3000,
      receivedOn: '2026-10-01',
      stepId: v7(),
      movementId: v7(),
      parcelId,
    });
    return parcelId;
  };
  const make = async (more: object = {}) => {
    const seedId = v7();
    const answer = await put(`/api/butter-seeds/${v7()}`, {
      parcelId: butter,
      massMg: 120_000,
      hours: 18,
      label: 'Butter seed',
      ring: 'The butter seed should be a cream',
      takenId: v7(),
      madeId: v7(),
      seedId,
      timerId: v7(),
      ...more,
    });
    return { seedId, status: answer.status, body: answer.body };
  };

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const shelf = (await shop.send('GET', '/api/ingredients')).body as IngredientRecord[];
    butter = await supply(shelf.find((i) => i.cacao === 'butter')!.id, 2);
    sugar = await supply(shelf.find((i) => i.key === 'cane-sugar')!.id, 2);
  });
  afterAll(() => shop.close());

  test('is a parcel of its own with its cost, rings when it should be a cream, and is taken back whole', async () => {
    const { seedId, status, body } = await make();
    expect(status).toBe(201);
    expect([await leftOf(butter), await leftOf(seedId)]).toEqual([1_880_000, 120_000]);
    expect((await stock()).find((s) => s.id === seedId)).toMatchObject({
      material: 'cocoa butter',
      label: 'Butter seed',
    });
    const values = (await shop.send('GET', '/api/stock-values')).body as StockValues;
    expect(values.items.find((v) => v.parcelId === seedId)).toMatchObject({ value: 360, materials: 360 });
    const [bell] = await bells();
    expect(bell!.label).toBe('The butter seed should be a cream');
    expect((Date.parse(bell!.at!) - Date.now()) / 3_600_000).toBeCloseTo(18, 1);
    expect((await proof()).mass.differenceMg).toBe(0);
    expect((await undo(body.seq)).status).toBe(201);
    expect([await leftOf(butter), await leftOf(seedId)]).toEqual([2_000_000, 0]);
    expect(await bells()).toEqual([]);
    expect((await proof()).mass.differenceMg).toBe(0);
  });

  test('goes into a bowl by weight, and its butter is found behind the bars', async () => {
    const { seedId, body } = await make();
    const lot = await maker.lot('CV', 10, { material: 'couverture' });
    const batchId = await maker.batch('CV-01', lot.id);
    const bowl = await maker.step(batchId, 'temper', {
      details: { method: 'butter-seed', chocolateType: 'dark' },
    });
    await maker.take(bowl, lot.parcelId, 4);
    await maker.take(bowl, seedId, 0.04);
    expect(await leftOf(seedId)).toBe(80_000);
    const poured = await maker.make(bowl, 'tempered chocolate', null);
    await maker.close(bowl);
    const behind = await shop.send('GET', `/api/trace?of=parcel&id=${poured.parcelId}&way=back`);
    expect(JSON.stringify(behind.body)).toContain(butter);
    // What has been weighed in since stands in the way, and says so.
    expect((await undo(body.seq)).status).toBe(409);
    expect((await proof()).mass.differenceMg).toBe(0);
  });

  test('anything but butter, more than there is, and a night of no length are refused, and nothing is changed', async () => {
    const before = await stock();
    expect((await make({ parcelId: sugar })).body).toMatchObject({ status: 422, code: 'may-not-enter' });
    expect((await make({ parcelId: v7() })).status).toBe(404);
    expect((await make({ massMg: 5_000_000 })).status).toBe(409);
    expect((await make({ hours: 0 })).status).toBe(422);
    expect((await make({ massMg: 0 })).status).toBe(422);
    expect(await stock()).toEqual(before);
    expect(await bells()).toHaveLength(1);
  });
});
