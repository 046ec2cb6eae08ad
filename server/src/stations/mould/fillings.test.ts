import { v7 } from 'uuid';
import type {
  BatchView,
  FillingRecord,
  IngredientRecord,
  LabelView,
  ParcelComposition,
  StockItem,
  StockProof,
  StockValues,
  TraceView,
} from '@wunsch/contract';
import { Maker, openWorkshop, USUAL_DATABASE, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('fillings on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let shelf: IngredientRecord[];
  let chocolate: { id: string; parcelId: string };

  const put = (path: string, body: object) => shop.send('PUT', path, body);
  const get = async <T>(path: string) => (await shop.send('GET', path)).body as T;
  const undo = (seq: number) => put(`/api/undos/${v7()}`, { seq });
  const fillings = () => get<FillingRecord[]>('/api/fillings');
  const leftOf = async (parcelId: string) =>
    (await get<StockItem[]>('/api/stock-items')).find((s) => s.id === parcelId)?.remainingMg ?? 0;
  const difference = async () => (await get<StockProof>('/api/stock-proof')).mass.differenceMg;
  const idOf = (key: string) => shelf.find((i) => i.key === key)!.id;
  const from = (of: { parcelId: string } | { ingredientId: string }, grams: number) => ({
    movementId: v7(),
    massMg: grams * 1000,
    ...of,
  });
  /** A cream ganache of bought chocolate, as it is made where nothing else is said. */
  const make = async (more: object = {}) => {
    const [id, parcelId] = [v7(), v7()];
    const answer = await put(`/api/fillings/${id}`, {
      name: 'Cream ganache',
      lines: [from({ parcelId: chocolate.parcelId }, 500), from({ ingredientId: idOf('cream') }, 400)],
      made: { movementId: v7(), parcelId, massMg: 880_000 },
      lossId: v7(),
      lost: 'boiled off',
      waterActivity: 0.84,
      bestBefore: '2026-12-24',
      ...more,
    });
    return { id, parcelId, ...answer };
  };

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    shelf = await get<IngredientRecord[]>('/api/ingredients');
    chocolate = await maker.lot('CV', 10, {
      material: 'couverture',
      pricePerKg: 1200,
      sheet: { kind: 'dark', cacao: 60, fat: 38, ingredients: 'cocoa mass, sugar, soya lecithin' },
    });
  });
  afterAll(() => shop.close());

  test('are parcels with their weight, what went in, what boiled off, how long they keep and what they cost', async () => {
    const { id, parcelId, status, body } = await make({ handsOnMinutes: 20 });
    expect(status).toBe(201);
    expect((await fillings()).find((f) => f.id === id)).toMatchObject({
      parcelId,
      name: 'Cream ganache',
      madeMg: 880_000,
      leftMg: 880_000,
      boiledOffMg: 20_000,
      waterActivity: 0.84,
      bestBefore: '2026-12-24',
      onHold: false,
      lines: [
        { parcelId: chocolate.parcelId, material: 'couverture', code: 'CV', massMg: 500_000 },
        { ingredientId: idOf('cream'), label: 'Cream', massMg: 400_000 },
      ],
    });
    expect(await leftOf(chocolate.parcelId)).toBe(9_500_000);
    const item = (await get<StockItem[]>('/api/stock-items')).find((s) => s.id === parcelId)!;
    expect(item).toMatchObject({ material: 'filling', label: 'Cream ganache', bestBefore: '2026-12-24' });
    // Half a kilo at 12 a kilo, and the cream at its own price.
    const value = (await get<StockValues>('/api/stock-values')).items.find((v) => v.parcelId === parcelId)!;
    const cream = 0.4 * shelf.find((i) => i.key === 'cream')!.pricePerKg;
    expect(value.materials).toBeCloseTo(600 + cream, 0);
    // A third of an hour of work is in it as well.
    expect(value.value).toBeGreaterThan(value.materials + 100);
    expect(await difference()).toBe(0);
    expect((await undo(body.seq)).status).toBe(201);
    expect([await leftOf(chocolate.parcelId), await leftOf(parcelId)]).toEqual([10_000_000, 0]);
    expect((await fillings()).some((f) => f.id === id)).toBe(false);
    expect(await difference()).toBe(0);
  });

  test('are made of deliveries, the one that keeps shortest first, and of each other; what one holds is told', async () => {
    const deliver = (massMg: number, bestBefore: string) =>
      put(`/api/supplies/${v7()}`, {
        ingredientId: idOf('honey'),
        name: 'honey',
        massMg,
        pricePerKg: 900,
        bestBefore,
        receivedOn: '2026-11-01',
        stepId: v7(),
        movementId: v7(),
        parcelId: v7(),
      });
    await deliver(100_000, '2026-12-01');
    await deliver(500_000, '2027-12-01');
    const first = await make();
    const second = await make({
      name: 'Honey ganache',
      lines: [from({ parcelId: first.parcelId }, 300), from({ ingredientId: idOf('honey') }, 150)],
      made: { movementId: v7(), parcelId: v7(), massMg: 450_000 },
    });
    const record = (await fillings()).find((f) => f.id === second.id)!;
    expect(record.lines.map((l) => [l.label, l.massMg])).toEqual([
      ['Cream ganache', 300_000],
      ['Honey', 150_000],
    ]);
    const [made] = await get<ParcelComposition[]>(`/api/compositions?of=${record.parcelId}`);
    const gramsOf = (name: string) =>
      made!.lines.reduce((sum, l) => sum + (l.ingredient.name === name ? l.massMg / 1000 : 0), 0);
    // 300 of 450 g are ganache, four ninths of which was cream.
    expect(gramsOf('Cream')).toBeCloseTo((1000 * 300 * 4) / (450 * 9), 0);
    expect(gramsOf('Honey')).toBeCloseTo(1000 / 3, 0);
    expect(made!.unknown).toEqual([]);
    // What a kilo of it cost is what went in over what came out.
    const cream = shelf.find((i) => i.key === 'cream')!.pricePerKg;
    const ganache = (500 * 1200 + 400 * cream) / 880;
    expect(made!.pricePerKg).toBeCloseTo((300 * ganache + 150 * 900) / 450, 6);
    // A part that was moved goes on being that filling.
    const part = { parcelId: v7(), stepId: v7(), takenId: v7(), madeId: v7() };
    const moved = await put(`/api/moves/${v7()}`, {
      place: 'cool room',
      parcels: [{ parcelId: record.parcelId, massMg: 100_000, part }],
    });
    expect(moved.status).toBe(201);
    const parts = (await fillings()).filter((f) => f.id === second.id && f.leftMg > 0);
    expect(parts.map((f) => [f.name, f.leftMg, f.bestBefore])).toEqual(
      expect.arrayContaining([
        ['Honey ganache', 350_000, '2026-12-24'],
        ['Honey ganache', 100_000, '2026-12-24'],
      ]),
    );
    expect((await undo(moved.body.seq)).status).toBe(201);
    // What was used of it stands in the way of taking it back.
    expect((await undo(first.body.seq)).status).toBe(409);
    expect((await undo(second.body.seq)).status).toBe(201);
    expect((await undo(first.body.seq)).status).toBe(201);
    expect(await difference()).toBe(0);
  });

  test('go into shells by weight: the pieces’ label names what is in them, and their outer chocolate is not the ganache’s', async () => {
    const { parcelId } = await make();
    const batchId = await maker.batch('CV-01', chocolate.id);
    const shells = { pieces: 50, brimMg: 11_000, shellMg: 5000, fillingMg: 4500, capMg: 1500 };
    const shelling = await maker.step(batchId, 'mould', { details: { shells } });
    await maker.take(shelling, chocolate.parcelId, 0.25);
    const empty = await maker.make(shelling, 'shells', 0.25, { count: 50 });
    await maker.close(shelling);
    const moulding = await maker.step(batchId, 'mould', { details: { shells } });
    await maker.take(moulding, empty.parcelId, null);
    await maker.take(moulding, parcelId, 0.225);
    await maker.take(moulding, chocolate.parcelId, 0.075);
    const pieces = await maker.make(moulding, 'bars', 0.55, { count: 50 });
    await maker.close(moulding);
    expect(await leftOf(parcelId)).toBe(655_000);
    // Nobody has ticked the soy of the couverture; its ingredients name it, and the milk is in the cream.
    const view = await get<BatchView>(`/api/batches/${batchId}`);
    expect(view.allergens).toEqual(['milk', 'soy']);
    const label = await get<LabelView>(`/api/labels/${pieces.parcelId}`);
    // Milk that is in the cream stands out.
    expect(label.front.includes('>CREAM<')).toBe(true);
    expect(JSON.stringify(label.checks)).toContain('"percent":59');
    const behind = await shop.send('GET', `/api/trace?of=parcel&id=${pieces.parcelId}&way=back`);
    expect(JSON.stringify(behind.body)).toContain('Cream');
    expect(await difference()).toBe(0);
    // Two that broke go into the next pot: they are melted, not missing.
    const broken = { lines: [from({ parcelId: pieces.parcelId }, 22)], lost: 'hold-up' };
    await make({ ...broken, made: { movementId: v7(), parcelId: v7(), massMg: 21_000 } });
    const { bars } = await get<StockProof>('/api/stock-proof');
    expect(bars).toMatchObject({ made: 50, onHand: 48, melted: 2, difference: 0 });
    const forward = await get<TraceView>(`/api/trace?of=lot&id=${chocolate.id}&way=forward`);
    expect(forward.recall).toMatchObject({
      barsKnown: 1,
      bars: { made: 50, here: 48, broken: 2, missing: 0 },
    });
  });

  test('of husk, of more than there is, heavier than what went in, or of nothing are refused, and nothing is changed', async () => {
    const beans = await maker.lot('NK', 5);
    const [before, books] = [await get<StockItem[]>('/api/stock-items'), await fillings()];
    const refused = async (more: object) => {
      const { status, body } = await make(more);
      return [status, (body as { code?: string }).code];
    };
    expect(await refused({ lines: [from({ parcelId: beans.parcelId }, 100)] })).toEqual([
      422,
      'may-not-enter',
    ]);
    expect(await refused({ lines: [from({ parcelId: chocolate.parcelId }, 90_000)] })).toEqual([
      409,
      'oversubscribed',
    ]);
    expect(await refused({ lines: [from({ parcelId: v7() }, 10)] })).toEqual([404, 'not-found']);
    expect(await refused({ lines: [] })).toEqual([422, 'not-valid']);
    expect(await refused({ lines: [{ movementId: v7(), massMg: 5 }] })).toEqual([422, 'not-valid']);
    expect(await refused({ name: '  ' })).toEqual([422, 'not-valid']);
    expect(await refused({ waterActivity: 1.2 })).toEqual([422, 'not-valid']);
    expect(await refused({ made: { movementId: v7(), parcelId: v7(), massMg: 900_001 } })).toEqual([
      422,
      'more-out-than-in',
    ]);
    expect((await shop.send('GET', '/api/compositions?of=nothing')).status).toBe(422);
    expect((await shop.send('GET', `/api/compositions?of=${v7()}`)).status).toBe(404);
    expect(await get<StockItem[]>('/api/stock-items')).toEqual(before);
    expect(await fillings()).toEqual(books);
  });
});
