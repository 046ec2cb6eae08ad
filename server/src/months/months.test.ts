import { v7 } from 'uuid';
import type { BatchCost, MonthBook } from '@wunsch/contract';
import { totalCost } from '@wunsch/core/cost';
import { USUAL_DATABASE, kg, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('months on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let taken: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    // A batch of August 2026: 5 kg of chocolate bought at 9.00 a kg become 90 bars, 200 g are lost for no known reason.
    const lot = await maker.lot('MO', 20, { material: 'chocolate', receivedOn: '2026-08-03' });
    const batch = await maker.batch('MO-01', lot.id, { startedAt: '2026-08-10T08:00:00Z' });
    const step = await maker.step(batch, 'mould', { startedAt: '2026-08-10T08:00:00Z' });
    taken = v7();
    await shop.send('PUT', `/api/movements/${taken}`, {
      stepId: step,
      direction: 'in',
      parcelId: lot.parcelId,
      massMg: kg(5),
      at: '2026-08-10T08:00:00Z',
    });
    const bars = v7();
    await shop.send('PUT', `/api/movements/${v7()}`, {
      stepId: step,
      direction: 'out',
      material: 'bars',
      parcelId: bars,
      massMg: kg(4.8),
      count: 96,
      at: '2026-08-10T09:00:00Z',
    });
    await shop.send('PUT', `/api/steps/${step}/close`, {
      remainder: 'unexplained',
      remainderId: v7(),
      endedAt: '2026-08-10T10:00:00Z',
    });
    const customer = v7();
    await shop.send('PUT', `/api/customers/${customer}`, { name: 'Harbour', channel: 'shop' });
    const sold = await shop.send('PUT', `/api/deliveries/${v7()}`, {
      customerId: customer,
      at: '2026-08-20T10:00:00Z',
      lines: [{ parcelId: bars, count: 40, price: 450, stepId: v7(), takenId: v7(), lossId: v7() }],
    });
    expect(sold.status).toBe(201);
    // Ten more over the counter, and two given away.
    for (const [count, destination, fetched] of [
      [10, 'sold', 5000],
      [2, 'gift', 0],
    ] as const) {
      const body = { parcelId: bars, count, destination, fetched, at: '2026-08-21T10:00:00Z' };
      const left = await shop.send('PUT', `/api/leaves/${v7()}`, { ...body, takenId: v7(), lossId: v7() });
      expect(left.status).toBe(201);
    }
  });
  afterAll(() => shop.close());

  const book = async () => (await shop.send('GET', '/api/months')).body as MonthBook;
  const august = async () => (await book()).find((m) => m.month === '2026-08')!;
  const sign = async (month: string, figures: object, cookie?: string) =>
    shop.send('PUT', `/api/month-signs/${v7()}`, { month, figures }, cookie ? { cookie } : undefined);

  test('what a month came to is what its weights and deliveries come to by hand', async () => {
    const { now, signed } = await august();
    expect(signed).toBeNull();
    expect(now).toMatchObject({
      receivedMg: kg(20),
      barsMade: 96,
      barsOut: 52,
      fetched: 40 * 450 + 5000,
      unexplainedMg: kg(0.2),
    });
    expect(now.costOfBars).toBeGreaterThan(5 * 800);
  });

  test('ingredients and packaging stand in the month they came in, at what that delivery cost', async () => {
    const [sugar] = (await shop.send('GET', '/api/ingredients')).body as { id: string }[];
    const came = async (more: object) => {
      const id = v7();
      const body = {
        supplier: 'Quay',
        parcelId: v7(),
        stepId: v7(),
        movementId: v7(),
        at: '2026-08-05T08:00:00Z',
      };
      return { id, ...(await shop.send('PUT', `/api/supplies/${id}`, { ...body, ...more })) };
    };
    const before = await august();
    const sack = { ingredientId: sugar!.id, name: 'Cane sugar', massMg: kg(25), pricePerKg: 321 };
    expect((await came({ ...sack, receivedOn: '2026-08-05' })).status).toBe(201);
    expect((await came({ ...sack, receivedOn: '2026-09-01' })).status).toBe(201);
    const wraps = { ingredientId: null, name: 'Wraps', massMg: kg(3), count: 1000, pricePerKg: 2400 };
    const last = await came({ ...wraps, receivedOn: '2026-08-31' });
    expect(last.status).toBe(201);
    const { now } = await august();
    expect(now).toEqual({ ...before.now, suppliesValue: 25 * 321 + 3 * 2400 });
    await shop.send('PUT', `/api/undos/${v7()}`, { seq: last.body.seq });
    expect((await august()).now.suppliesValue).toBe(25 * 321);
  });

  test('what bars cost goes with the month they were made in, not with the one their batch was begun in', async () => {
    const lot = await maker.lot('MP', 20, { material: 'chocolate', receivedOn: '2026-02-01' });
    const batch = await maker.batch('MP-01', lot.id, { startedAt: '2026-03-20T08:00:00Z' });
    // 40 bars at the end of March, 60 in April, of bars that all cost the same.
    for (const [day, count] of [
      ['2026-03-30', 40],
      ['2026-04-02', 60],
    ] as const) {
      const step = await maker.step(batch, 'mould', { startedAt: `${day}T08:00:00Z` });
      await maker.take(step, lot.parcelId, count * 0.05);
      await maker.make(step, 'bars', count * 0.05, { count });
      const closed = { remainder: null, remainderId: v7(), endedAt: `${day}T10:00:00Z` };
      expect((await shop.send('PUT', `/api/steps/${step}/close`, closed)).status).toBe(201);
    }
    const [cost] = (await shop.send('GET', `/api/costs?batchId=${batch}`)).body as BatchCost[];
    const each = totalCost(cost!.bar);
    const months = await book();
    const of = (name: string) => months.find((m) => m.month === name)!.now;
    expect([of('2026-03').barsMade, of('2026-04').barsMade]).toEqual([40, 60]);
    expect(of('2026-03').costOfBars).toBe(Math.round(40 * each));
    expect(of('2026-04').costOfBars).toBe(Math.round(60 * each));
  });

  test('husk that is sold makes the bars cheaper, once, and stands among the sales', async () => {
    const lot = await maker.lot('MH', 10, { material: 'roasted beans', receivedOn: '2026-01-02' });
    const batch = await maker.batch('MH-01', lot.id, { startedAt: '2026-01-14T08:00:00Z' });
    const at = (hour: number) => `2026-01-14T${String(hour).padStart(2, '0')}:00:00Z`;
    const close = async (id: string, hour: number) => {
      const closed = { remainder: null, remainderId: v7(), endedAt: at(hour) };
      expect((await shop.send('PUT', `/api/steps/${id}/close`, closed)).status).toBe(201);
    };
    const winnow = await maker.step(batch, 'winnow', { startedAt: at(8) });
    await maker.take(winnow, lot.parcelId, 5);
    const nibs = await maker.make(winnow, 'nibs', 4);
    const husk = await maker.make(winnow, 'husk', 1);
    await close(winnow, 9);
    const grind = await maker.step(batch, 'grind', { startedAt: at(9) });
    await maker.take(grind, nibs.parcelId, 4);
    const chocolate = await maker.make(grind, 'chocolate', 4);
    await close(grind, 10);
    const mould = await maker.step(batch, 'mould', { startedAt: at(10) });
    await maker.take(mould, chocolate.parcelId, 4);
    await maker.make(mould, 'bars', 4, { count: 80 });
    await close(mould, 11);
    const january = async () => (await book()).find((m) => m.month === '2026-01')!.now;
    const before = await january();
    const sold = { parcelId: husk.parcelId, massMg: kg(1), destination: 'sold', fetched: 400, at: at(12) };
    const left = await shop.send('PUT', `/api/leaves/${v7()}`, { ...sold, takenId: v7(), lossId: v7() });
    expect(left.status).toBe(201);
    const [cost] = (await shop.send('GET', `/api/costs?batchId=${batch}`)).body as BatchCost[];
    expect(cost!.bar.credit).toBeCloseTo(-400 / 80, 6);
    const after = await january();
    expect(after.costOfBars).toBe(Math.round(80 * totalCost(cost!.bar)));
    expect(before.costOfBars - after.costOfBars).toBe(400);
    expect([before.fetched, after.fetched, after.barsOut]).toEqual([0, 400, 0]);
  });

  test('signed off its figures are kept; a correction afterwards shows beside them, and is named', async () => {
    const { now } = await august();
    const signed = await sign('2026-08', now);
    expect(signed.status).toBe(201);
    expect((await sign('2026-08', now)).body.code).toBe('month-signed');
    expect((await august()).signed).toMatchObject({ by: 'AK', figures: now });
    const corrected = await shop.send('PUT', `/api/corrections/${v7()}`, {
      movementId: taken,
      massMg: kg(5.1),
      reason: 'misread',
    });
    expect(corrected.status).toBe(201);
    const after = await august();
    expect(after.signed!.figures).toEqual(now);
    expect(after.now.unexplainedMg).toBe(kg(0.3));
    expect(after.corrections).toEqual([
      expect.objectContaining({
        by: 'AK',
        batchCode: 'MO-01',
        label: 'MO lot',
        material: 'chocolate',
        loss: null,
        fromMg: kg(5),
        toMg: kg(5.1),
        reason: 'misread',
      }),
    ]);
    // A price restated changes what the bars are said to have cost, and that is said too.
    expect(after.now.costOfBars).not.toBe(now.costOfBars);
    const reopened = await shop.send('PUT', `/api/month-signs/${signed.body.id}/reopening`, {
      reason: 'to mend it',
    });
    expect(reopened.status).toBeLessThan(300);
    expect((await august()).signed).toBeNull();
  });

  test('what is not over, no month, or not an owner’s to sign is refused', async () => {
    const { now } = await august();
    expect((await sign('2199-01', now)).body.code).toBe('month-not-over');
    expect((await sign('2026-13', now)).status).toBe(422);
    expect((await sign('2026-07', { ...now, barsMade: Number.NaN })).status).toBe(422);
    const vi = await signIn(shop, 'Vi', 'another password');
    expect((await sign('2026-07', now, vi)).status).toBe(403);
  });

  test('a month is that of the place the workshop stands in; one signed by another calendar keeps to it', async () => {
    // Poured at half past one on the first of June in Berlin: in Greenwich it is still May.
    const lot = await maker.lot('TZ', 5, { material: 'couverture', receivedOn: '2026-05-02' });
    const batch = await maker.batch('TZ-01', lot.id, { startedAt: '2026-05-31T23:20:00Z' });
    const step = await maker.step(batch, 'mould', { startedAt: '2026-05-31T23:20:00Z' });
    await maker.take(step, lot.parcelId, 1);
    await maker.make(step, 'bars', 1, { count: 20 });
    const ended = { remainder: null, remainderId: v7(), endedAt: '2026-05-31T23:30:00Z' };
    await shop.send('PUT', `/api/steps/${step}/close`, ended);
    const barsOf = async (month: string) => (await book()).find((m) => m.month === month)?.now.barsMade ?? 0;
    const hours = (await shop.send('GET', '/api/work-hours')).body as { version: number; timeZone: string };
    const { version, ...facts } = hours;
    const stand = (timeZone: string, at: number) =>
      shop.send(
        'PUT',
        `/api/work-hours/${v7()}`,
        { ...facts, timeZone },
        at > 0 ? { 'if-match': `"${at}"` } : undefined,
      );
    expect((await stand('UTC', version)).status).toBe(201);
    expect([await barsOf('2026-05'), await barsOf('2026-06')]).toEqual([20, 0]);
    const may = (await book()).find((m) => m.month === '2026-05')!;
    expect(may.timeZone).toBe('UTC');
    expect((await sign('2026-05', may.now)).status).toBe(201);
    expect((await stand('Europe/Berlin', version + 1)).status).toBe(201);
    // May was signed by Greenwich and stays as it was; June is Berlin’s.
    const after = await book();
    expect(after.find((m) => m.month === '2026-05')).toMatchObject({ timeZone: 'UTC', now: may.now });
    expect(after.find((m) => m.month === '2026-06')).toMatchObject({
      timeZone: 'Europe/Berlin',
      now: { barsMade: 20 },
    });
    const wrong = await shop.send('PUT', `/api/month-signs/${v7()}`, {
      month: '2026-06',
      timeZone: 'Mars/Olympus',
      figures: may.now,
    });
    expect(wrong.body).toMatchObject({ status: 422, field: 'timeZone' });
  });
});
