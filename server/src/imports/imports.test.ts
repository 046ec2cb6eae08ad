import { v7 } from 'uuid';
import type { ImportPut, ImportRun, StockItem, StockProof } from '@wunsch/contract';
import { USUAL_DATABASE, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

const G = 1000;
const KG = 1_000_000;

describe.each(USUAL_DATABASE)('old tables on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  const take = async (body: ImportPut) => {
    const answer = await shop.send('PUT', `/api/imports/${v7()}`, body);
    return { ...answer, seq: answer.body?.seq as number };
  };
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
  const get = async <T>(url: string) => (await shop.send('GET', url)).body as T;
  const proof = async () => {
    const { mass, bars } = await get<StockProof>('/api/stock-proof');
    return [mass.differenceMg, bars.difference];
  };
  const bars = async (code: string) =>
    (await get<StockItem[]>('/api/stock-items'))
      .filter((i) => i.batchCode === code && i.material === 'bars')
      .reduce((n, i) => n + (i.count ?? 0), 0);

  const lots: ImportPut = {
    of: 'lots',
    file: 'beans.xlsx',
    rows: [
      {
        row: 4,
        code: 'NK',
        name: 'Nkondo',
        receivedOn: '2024-02-13',
        massMg: 60 * KG,
        pricePerKg: 840,
        moisture: 6.8,
      },
      { row: 5, code: 'TL', name: 'Tala', receivedOn: '2024-03-01', massMg: 30 * KG },
    ],
  };
  const batches: ImportPut = {
    of: 'batches',
    file: 'batches.csv',
    rows: [
      {
        row: 2,
        code: 'NK-01',
        lot: 'nk',
        startedOn: '2024-04-02',
        beansMg: 2500 * G,
        roastedMg: 2360 * G,
        nibsMg: 1870 * G,
        sugarMg: 800 * G,
        butterMg: 100 * G,
        chocolateMg: 2700 * G,
        bars: 36,
        barMg: 70 * G,
        note: 'a bit sour',
      },
      {
        row: 3,
        code: 'NK-02',
        lot: 'NK',
        startedOn: '2024-04-09',
        beansMg: 2500 * G,
        nibsMg: 1866 * G,
        bars: 20,
        barMg: 90 * G,
      },
      { row: 4, code: 'TL-01', lot: 'TL', startedOn: '2024-04-20', beansMg: 1000 * G, roastedMg: 940 * G },
    ],
  };

  test('lots, then batches, then what was sold and tasted: the books are even after each', async () => {
    expect((await take(lots)).status).toBe(201);
    expect((await take(batches)).status).toBe(201);
    expect(await proof()).toEqual([0, 0]);
    const found =
      await get<{ id: string; code: string; state: string; startedAt: string }[]>('/api/batches?limit=500');
    expect(found.map((b) => `${b.code} ${b.state} ${b.startedAt.slice(0, 10)}`).sort()).toEqual([
      'NK-01 finished 2024-04-02',
      'NK-02 finished 2024-04-09',
      'TL-01 finished 2024-04-20',
    ]);
    // What the weights of the table come to, by hand.
    const page = await get<any>(`/api/batches/${found.find((b) => b.code === 'NK-01')!.id}`);
    const kindOf = new Map((page.steps as { id: string; kind: string }[]).map((x) => [x.id, x.kind]));
    const losses = (page.movements as { stepId: string; direction: string; massMg: number; reason: string }[])
      .filter((m) => m.direction === 'loss')
      .map((m) => `${kindOf.get(m.stepId)} ${m.reason} ${m.massMg / G}`);
    expect(losses).toEqual([
      'roast moisture 140',
      'winnow husk 490',
      'grind hold-up 70',
      'mould hold-up 180',
    ]);
    expect(await bars('NK-01')).toBe(36);
    const [nk] = (await get<{ code: string; remainingMg: number }[]>('/api/lots')).filter(
      (l) => l.code === 'NK',
    );
    expect(nk!.remainingMg).toBe(55 * KG);

    const sales: ImportPut = {
      of: 'sales',
      file: 'sales.csv',
      rows: [
        { row: 2, on: '2024-05-01', batch: 'NK-01', customer: 'Harbour Café', bars: 20, price: 450 },
        { row: 3, on: '2024-05-08', batch: 'nk-01', customer: 'harbour café', bars: 10 },
      ],
    };
    const sold = await take(sales);
    expect(sold.status).toBe(201);
    expect(await bars('NK-01')).toBe(6);
    expect((await get<any>('/api/plan')).customers.map((c: { name: string }) => c.name)).toEqual([
      'Harbour Café',
    ]);
    const tasted = await take({
      of: 'tastings',
      file: 'tastings.csv',
      rows: [
        { row: 2, on: '2024-05-02', batch: 'NK-01', taster: 'Ilse', liking: 7.5, grit: 2, words: 'plum' },
      ],
    });
    expect(tasted.status).toBe(201);
    expect(await proof()).toEqual([0, 0]);

    // Each is taken back whole; the customer it made goes with it.
    expect((await undo(tasted.seq)).status).toBe(201);
    expect((await undo(sold.seq)).status).toBe(201);
    expect(await bars('NK-01')).toBe(36);
    expect((await get<any>('/api/plan')).customers).toEqual([]);
    expect(await proof()).toEqual([0, 0]);
    const runs = await get<ImportRun[]>('/api/imports');
    expect(runs.map((r) => `${r.of} ${r.rows} ${r.voided}`)).toEqual([
      'tastings 1 true',
      'sales 2 true',
      'batches 3 false',
      'lots 2 false',
    ]);
  });

  test('lots whose beans have gone into batches are taken back after those only', async () => {
    const [batchRun, lotRun] = (await get<ImportRun[]>('/api/imports')).filter((r) => !r.voided);
    const early = await undo(lotRun!.seq);
    expect([early.status, early.body.code]).toEqual([409, 'used-later']);
    expect((await undo(batchRun!.seq)).status).toBe(201);
    expect((await undo(lotRun!.seq)).status).toBe(201);
    expect(await get('/api/lots')).toEqual([]);
    expect(await get('/api/stock-items')).toEqual([]);
    expect(await proof()).toEqual([0, 0]);
    // And the same table may be taken over again.
    expect((await take(lots)).status).toBe(201);
    expect((await take(batches)).status).toBe(201);
  });

  test.each<[string, ImportPut, string, RegExp]>([
    [
      'a code that is taken',
      { ...lots, rows: [lots.rows[0]!] } as ImportPut,
      'code-taken',
      /^row 4: there is already a lot NK/,
    ],
    [
      'a lot nobody knows',
      {
        of: 'batches',
        file: 'x',
        rows: [{ row: 9, code: 'ZZ-1', lot: 'ZZ', startedOn: '2024-01-01', beansMg: KG }],
      },
      'no-such-lot',
      /^row 9: there is no lot ZZ/,
    ],
    [
      'more nibs than beans could give',
      {
        of: 'batches',
        file: 'x',
        rows: [{ row: 3, code: 'TL-09', lot: 'TL', startedOn: '2024-01-01', beansMg: 500 * KG, nibsMg: KG }],
      },
      'oversubscribed',
      /^row 3/,
    ],
    [
      'weights with a hole between them',
      {
        of: 'batches',
        file: 'x',
        rows: [
          { row: 3, code: 'TL-09', lot: 'TL', startedOn: '2024-01-01', beansMg: KG, bars: 10, barMg: 50 * G },
        ],
      },
      'weights-between',
      /the weight of the nibs, or of the roasted beans, is needed/,
    ],
    [
      'more bars sold than there are',
      {
        of: 'sales',
        file: 'x',
        rows: [{ row: 7, on: '2024-05-01', batch: 'NK-01', customer: 'A', bars: 37 }],
      },
      'not-so-many',
      /37 bars of NK-01 are said to be sold, and only 36 are left/,
    ],
    [
      'a batch nobody knows',
      { of: 'tastings', file: 'x', rows: [{ row: 2, on: '2024-05-01', batch: 'QQ', liking: 5 }] },
      'no-such-batch',
      /^row 2: there is no batch QQ/,
    ],
  ])('%s is refused by its row, and nothing of the table stays', async (_, body, because, detail) => {
    const before = await get('/api/stock-items');
    const good = { row: 1, code: 'OK', name: 'fine', receivedOn: '2024-01-01', massMg: KG };
    const table = body.of === 'lots' ? { ...body, rows: [good, ...body.rows] } : body;
    const answer = await take(table);
    expect([answer.status < 500, answer.body.code, answer.body.params.because]).toEqual([
      true,
      'import-row',
      because,
    ]);
    expect(answer.body.detail).toMatch(detail);
    expect(await get('/api/stock-items')).toEqual(before);
    expect((await get<{ code: string }[]>('/api/lots')).map((l) => l.code).sort()).toEqual(['NK', 'TL']);
    expect(await proof()).toEqual([0, 0]);
  });

  test('what is no table is refused, and a viewer takes nothing over', async () => {
    for (const body of [
      { of: 'lots', file: 'x', rows: [] },
      { of: 'songs', file: 'x', rows: [{}] },
      {
        of: 'lots',
        file: 'x',
        rows: [{ row: 1, code: 'A', name: 'a', receivedOn: '2024-02-30', massMg: 1 }],
      },
      {
        of: 'lots',
        file: 'x',
        rows: [{ row: 1, code: 'A', name: 'a', receivedOn: '2024-02-01', massMg: -1 }],
      },
    ])
      expect((await take(body as unknown as ImportPut)).status).toBe(422);
    const cookie = await signIn(shop, 'Vi', 'another password');
    expect((await shop.send('PUT', `/api/imports/${v7()}`, lots, { cookie })).status).toBe(403);
  });
});
