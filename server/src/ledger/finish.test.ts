import { v7 } from 'uuid';
import type { BatchView, BenchView, Lot, ParcelRecord } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('acts that end or begin something, each one entry, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  const get = async <T>(url: string): Promise<T> => (await shop.send('GET', url)).body as T;
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });

  async function roasting(code: string) {
    const lot = await maker.lot(code, 20);
    const batchId = await maker.batch(`${code}-01`, lot.id);
    const roast = await maker.step(batchId, 'roast');
    await maker.take(roast, lot.parcelId, 2.4);
    const seen = () => get<BatchView>(`/api/batches/${batchId}`);
    return { batchId, roast, seen };
  }
  const finish = (step: string, body: object) =>
    shop.send('PUT', `/api/steps/${step}/finished`, { remainderId: v7(), ...body });
  const made = (mass: number, material = 'roasted beans') => ({
    material,
    massMg: kg(mass),
    movementId: v7(),
    parcelId: v7(),
  });
  const out = { kind: 'event', name: 'beans-out', note: '', value: null };

  test('beans come out with one entry: weight, event, timer and the moisture that went; one undo takes it all back', async () => {
    const { batchId, roast, seen } = await roasting('RO');
    const before = await seen();
    const dueAt = new Date(Date.now() + 4 * 3_600_000).toISOString();
    const at = new Date(Date.now() - 60_000).toISOString();
    const beans = made(2.26);
    const answer = await finish(roast, {
      made: [beans],
      notes: [
        { id: v7(), data: out, at },
        { id: v7(), data: { kind: 'timer', label: 'Rested', dueAt } },
      ],
      remainder: 'moisture',
      handsOnMinutes: 32,
    });
    expect(answer).toMatchObject({ status: 201, body: { seq: before.lastSeq + 1, batchId } });
    const after = await seen();
    expect(after.steps.find((s) => s.id === roast)).toMatchObject({ status: 'closed', handsOnMinutes: 32 });
    const lines = after.movements.filter((m) => m.stepId === roast && m.inForce);
    expect(lines.map((m) => [m.direction, m.massMg, m.reason])).toEqual([
      ['in', kg(2.4), null],
      ['out', kg(2.26), null],
      ['loss', kg(0.14), 'moisture'],
    ]);
    // The event is of the roast and when it was; the timer is of the batch.
    const notes = after.observations.map((o) => [o.data.kind, o.stepId, o.at]);
    expect(notes).toContainEqual(['event', roast, at]);
    expect(notes).toContainEqual(['timer', null, expect.any(String)]);
    expect((await get<BenchView>('/api/bench')).due.some((d) => d.label === 'Rested')).toBe(true);
    await undo(answer.body.seq);
    const back = await seen();
    expect(back.steps.find((s) => s.id === roast)).toMatchObject({ status: 'open', endedAt: null });
    expect(back.movements.filter((m) => m.stepId === roast && m.inForce)).toHaveLength(1);
    expect(back.observations).toEqual(before.observations);
    expect((await get<BenchView>('/api/bench')).due.some((d) => d.label === 'Rested')).toBe(false);
    expect((await get<ParcelRecord[]>('/api/stock')).some((p) => p.id === beans.parcelId)).toBe(false);
  });

  test('more out than in is refused, and nothing of the act is left behind', async () => {
    const { roast, seen } = await roasting('MO');
    const before = await seen();
    const notes = [{ id: v7(), data: out }];
    const refused = await finish(roast, { made: [made(2.5)], notes, remainder: 'moisture' });
    expect(refused).toMatchObject({ status: 422, body: { code: 'more-out-than-in' } });
    expect(await finish(roast, { made: [made(2.2)], notes, remainder: null })).toMatchObject({
      status: 422,
      body: { code: 'unbalanced' },
    });
    expect(await finish(v7(), { made: [made(1)], remainder: null })).toMatchObject({ status: 404 });
    expect(await finish(roast, { made: [made(2.2, 'gold')], remainder: 'moisture' })).toMatchObject({
      status: 422,
    });
    expect(await seen()).toEqual(before);
  });

  test('drawn off with what the sieve kept: chocolate, a weighed loss and the hold-up; sent twice it is one entry', async () => {
    const lot = await maker.lot('DR', 10, { material: 'nibs' });
    const batchId = await maker.batch('DR-01', lot.id);
    const grind = await maker.step(batchId, 'grind');
    await maker.take(grind, lot.parcelId, 7);
    await maker.weigh(grind, 'cane-sugar', 3);
    const body = {
      made: [{ ...made(9.8, 'blocks'), count: 8, place: 'rest shelf' }],
      lost: [{ reason: 'strained', massMg: kg(0.05), movementId: v7() }],
      remainder: 'hold-up',
      remainderId: v7(),
      handsOnMinutes: 20,
    };
    const answer = await shop.send('PUT', `/api/steps/${grind}/finished`, body);
    expect(answer.status).toBe(201);
    const again = await shop.send('PUT', `/api/steps/${grind}/finished`, body);
    expect(again.body).toMatchObject({ seq: answer.body.seq, repeated: true });
    const view = await get<BatchView>(`/api/batches/${batchId}`);
    expect(
      view.movements
        .filter((m) => m.inForce && m.direction !== 'in')
        .map((m) => [m.material ?? m.reason, m.massMg, m.source, m.count]),
    ).toEqual([
      ['blocks', kg(9.8), 'weighed', 8],
      ['strained', kg(0.05), 'weighed', null],
      ['hold-up', kg(0.15), 'derived', null],
    ]);
    const [parcel] = view.parcels.filter((p) => p.material === 'blocks');
    expect(parcel).toMatchObject({ count: 8, place: 'rest shelf', remainingMg: kg(9.8) });
    const trail = await get<{ kind: string; summary: object }[]>('/api/trail?limit=1');
    expect(trail[0]).toMatchObject({ kind: 'step.finish', summary: { material: 'blocks', count: 8 } });
  });

  test('a pest hold is planned and the lot held with one entry; taken back, it is as it was before', async () => {
    const { id } = await maker.lot('PH', 30);
    const plan = { method: 'freezing', sides: [0.8, 0.5, 0.3], startC: 20, airC: -20, coreC: -18, days: 7 };
    const begin = (of: string, more: object = {}) =>
      shop.send('PUT', `/api/holds/${v7()}`, {
        lotId: of,
        ...plan,
        reason: 'frozen',
        wasOnHold: false,
        ...more,
      });
    const held = async (of: string) => {
      const { lot, observations } = await get<{ lot: Lot; observations: { data: { kind: string } }[] }>(
        `/api/lots/${of}`,
      );
      return [lot.onHold, lot.holdReason, observations.filter((o) => o.data.kind === 'hold').length];
    };
    const answer = await begin(id);
    expect(answer.status).toBe(201);
    expect(await held(id)).toEqual([true, 'frozen', 1]);
    // Whoever still sees it free is told; whoever sees it held keeps why it was.
    expect(await begin(id)).toMatchObject({ status: 409, body: { code: 'changed-since' } });
    const second = await begin(id, { wasOnHold: true, reason: 'heated' });
    expect(await held(id)).toEqual([true, 'frozen', 2]);
    await undo(second.body.seq);
    expect(await held(id)).toEqual([true, 'frozen', 1]);
    await undo(answer.body.seq);
    expect(await held(id)).toEqual([false, '', 0]);
    expect(await begin(v7())).toMatchObject({ status: 404 });
    expect(await begin(id, { sides: [0.8, 0.5] })).toMatchObject({ status: 422 });
  });
});
