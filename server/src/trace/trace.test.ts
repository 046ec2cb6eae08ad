import { v7 } from 'uuid';
import type { RecallRecord, StockItem, TraceView } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('trace on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let ids: Record<'lot' | 'other' | 'batch' | 'second' | 'bars' | 'boxed' | 'customer' | 'ida', string>;

  const put = async (path: string, body: object) => {
    const id = v7();
    const answer = await shop.send('PUT', `${path}/${id}`, body);
    return { ...answer, id, seq: answer.body?.seq as number };
  };
  const trace = async (query: string) => shop.send('GET', `/api/trace?${query}`);
  const forward = async (query: string) => (await trace(query)).body as TraceView;

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const [ida] = (await shop.send('GET', '/api/machines')).body as { id: string }[];
    const nk = await maker.lot('NK', 40, { material: 'nibs' });
    const tl = await maker.lot('TL', 40, { material: 'nibs' });
    // NK-01: ground on Ida, part of it moulded, what is drained goes into TL-01 on the same machine.
    const batch = await maker.batch('NK-01', nk.id);
    const grind = await maker.step(batch, 'grind', { machineId: ida!.id, startedAt: '2026-10-01T08:00:00Z' });
    await maker.take(grind, nk.parcelId, 10);
    const chocolate = await maker.make(grind, 'chocolate', 8);
    const rework = await maker.make(grind, 'rework', 1.5);
    await maker.close(grind, 'hold-up');
    const mould = await maker.step(batch, 'mould', {
      details: { barCode: 'NK01A', bestBefore: '2027-10-01' },
    });
    await maker.take(mould, chocolate.parcelId, 8);
    const bars = await maker.make(mould, 'bars', 8, { count: 160, place: 'shelf' });
    await maker.close(mould);
    await put('/api/machine-events', {
      machineId: ida!.id,
      kind: 'cleaned',
      note: '',
      at: '2026-10-03T07:00:00Z',
    });
    const second = await maker.batch('TL-01', tl.id);
    const again = await maker.step(second, 'grind', {
      machineId: ida!.id,
      startedAt: '2026-10-03T08:00:00Z',
    });
    await maker.take(again, tl.parcelId, 8.5);
    await maker.take(again, rework.parcelId, 1.5);
    const mixed = await maker.make(again, 'chocolate', 10);
    await maker.close(again);
    const moulds = await maker.step(second, 'mould');
    await maker.take(moulds, mixed.parcelId, 10);
    await maker.make(moulds, 'bars', 10, { count: 200, place: 'shop' });
    await maker.close(moulds);
    // Another batch of the other lot on the same machine: not affected.
    const third = await maker.batch('TL-02', tl.id);
    const last = await maker.step(third, 'grind', { machineId: ida!.id, startedAt: '2026-10-05T08:00:00Z' });
    await maker.take(last, tl.parcelId, 5);
    await maker.make(last, 'chocolate', 5);
    await maker.close(last);
    const boxed = v7();
    await put('/api/wrappings', {
      parcelId: bars.parcelId,
      takenId: v7(),
      made: [{ count: 60, label: 'BOX-7', place: 'shelf', movementId: v7(), parcelId: boxed }],
    });
    const customer = (await put('/api/customers', { name: 'Harbour Café', channel: 'trade' })).id;
    await put('/api/deliveries', {
      customerId: customer,
      lines: [{ parcelId: boxed, count: 40, stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    await put('/api/leaves', {
      parcelId: bars.parcelId,
      count: 4,
      destination: 'sample',
      takenId: v7(),
      lossId: v7(),
    });
    ids = {
      lot: nk.id,
      other: tl.id,
      batch,
      second,
      bars: bars.parcelId,
      boxed,
      customer,
      ida: ida!.id,
    };
  });
  afterAll(() => shop.close());

  test('a lot is followed to every bar, customer and batch with any of it', async () => {
    const view = await forward(`of=lot&id=${ids.lot}`);
    expect(view).toMatchObject({ name: expect.stringContaining('NK'), way: 'forward' });
    expect(view.recall!.bars).toEqual({
      made: 360,
      here: 160 - 44 + 200,
      delivered: 40,
      sold: 0,
      given: 4,
      broken: 0,
      missing: 0,
    });
    expect(view.recall!.batches.map((b) => b.code)).toEqual(['NK-01', 'TL-01']);
    expect(view.recall!.customers).toMatchObject([{ name: 'Harbour Café', count: 40, massMg: kg(2) }]);
    const { rootMg, hereMg, inProcessMg, goneMg, lostMg, missingMg } = view.recall!.mass;
    expect(rootMg).toBe(kg(40));
    expect(hereMg + inProcessMg + goneMg + lostMg + missingMg).toBeCloseTo(rootMg, 3);
    // 1.5 of 10 kg in the second batch is of this lot.
    const second = view.rows.find((r) => r.code === 'TL-01')!;
    expect(second.stages.find((s) => s.station === 'mould')).toMatchObject({
      massMg: kg(10),
      contentMg: kg(1.5),
    });
    expect(view.links).toContainEqual(
      expect.objectContaining({ material: 'rework', massMg: kg(1.5), toBatchId: ids.second, isTraced: true }),
    );
    expect(view.rows[0]!.ends).toContainEqual({ kind: 'delivered', name: 'Harbour Café', count: 40 });
    // What ran next on Ida was not of this lot, and nobody cleaned in between.
    expect(view.neighbours).toMatchObject([{ machine: 'Ida', run: { batchCode: 'TL-02' }, cleanedAt: null }]);
    expect(view.tookMs).toBeGreaterThan(0);
    // What is here is listed place by place; what lies nowhere in particular comes last.
    const places = view.recall!.here.map((h) => h.place);
    const named = places.filter((place) => place !== '');
    expect(places).toEqual([...named.toSorted(), ...places.filter((place) => place === '')]);
    expect(new Set(places).size).toBeGreaterThan(1);
  });

  test('bars, a box, a batch and a machine are traced by what is printed on them or by their id', async () => {
    const byCode = await forward('of=code&id=nk01a');
    expect(byCode.recall!.bars).toMatchObject({ made: 160, delivered: 40, given: 4 });
    const { made, ...ends } = byCode.recall!.bars;
    expect(Object.values(ends).reduce((a, b) => a + b, 0)).toBe(made);
    expect(byCode.rows).toMatchObject([{ code: 'NK-01', stages: [{ station: 'mould' }], bars: 160 }]);
    const box = await forward('of=code&id=BOX-7');
    expect(box.recall!.bars).toMatchObject({ made: 60, here: 20, delivered: 40 });
    const batch = await forward('of=code&id=NK-01');
    expect(batch).toMatchObject({ of: 'code', name: 'NK-01' });
    expect(batch.recall!.bars.made).toBe(360);
    // Until the day before the last run began.
    const run = await forward(`of=machine&id=${ids.ida}&to=2026-10-04T00:00:00Z`);
    expect(run.recall!.batches.map((b) => b.code)).toEqual(['NK-01', 'TL-01']);
    expect((await forward(`of=person&id=AK`)).recall!.batches.map((b) => b.code)).toEqual([
      'NK-01',
      'TL-01',
      'TL-02',
    ]);
  });

  test('back: bars to lots by their shares, who was at it, and what ran on the machine before', async () => {
    const [mixed] = ((await shop.send('GET', '/api/stock-items')).body as StockItem[]).filter(
      (i) => i.material === 'bars' && i.batchCode === 'TL-01',
    );
    const view = (await trace(`of=parcel&id=${mixed!.id}&way=back`)).body as TraceView;
    expect(view.recall).toBeNull();
    expect(view.origins.map((o) => [o.name, Number(o.share.toFixed(6))])).toEqual([
      ['TL', 0.85],
      ['NK', 0.15],
    ]);
    expect(view.steps.map((s) => [s.kind, s.batchCode])).toEqual(
      expect.arrayContaining([
        ['grind', 'NK-01'],
        ['grind', 'TL-01'],
        ['mould', 'TL-01'],
      ]),
    );
    expect(view.rows.map((r) => r.code)).toEqual(['NK-01', 'TL-01']);
    const second = (await trace(`of=batch&id=${ids.second}&way=back`)).body as TraceView;
    expect(second.origins.map((o) => o.name)).toEqual(['TL', 'NK']);
    // NK-01 is behind it too, so the run before on Ida is traced itself and no stranger.
    expect(second.neighbours).toEqual([]);
  });

  test('a recall is kept with its figures and sets everything aside in one act, and one undo lets it go', async () => {
    const held = async () =>
      ((await shop.send('GET', '/api/stock-items')).body as StockItem[]).filter((i) => i.onHold);
    expect(await held()).toEqual([]);
    const kept = await put('/api/recalls', {
      of: 'lot',
      id: ids.lot,
      isPractice: false,
      reason: 'salmonella found by the laboratory',
      setAside: true,
    });
    expect(kept.status).toBe(201);
    expect((await held()).map((i) => i.batchCode ?? i.lotCode).sort()).toEqual([
      'NK',
      'NK-01',
      'NK-01',
      'TL-01',
    ]);
    const [record] = (await shop.send('GET', '/api/recalls')).body as RecallRecord[];
    expect(record).toMatchObject({
      number: 1,
      by: 'AK',
      isPractice: false,
      setAside: true,
      figures: { bars: { delivered: 40 }, customers: [{ name: 'Harbour Café' }] },
    });
    expect((await shop.send('GET', `/api/recalls/${record!.id}`)).body).toEqual(record);
    const now = await forward(`of=lot&id=${ids.lot}`);
    expect(now.recall!.toSetAside).toEqual([]);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: kept.seq })).status).toBe(201);
    expect(await held()).toEqual([]);
    expect((await shop.send('GET', '/api/recalls')).body).toEqual([]);
  });

  test('what has only begun, or whose making was taken back, has nothing behind it, and says so without failing', async () => {
    const lot = await maker.lot('NB', 10);
    const begun = await maker.batch('NB-01', lot.id);
    const step = await maker.step(begun, 'roast');
    await maker.take(step, lot.parcelId, 5);
    const made = await maker.make(step, 'roasted beans', 4);
    const { lastSeq } = (await shop.send('GET', `/api/batches/${begun}`)).body;
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: lastSeq })).status).toBe(201);
    for (const query of [`of=batch&id=${begun}`, `of=parcel&id=${made.parcelId}`])
      for (const way of ['back', 'forward']) {
        const { status, body } = await trace(`${query}&way=${way}`);
        expect({ query, way, status }).toEqual({ query, way, status: 200 });
        if (way === 'back') expect([body.rows, body.origins]).toEqual([[], []]);
      }
  });

  test('what came straight off the shelf is in the picture, from where it went and from where it lay', async () => {
    const lot = await maker.lot('SH', 10);
    const batchId = await maker.batch('SH-01', lot.id);
    const roast = await maker.step(batchId, 'roast');
    await maker.take(roast, lot.parcelId, 7);
    const beans = await maker.make(roast, 'roasted beans', 6.5);
    const bowl = await maker.step(batchId, 'recipe');
    await maker.take(bowl, beans.parcelId, 6.5);
    await maker.weigh(bowl, 'cane-sugar', 2.5);
    await maker.make(bowl, 'chocolate', 9);
    const { body: shelf } = await shop.send('GET', '/api/ingredients');
    const sugar = (shelf as { id: string; key: string }[]).find((i) => i.key === 'cane-sugar')!.id;
    const link = {
      parcelId: sugar,
      name: 'Cane sugar',
      fromBatchId: null,
      toBatchId: batchId,
      massMg: kg(2.5),
    };
    for (const query of [`of=batch&id=${batchId}&way=back`, `of=ingredient&id=${sugar}&way=forward`])
      expect((await trace(query)).body.links).toContainEqual(
        expect.objectContaining({ ...link, toStation: 'recipe', isTraced: true }),
      );
    // Of the beans' trace it is what else is in it.
    expect((await trace(`of=lot&id=${lot.id}&way=forward`)).body.links).toContainEqual(
      expect.objectContaining({ ...link, isTraced: false }),
    );
  });

  test('what nobody knows is refused with what would be right', async () => {
    const codeless = await trace('of=code&id=XX-99');
    expect([codeless.status, codeless.body.detail]).toEqual([
      404,
      expect.stringContaining('the code of bars, a batch, a lot, a delivery or a box'),
    ]);
    expect((await trace('of=lot&id=NK')).status).toBe(422);
    expect((await trace(`of=lot&id=${v7()}`)).status).toBe(404);
    expect((await trace(`of=person&id=ZZ`)).body.detail).toContain('initials');
    const inverted = await trace(
      `of=machine&id=${ids.ida}&from=2026-10-04T00:00:00Z&to=2026-10-03T00:00:00Z`,
    );
    expect(inverted.status).toBe(422);
    expect((await put('/api/recalls', { of: 'lot', id: ids.lot, isPractice: true, reason: '' })).status).toBe(
      422,
    );
  });
});
