import { v7 } from 'uuid';
import type { BatchView, StockItem } from '@wunsch/contract';
import { kg, Maker, openWorkshop, USUAL_DATABASE, type TestWorkshop } from '../testing/workshop.ts';

const HOUR = 3_600_000;

describe.each(USUAL_DATABASE)('when work really was, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batch: string;
  let parcel: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('WN', 80, { material: 'nibs' });
    parcel = lot.parcelId;
    batch = await maker.batch('WN-01', lot.id);
  });
  afterAll(() => shop.close());

  const put = (path: string, body: object) => shop.send('PUT', `/api/${path}`, body);
  const view = async () => (await shop.send('GET', `/api/batches/${batch}`)).body as BatchView;
  const stepOf = async (id: string) => (await view()).steps.find((s) => s.id === id)!;
  const grindOf = async (id: string) => (await view()).grind.find((g) => g.stepId === id)!;
  const linesOf = async (id: string) =>
    (await view()).movements.filter((m) => m.stepId === id && m.inForce).map((m) => [m.direction, m.at]);
  const was = async (id: string) => {
    const { startedAt, endedAt } = await stepOf(id);
    return { startedAt, endedAt };
  };
  const ago = (hours: number) => new Date(Date.now() - hours * HOUR).toISOString();

  test('a weight put right was weighed when the first one was: a grinder that has run for hours goes on', async () => {
    const grind = await maker.step(batch, 'grind', { startedAt: ago(20) });
    const sugar = v7();
    await put(`movements/${v7()}`, {
      stepId: grind,
      direction: 'in',
      parcelId: parcel,
      massMg: kg(4),
      at: ago(20),
    });
    const shelf = (await shop.send('GET', '/api/ingredients')).body as { id: string; key: string | null }[];
    await put(`movements/${sugar}`, {
      stepId: grind,
      direction: 'in',
      ingredientId: shelf.find((i) => i.key === 'cane-sugar')!.id,
      massMg: 1800,
      at: ago(19),
    });
    const before = await grindOf(grind);
    expect(before.hours).toBeCloseTo(19, 1);
    const corrected = await put(`corrections/${v7()}`, {
      movementId: sugar,
      massMg: kg(1.8),
      reason: 'kg, not g',
    });
    expect(corrected.status).toBe(201);
    expect((await grindOf(grind)).segmentStart).toBe(before.segmentStart);
    expect((await put(`undos/${v7()}`, { seq: corrected.body.seq })).status).toBe(201);
    expect((await grindOf(grind)).segmentStart).toBe(before.segmentStart);
  });

  test('a grind entered the morning after is put where it began, its load with it, and back again', async () => {
    const grind = await maker.step(batch, 'grind');
    await maker.take(grind, parcel, 5);
    const seen = await was(grind);
    const [line] = await linesOf(grind);
    const startedAt = new Date(Date.parse(seen.startedAt) - 17 * HOUR).toISOString();
    const moved = await put(`steps/${grind}/times`, { startedAt, endedAt: null, was: seen });
    expect(moved.status).toBe(201);
    expect((await grindOf(grind)).hours).toBeCloseTo(17, 1);
    expect(Date.parse((await linesOf(grind))[0]![1]!)).toBe(Date.parse(line![1]!) - 17 * HOUR);
    // What was looked at is no longer so.
    expect(await put(`steps/${grind}/times`, { startedAt: ago(3), endedAt: null, was: seen })).toMatchObject({
      status: 409,
      body: { code: 'changed-since' },
    });
    expect((await put(`undos/${v7()}`, { seq: moved.body.seq })).status).toBe(201);
    expect(await was(grind)).toEqual(seen);
    expect(await linesOf(grind)).toEqual([line]);
    // Of a small step back only the load goes back again, not what was weighed in since.
    const sooner = new Date(Date.parse(seen.startedAt) - 5 * 60_000).toISOString();
    const small = await put(`steps/${grind}/times`, { startedAt: sooner, endedAt: null, was: seen });
    await maker.take(grind, parcel, 1);
    const [, since] = await linesOf(grind);
    expect((await put(`undos/${v7()}`, { seq: small.body.seq })).status).toBe(201);
    expect(await linesOf(grind)).toEqual([line, since]);
  });

  test('a step that has ended has both: what came out at its end moves too, and its parcel was made then', async () => {
    const grind = await maker.step(batch, 'grind', { startedAt: ago(30) });
    await put(`movements/${v7()}`, {
      stepId: grind,
      direction: 'in',
      parcelId: parcel,
      massMg: kg(6),
      at: ago(30),
    });
    await put(`movements/${v7()}`, {
      stepId: grind,
      direction: 'in',
      parcelId: parcel,
      massMg: kg(1),
      at: ago(26),
    });
    const made = await maker.make(grind, 'chocolate', 6.9);
    await maker.close(grind, 'hold-up');
    const seen = await was(grind);
    const endedAt = new Date(Date.parse(seen.endedAt!) - 5 * HOUR).toISOString();
    const times = (more: object) => put(`steps/${grind}/times`, { ...seen, was: seen, ...more });
    expect(await times({ endedAt: null })).toMatchObject({ status: 422, body: { code: 'not-ended' } });
    expect(await times({ endedAt: ago(40) })).toMatchObject({
      status: 422,
      body: { code: 'ends-before-begun' },
    });
    expect(await times({ endedAt: ago(-2) })).toMatchObject({ status: 422, body: { code: 'in-future' } });
    // The second load lay in there by then.
    expect(await times({ startedAt: ago(25) })).toMatchObject({
      status: 422,
      body: { code: 'weighed-before', field: 'startedAt' },
    });
    const before = await linesOf(grind);
    const moved = await times({ startedAt: ago(29), endedAt });
    expect(moved.status).toBe(201);
    const after = await linesOf(grind);
    const shift = before.map(([, at], i) => Math.round((Date.parse(after[i]![1]!) - Date.parse(at!)) / HOUR));
    expect(before.map(([direction], i) => [direction, shift[i]])).toEqual([
      ['in', 1],
      ['in', 0],
      ['out', -5],
      ['loss', -5],
    ]);
    const onHand = (await shop.send('GET', '/api/stock-items')).body as StockItem[];
    const item = onHand.find(
      (i) => i.id === made.parcelId || (i as { parcelId?: string }).parcelId === made.parcelId,
    );
    expect(Math.abs(Date.parse(item!.madeAt) - Date.parse(endedAt))).toBeLessThan(60_000);
    expect((await put(`undos/${v7()}`, { seq: moved.body.seq })).status).toBe(201);
    expect(await linesOf(grind)).toEqual(before);
    expect(await was(grind)).toEqual(seen);
  });

  test('a load of the morning that was entered at noon was out when it is said to have been', async () => {
    const lot = await maker.lot('MO', 20);
    const of = await maker.batch('MO-01', lot.id);
    const roast = await maker.step(of, 'roast');
    await maker.take(roast, lot.parcelId, 3);
    await maker.note(roast, { kind: 'event', name: 'pops' });
    const finished = await put(`steps/${roast}/finished`, {
      made: [{ material: 'roasted beans', massMg: kg(2.82), movementId: v7(), parcelId: v7() }],
      notes: [{ id: v7(), data: { kind: 'event', name: 'beans-out', note: '', value: null } }],
      remainder: 'moisture',
      remainderId: v7(),
    });
    expect(finished.status).toBe(201);
    const here = async () => (await shop.send('GET', `/api/batches/${of}`)).body as BatchView;
    const { startedAt, endedAt } = (await here()).steps.find((s) => s.id === roast)!;
    const seen = { startedAt, endedAt };
    const noted = async () =>
      Object.fromEntries(
        (await here()).observations.flatMap((o) => (o.data.kind === 'event' ? [[o.data.name, o.at]] : [])),
      );
    const before = await noted();
    const moved = await put(`steps/${roast}/times`, {
      startedAt: ago(4),
      endedAt: ago(3.5),
      was: seen,
      notesToo: true,
    });
    expect(moved.status).toBe(201);
    const after = await noted();
    const half = HOUR / 2;
    expect(Math.abs(Date.parse(after['beans-out']!) - Date.parse(ago(3.5)))).toBeLessThan(60_000);
    expect(after.pops).toBe(before.pops);
    const [load] = (await shop.send('GET', `/api/roasts?ids=${roast}`)).body as {
      step: { startedAt: string };
      events: { name: string; at: string }[];
    }[];
    const out = load!.events.find((e) => e.name === 'beans-out')!;
    expect(Math.abs(Date.parse(out.at) - Date.parse(load!.step.startedAt) - half)).toBeLessThan(60_000);
    expect((await put(`undos/${v7()}`, { seq: moved.body.seq })).status).toBe(201);
    expect(await noted()).toEqual(before);
  });
});
