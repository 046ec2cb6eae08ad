import { eq } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { Delivery, KeptLook, StockItem, StockPace, StockProof, StockValues } from '@wunsch/contract';
import { step as stepTable } from '../db/schema/index.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { stillWanted } from './deliveries.ts';

/** Bars on a shelf: a lot of bought chocolate moulded into a batch’s bars. */
async function moulded(maker: Maker, code: string, count: number) {
  const lot = await maker.lot(code, 40, { material: 'chocolate' });
  const batch = await maker.batch(`${code}-01`, lot.id);
  const step = await maker.step(batch, 'mould', {
    details: { bestBefore: '2027-09-01', barCode: `${code}B` },
  });
  await maker.take(step, lot.parcelId, (count * 50) / 1000 + 0.2);
  const bars = await maker.make(step, 'bars', (count * 50) / 1000, { count, place: 'shelf' });
  await maker.close(step, 'hold-up');
  return { lot, batch, step, parcelId: bars.parcelId };
}

const line = (parcelId: string, more: object = {}) => ({
  parcelId,
  stepId: v7(),
  takenId: v7(),
  lossId: v7(),
  ...more,
});

describe.each(USUAL_DATABASE)('stock on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const items = async () => (await shop.send('GET', '/api/stock-items')).body as StockItem[];
  const item = async (id: string) => (await items()).find((i) => i.id === id);
  const proof = async () => (await shop.send('GET', '/api/stock-proof')).body as StockProof;
  const even = async () => {
    const { mass, bars } = await proof();
    expect([mass.differenceMg, bars.difference]).toEqual([0, 0]);
  };
  const values = async () => (await shop.send('GET', '/api/stock-values')).body as StockValues;
  const worthOf = async (id: string) => (await values()).items.find((v) => v.parcelId === id);
  const put = async (path: string, body: object) => {
    const id = v7();
    const answer = await shop.send('PUT', `${path}/${id}`, body);
    return { ...answer, id, seq: answer.body?.seq as number };
  };
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });

  test('what is on hand stands with its place, best before, origin and what it has cost', async () => {
    const { parcelId } = await moulded(maker, 'SA', 100);
    const bars = (await item(parcelId))!;
    expect(bars).toMatchObject({
      material: 'bars',
      count: 100,
      place: 'shelf',
      bestBefore: '2027-09-01',
      batchCode: 'SA-01',
      lotName: 'SA lot',
      onHold: false,
    });
    // 5.2 kg at 9.00 a kg went into 5 kg of bars.
    expect(await worthOf(bars.id)).toMatchObject({
      materials: expect.closeTo(5.2 * 900, 6),
      unpriced: false,
    });
    await even();
  });

  test('a part of a parcel is moved as a parcel of its own, the whole keeps its id, and both are taken back', async () => {
    const { parcelId } = await moulded(maker, 'SB', 60);
    const part = { parcelId: v7(), stepId: v7(), takenId: v7(), madeId: v7() };
    const some = await put('/api/moves', { place: 'shop', parcels: [{ parcelId, count: 24, part }] });
    expect(some.status).toBe(201);
    expect(await item(part.parcelId)).toMatchObject({
      count: 24,
      place: 'shop',
      remainingMg: 1_200_000,
      bestBefore: '2027-09-01',
      barCode: 'SBB',
    });
    expect(await item(parcelId)).toMatchObject({ count: 36, place: 'shelf' });
    const all = await put('/api/moves', { place: 'market box', parcels: [{ parcelId }] });
    expect(await item(parcelId)).toMatchObject({ count: 36, place: 'market box' });
    await even();
    // Joined again: only of one batch and kind.
    const other = await moulded(maker, 'SC', 10);
    const joining = (ids: string[]) => ({
      parcels: ids.map((id) => ({ parcelId: id, takenId: v7() })),
      madeId: v7(),
      parcelId: v7(),
      label: 'all',
    });
    const mixed = await put('/api/joinings', joining([parcelId, other.parcelId]));
    expect([mixed.status, mixed.body.code]).toEqual([422, 'not-the-same']);
    const body = joining([parcelId, part.parcelId]);
    const joined = await put('/api/joinings', body);
    expect(await item(body.parcelId)).toMatchObject({ count: 60, remainingMg: 3_000_000, label: 'all' });
    await even();
    expect((await undo(joined.seq)).status).toBe(201);
    expect((await undo(all.seq)).status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ count: 36, place: 'shelf' });
    expect((await undo(some.seq)).status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ count: 60, remainingMg: 3_000_000 });
    expect(await item(part.parcelId)).toBeUndefined();
    await even();
  });

  test('a delivery serves its order; what comes back keeps its batch and opens the order again', async () => {
    const { parcelId } = await moulded(maker, 'SD', 50);
    const customerId = (await put('/api/customers', { name: 'Harbour Café', channel: 'trade' })).id;
    const [shelf] = (await shop.send('GET', '/api/ingredients')).body as { id: string }[];
    const recipe = await put('/api/recipes', {
      name: 'Plain',
      lines: [{ ingredientId: shelf!.id, massMg: kg(1) }],
    });
    const recipeId = recipe.id;
    const order = await put('/api/orders', {
      customerId,
      due: '2027-01-01T12:00:00Z',
      lines: [{ id: v7(), recipeId, bars: 30 }],
    });
    const orderNow = async () =>
      (await shop.send('GET', '/api/plan')).body.allOrders.find((o: { id: string }) => o.id === order.id);
    const first = line(parcelId, { count: 20, price: 410 });
    const sent = await put('/api/deliveries', { customerId, orderId: order.id, lines: [first] });
    expect(sent.status).toBe(201);
    expect((await orderNow()).state).toBe('open');
    // What has gone out is no longer planned for.
    const planned = (await shop.send('GET', '/api/plan')).body.orders as { orderId: string; bars: number }[];
    expect(planned.find((o) => o.orderId === order.id)?.bars).toBe(10);
    const second = line(parcelId, { count: 10, price: 410 });
    const rest = await put('/api/deliveries', { customerId, orderId: order.id, lines: [second] });
    expect((await orderNow()).state).toBe('delivered');
    const shown = (await shop.send('GET', `/api/deliveries/${sent.id}`)).body as Delivery;
    expect(shown).toMatchObject({ customer: 'Harbour Café', number: 1, orderId: order.id });
    expect(shown.lines).toMatchObject([
      { batchCode: 'SD-01', barCode: 'SDB', count: 20, massMg: 1_000_000, price: 410, returnedCount: 0 },
    ]);
    await even();

    // Three come back, set aside until they have been looked at.
    const back = { stepId: first.stepId, count: 3, parcelId: v7(), madeId: v7(), lossId: v7() };
    const many = await put('/api/returns', { deliveryId: sent.id, lines: [{ ...back, count: 21 }] });
    expect([many.status, many.body.code]).toEqual([409, 'oversubscribed']);
    const returned = await put('/api/returns', {
      deliveryId: sent.id,
      lines: [back],
      place: 'back room',
      reason: 'wet box',
    });
    expect(returned.status).toBe(201);
    expect(await item(back.parcelId)).toMatchObject({
      count: 3,
      place: 'back room',
      onHold: true,
      holdReason: 'wet box',
      batchCode: 'SD-01',
      bestBefore: '2027-09-01',
    });
    expect((await orderNow()).state).toBe('open');
    await even();
    // The delivery cannot be taken back beneath it, nor the batch voided beneath the delivery.
    expect((await undo(sent.seq)).body.code).toBe('returned-since');
    expect(await put('/api/returns', { deliveryId: v7(), lines: [back] })).toMatchObject({ status: 404 });
    expect((await undo(returned.seq)).status).toBe(201);
    expect((await orderNow()).state).toBe('delivered');
    await even();
    expect((await undo(rest.seq)).status).toBe(201);
    expect((await undo(sent.seq)).status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ count: 50 });
    expect((await shop.send('GET', '/api/deliveries')).body).toEqual([]);
    await even();
  });

  test('all of a line comes back, and goes out again when that is taken back', async () => {
    const { parcelId, batch } = await moulded(maker, 'SE', 12);
    const customerId = (await put('/api/customers', { name: 'Lantern', channel: 'trade' })).id;
    const out = line(parcelId);
    const sent = await put('/api/deliveries', { customerId, lines: [out] });
    expect((await shop.send('GET', `/api/deliveries/${sent.id}`)).body.lines[0].count).toBe(12);
    const voiding = await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'void', reason: 'slip' });
    expect([voiding.status, voiding.body.code]).toEqual([409, 'delivered']);
    const back = { stepId: out.stepId, parcelId: v7(), madeId: v7(), lossId: v7() };
    const returned = await put('/api/returns', { deliveryId: sent.id, lines: [back], onHold: false });
    expect(returned.status).toBe(201);
    expect(await item(back.parcelId)).toMatchObject({ count: 12, onHold: false });
    await even();
    expect((await undo(returned.seq)).status).toBe(201);
    const again = (await shop.send('GET', `/api/deliveries/${sent.id}`)).body as Delivery;
    expect(again.lines[0]).toMatchObject({ count: 12, returnedCount: 0 });
    await even();
  });

  test('beans sold by weight are told in the trail by it, and so is what comes back of them', async () => {
    const { parcelId } = await maker.lot('SW', 64.5);
    const customerId = (await put('/api/customers', { name: 'Riverside Cocoa', channel: 'trade' })).id;
    const sold = line(parcelId, { massMg: kg(40), price: 650 });
    const sent = await put('/api/deliveries', { customerId, lines: [sold] });
    expect(sent.status).toBe(201);
    const last = async () => (await shop.send('GET', '/api/trail?limit=1')).body[0].summary as object;
    expect(await last()).toEqual({ massMg: kg(40), lines: 1 });
    expect(await item(parcelId)).toMatchObject({ remainingMg: kg(24.5) });
    const back = { stepId: sold.stepId, massMg: kg(5), parcelId: v7(), madeId: v7(), lossId: v7() };
    await put('/api/returns', { deliveryId: sent.id, lines: [back], reason: 'damp' });
    expect(await last()).toEqual({ massMg: kg(5), reason: 'damp' });
    await even();
  });

  test('what is set aside is neither sold, boxed nor used until it is let go; waste it may become', async () => {
    const { parcelId } = await moulded(maker, 'SF', 20);
    const customerId = (await put('/api/customers', { name: 'Mill Lane', channel: 'private' })).id;
    await put('/api/parcel-holds', { parcelIds: [parcelId], onHold: true, reason: 'smells of onions' });
    expect(await item(parcelId)).toMatchObject({ onHold: true, holdReason: 'smells of onions' });
    const sold = await put('/api/deliveries', { customerId, lines: [line(parcelId)] });
    expect([sold.status, sold.body.code]).toEqual([409, 'set-aside']);
    expect(sold.body.detail).toContain('smells of onions');
    const leave = (destination: string) =>
      put('/api/leaves', { parcelId, count: 2, destination, takenId: v7(), lossId: v7() });
    expect((await leave('gift')).body.code).toBe('set-aside');
    expect((await leave('waste')).status).toBe(201);
    const go = await put('/api/parcel-holds', { parcelIds: [parcelId], onHold: false, reason: 'aired' });
    expect((await leave('gift')).status).toBe(201);
    expect((await undo(go.seq)).status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ onHold: true, holdReason: 'smells of onions', count: 16 });
    await even();
  });

  test('stock is taken: what is missing and what is found go into the books with their reasons, never over them', async () => {
    const { parcelId, lot } = await moulded(maker, 'SG', 40);
    const now = async (id: string) => {
      const i = (await item(id))!;
      return { parcelId: id, expectedMg: i.remainingMg, expectedCount: i.count };
    };
    const ids = () => ({ stepId: v7(), takenId: v7(), lossId: v7() });
    const unsaid = await put('/api/stock-counts', {
      lines: [{ ...(await now(parcelId)), foundCount: 37, ...ids() }],
    });
    expect([unsaid.status, unsaid.body.code]).toEqual([422, 'reason-wanted']);
    const beans = await now(lot.parcelId);
    const counted = await put('/api/stock-counts', {
      place: 'shelf',
      lines: [
        { ...(await now(parcelId)), foundCount: 37, reason: 'eaten', ...ids() },
        { ...beans, foundMg: beans.expectedMg + 30_000, reason: 'miscounted', ...ids() },
      ],
    });
    expect(counted.status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ count: 37, remainingMg: 1_850_000 });
    expect((await item(lot.parcelId))!.remainingMg).toBe(beans.expectedMg + 30_000);
    const after = await proof();
    expect(after.bars.lost).toBe(3);
    expect(after.mass.foundMg).toBe(30_000);
    expect(after.mass.losses).toContainEqual({ reason: 'eaten', massMg: 150_000 });
    await even();
    // Counted against what the books said an hour ago.
    const stale = await put('/api/stock-counts', {
      lines: [
        { parcelId, expectedMg: 2_000_000, expectedCount: 40, foundCount: 39, reason: 'eaten', ...ids() },
      ],
    });
    expect([stale.status, stale.body.code]).toEqual([409, 'changed-since']);
    expect((await undo(counted.seq)).status).toBe(201);
    expect(await item(parcelId)).toMatchObject({ count: 40, remainingMg: 2_000_000 });
    await even();
  });

  test('what is used has a pace, and a day on which it runs out; what nobody uses has none', async () => {
    const [sugar, other, unkept] = (await shop.send('GET', '/api/ingredients')).body as {
      id: string;
      name: string;
    }[];
    const supply = (ingredientId: string, massMg: number) =>
      put('/api/supplies', {
        ingredientId,
        name: 'delivery',
        massMg,
        receivedOn: '2026-09-01',
        stepId: v7(),
        movementId: v7(),
        parcelId: v7(),
      });
    expect((await supply(sugar!.id, kg(10))).status).toBe(201);
    expect((await supply(other!.id, kg(3))).status).toBe(201);
    const lot = await maker.lot('SP', 10, { material: 'nibs' });
    const grind = await maker.step(await maker.batch('SP-01', lot.id), 'grind');
    await put('/api/movements', { stepId: grind, direction: 'in', ingredientId: sugar!.id, massMg: kg(2) });
    await put('/api/movements', { stepId: grind, direction: 'in', ingredientId: unkept!.id, massMg: kg(1) });
    const paces = (await shop.send('GET', '/api/stock-paces')).body as StockPace[];
    const of = (name: string) => paces.find((p) => p.kind === 'ingredient' && p.name === name);
    // Used for a day only: a pace of a week at least.
    expect(of(sugar!.name)).toMatchObject({ onHand: kg(8), used: kg(2), days: 7, daysLeft: 28 });
    expect(of(other!.name)).toMatchObject({ onHand: kg(3), used: 0, daysLeft: null });
    // Of what nobody keeps a stock it is not said that it is gone.
    expect(of(unkept!.name)).toMatchObject({ used: kg(1), daysLeft: null });
    expect(paces.findIndex((p) => p.name === sugar!.name)).toBeLessThan(
      paces.findIndex((p) => p.name === other!.name),
    );
  });

  test('liquor is pressed in one act: butter, cake and what stays in the press add up to it, and one undo puts it back', async () => {
    const lot = await maker.lot('PRS', 12, { material: 'liquor' });
    const pressing = (butter: number, cake: number, more: object = {}) =>
      put('/api/pressings', {
        parcelId: lot.parcelId,
        takenId: v7(),
        butter: { movementId: v7(), parcelId: v7(), massMg: kg(butter) },
        cake: { movementId: v7(), parcelId: v7(), massMg: kg(cake) },
        lossId: v7(),
        ...more,
      });
    const mine = async () =>
      Promise.all(
        (await items())
          .filter((i) => ['liquor', 'cocoa butter', 'cocoa powder'].includes(i.material))
          .map(async (i) => [i.material, i.remainingMg, Math.round((await worthOf(i.id))!.materials)]),
      ).then((rows) => rows.sort());
    const before = await mine();
    expect(before).toEqual([['liquor', kg(12), 12 * 900]]);
    for (const [butter, cake] of [
      [6, 6.1],
      [6.6, 5],
    ] as const)
      expect(await pressing(butter, cake)).toMatchObject({ status: 422, body: { code: 'not-valid' } });
    expect(await pressing(4.2, 5.7, { massMg: kg(13) })).toMatchObject({
      status: 409,
      body: { code: 'oversubscribed' },
    });
    expect(await mine()).toEqual(before);
    const done = await pressing(4.2, 5.7, { massMg: kg(10) });
    expect(done.status).toBe(201);
    // By mass each kg of either costs what the liquor did, with what stayed in the press on top.
    const each = 9000 / 9.9;
    expect(await mine()).toEqual([
      ['cocoa butter', kg(4.2), Math.round(4.2 * each)],
      ['cocoa powder', kg(5.7), Math.round(5.7 * each)],
      ['liquor', kg(2), 1800],
    ]);
    // Of no lot or batch themselves, they are told by what they were pressed from.
    const pressed = (await items()).filter((i) => ['cocoa butter', 'cocoa powder'].includes(i.material));
    expect(pressed.map((i) => i.madeOf)).toEqual([['PRS lot'], ['PRS lot']]);
    expect((await items()).find((i) => i.id === lot.parcelId)!.madeOf).toEqual([]);
    await even();
    await undo(done.seq);
    expect(await mine()).toEqual(before);
    // The press and the hands at it count as elsewhere: its hours, and what went through it.
    const press = v7();
    await shop.send('PUT', `/api/machines/${press}`, { name: 'Press', station: 'recipe', kind: 'press' });
    const worked = { massMg: kg(10), machineId: press, ranMinutes: 90, handsOnMinutes: 60 };
    expect((await pressing(4.2, 5.7, { ...worked, machineId: v7() })).status).toBe(404);
    const paid = await pressing(4.2, 5.7, worked);
    expect(paid.status).toBe(201);
    const ran = async () => (await shop.send('GET', `/api/machines/${press}`)).body as { totals: object };
    expect((await ran()).totals).toEqual({ runs: 1, hours: 1.5, sinceServiceHours: 1.5, kg: 9.9 });
    const [line] = await shop.store.db.select().from(stepTable).where(eq(stepTable.machineId, press));
    expect(line).toMatchObject({ kind: 'press', handsOnMinutes: 60 });
    await undo(paid.seq);
    expect((await ran()).totals).toMatchObject({ runs: 0 });
    expect(await mine()).toEqual(before);
    const nibs = await maker.lot('PRN', 5, { material: 'nibs' });
    expect(await pressing(1, 1, { parcelId: nibs.parcelId })).toMatchObject({
      status: 422,
      body: { code: 'may-not-enter' },
    });
    await even();
  });

  test('a reorder point is set, changed and taken back, and stands with the pace; what is not there is refused', async () => {
    const [sugar] = (await shop.send('GET', '/api/ingredients')).body as { id: string; name: string }[];
    const at = async () =>
      ((await shop.send('GET', '/api/stock-paces')).body as StockPace[]).find((p) => p.key === sugar!.id)
        ?.reorderAt ?? null;
    const set = (atLeast: number | null, kind_ = 'ingredient', key = sugar!.id) =>
      put('/api/reorder-points', { kind: kind_, key, atLeast });
    expect(await at()).toBeNull();
    await set(kg(5));
    expect(await at()).toBe(kg(5));
    const second = await set(kg(8));
    expect(await at()).toBe(kg(8));
    // Taken back, what had been said before stands again.
    await undo(second.seq);
    expect(await at()).toBe(kg(5));
    await set(null);
    expect(await at()).toBeNull();
    expect(await set(kg(1), 'ingredient', v7())).toMatchObject({ status: 404, body: { code: 'not-found' } });
    expect(await set(10, 'bars', 'not an id')).toMatchObject({ status: 404 });
    for (const wrong of [0, -1, 1.5]) expect((await set(wrong)).status).toBe(422);
  });

  test('how long something takes to come is kept beside its reorder point, and by itself; taken back, it is as before', async () => {
    const [sugar] = (await shop.send('GET', '/api/ingredients')).body as { id: string }[];
    const said = async () => {
      const paces = (await shop.send('GET', '/api/stock-paces')).body as StockPace[];
      const found = paces.find((p) => p.key === sugar!.id);
      return [found?.reorderAt ?? null, found?.deliveryDays ?? null];
    };
    const set = (body: object) => put('/api/reorder-points', { kind: 'ingredient', key: sugar!.id, ...body });
    await set({ atLeast: kg(5), deliveryDays: 12 });
    expect(await said()).toEqual([kg(5), 12]);
    const bare = await set({ atLeast: null, deliveryDays: 40 });
    expect(await said()).toEqual([null, 40]);
    const { body } = await shop.send('GET', '/api/plan');
    expect(body.deliveries).toContainEqual({ kind: 'ingredient', key: sugar!.id, days: 40 });
    await undo(bare.seq);
    expect(await said()).toEqual([kg(5), 12]);
    // As an older release wrote it.
    await set({ atLeast: kg(6) });
    expect(await said()).toEqual([kg(6), null]);
    for (const deliveryDays of [-1, 400]) expect((await set({ atLeast: 5, deliveryDays })).status).toBe(422);
    await set({ atLeast: null });
    expect(await said()).toEqual([null, null]);
  });

  test('a look at a table is kept for everyone, forgotten, and either is taken back', async () => {
    const looks = async () =>
      ((await shop.send('GET', '/api/table-looks')).body as KeptLook[]).map((l) => [
        l.table,
        l.name,
        l.query,
      ]);
    const kept = await put('/api/table-looks', { table: 'stock', name: 'Shop', query: 'find=bar&by=place' });
    expect(kept.status).toBe(201);
    expect(await looks()).toEqual([['stock', 'Shop', 'find=bar&by=place']]);
    const gone = await shop.send('PUT', `/api/table-looks/${kept.id}/forgotten`, {});
    expect(await looks()).toEqual([]);
    expect((await shop.send('PUT', `/api/table-looks/${v7()}/forgotten`, {})).status).toBe(404);
    await undo(gone.body.seq as number);
    expect(await looks()).toHaveLength(1);
    await undo(kept.seq);
    expect(await looks()).toEqual([]);
    expect((await put('/api/table-looks', { table: 'moon', name: 'x', query: '' })).status).toBe(422);
  });
});

test('an order is served by bars of its own recipe first, then by what was taken instead', () => {
  const lines = [
    { recipeId: 'a', bars: 30 },
    { recipeId: 'b', bars: 10 },
  ];
  expect(stillWanted(lines, undefined)).toEqual(lines);
  expect(stillWanted(lines, new Map([['a', 12]]))).toEqual([
    { recipeId: 'a', bars: 18 },
    { recipeId: 'b', bars: 10 },
  ]);
  expect(
    stillWanted(
      lines,
      new Map([
        ['a', 30],
        ['', 4],
      ]),
    ),
  ).toEqual([{ recipeId: 'b', bars: 6 }]);
  expect(stillWanted(lines, new Map([['b', 60]]))).toEqual([]);
});
