import { v7 } from 'uuid';
import type { BatchView } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('a step that begins with its first weight, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let lot: { id: string; parcelId: string };
  let batchId: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    lot = await maker.lot('BW', 40);
    batchId = await maker.batch('BW-01', lot.id);
  });
  afterAll(() => shop.close());

  const view = async () => (await shop.send('GET', `/api/batches/${batchId}`)).body as BatchView;
  const lastSeq = async () => (await view()).lastSeq;
  const undo = async (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
  const begin = async (massMg: number | null, more: object = {}, step: object = {}) => {
    const ids = { movement: v7(), step: v7() };
    const answer = await shop.send('PUT', `/api/movements/${ids.movement}`, {
      stepId: ids.step,
      begins: { batchId, station: 'sort', details: {}, ...step },
      direction: 'in',
      parcelId: lot.parcelId,
      massMg,
      ...more,
    });
    return { ...answer, ...ids, seq: answer.body?.seq as number };
  };
  const steps = async () => (await view()).steps.map((s) => [s.id, s.kind, s.status]);
  const left = async () =>
    ((await shop.send('GET', `/api/lots/${lot.id}`)).body as { lot: { remainingMg: number } }).lot
      .remainingMg;

  test('is one entry, one line, and one undo takes both back', async () => {
    const before = await lastSeq();
    const { status, step, seq } = await begin(kg(12));
    expect(status).toBe(201);
    expect(await lastSeq()).toBe(before + 1);
    expect(await steps()).toEqual([[step, 'sort', 'open']]);
    expect((await view()).movements.map((m) => [m.stepId, m.massMg])).toEqual([[step, kg(12)]]);
    expect(await left()).toBe(kg(28));
    expect((await undo(seq)).status).toBe(201);
    expect(await steps()).toEqual([]);
    expect(await left()).toBe(kg(40));
  });

  test('stays when that weight is taken back after more has come of it', async () => {
    const { step, seq } = await begin(kg(5));
    const more = await maker.take(step, lot.parcelId, 2);
    expect((await undo(seq)).status).toBe(201);
    expect(await steps()).toEqual([[step, 'sort', 'open']]);
    expect((await view()).movements.filter((m) => m.inForce).map((m) => m.id)).toEqual([more]);
    await shop.send('PUT', `/api/steps/${step}/void`, { reason: 'tried' });
    const seen = await begin(kg(5));
    await shop.send('PUT', `/api/observations/${v7()}`, {
      batchId,
      stepId: seen.step,
      data: { kind: 'note', text: 'stones in it' },
    });
    expect((await undo(seen.seq)).status).toBe(201);
    expect(await steps()).toEqual([[seen.step, 'sort', 'open']]);
    await shop.send('PUT', `/api/steps/${seen.step}/void`, { reason: 'tried' });
    const heard = await begin(kg(5));
    const read = await shop.send('PUT', `/api/readings/${v7()}`, {
      stepId: heard.step,
      place: 'room',
      startedAt: '2026-11-01T08:00:00Z',
      seconds: [0, 60],
      celsius: [20, 21],
      source: 'file',
    });
    expect(read.status).toBe(201);
    expect((await undo(heard.seq)).status).toBe(201);
    expect(await steps()).toEqual([[heard.step, 'sort', 'open']]);
    await shop.send('PUT', `/api/steps/${heard.step}/void`, { reason: 'tried' });
    expect(await left()).toBe(kg(40));
  });

  test.each([
    ['more than there is', kg(41), {}, {}, 409, 'oversubscribed'],
    ['a kind of work that takes no beans', kg(1), {}, { station: 'mould' }, 422, 'may-not-enter'],
    ['a station where none is done', kg(1), {}, { station: 'taste' }, 422, 'not-valid'],
    ['details of another station', kg(1), {}, { details: { aimUm: 20 } }, 422, 'not-valid'],
    ['a machine that is not there', kg(1), {}, { machineId: v7() }, 404, 'not-found'],
    ['a batch that is not there', kg(1), {}, { batchId: v7() }, 404, 'not-found'],
    [
      'what comes out',
      kg(1),
      { direction: 'out', material: 'sorted beans', parcelId: v7() },
      {},
      422,
      'not-valid',
    ],
  ])('begins with nothing where it is refused: %s', async (_, massMg, more, step, status, code) => {
    expect(await begin(massMg, more, step)).toMatchObject({ status, body: { code } });
    expect(await steps()).toEqual([]);
    expect(await left()).toBe(kg(40));
  });

  test('a conche begins with what is weighed into it, set as it was, in one act', async () => {
    const chocolate = await maker.lot('BC', 10, { material: 'chocolate' });
    const batch = await maker.batch('BC-01', chocolate.id);
    const conche = v7();
    const put = (more: object) =>
      shop.send('PUT', `/api/conches/${conche}`, {
        batchId: batch,
        celsius: 60,
        air: 'open lid',
        settingId: v7(),
        take: { movementId: v7(), parcelId: chocolate.parcelId, ...more },
      });
    const now = async () => (await shop.send('GET', `/api/batches/${batch}`)).body as BatchView;
    expect(await put({ massMg: kg(11) })).toMatchObject({ status: 409, body: { code: 'oversubscribed' } });
    expect((await now()).steps).toEqual([]);
    const begun = await put({ massMg: kg(6) });
    expect(begun.status).toBe(201);
    const { steps: made, movements, observations } = await now();
    expect(made).toMatchObject([{ id: conche, kind: 'conche', status: 'open' }]);
    expect(movements).toMatchObject([{ stepId: conche, massMg: kg(6), direction: 'in' }]);
    expect(observations.map((o) => o.data)).toMatchObject([{ kind: 'concheSetting', celsius: 60 }]);
    expect((await undo(begun.body.seq)).status).toBe(201);
    expect((await now()).steps).toEqual([]);
    expect((await now()).observations).toEqual([]);
  });

  test('all the loads of a roast go into the winnower in one act, and come back with one undo', async () => {
    const beans = await maker.lot('BT', 9);
    const batch = await maker.batch('BT-01', beans.id);
    const loads: string[] = [];
    for (const mass of [3, 2.5, 2]) {
      const roast = await maker.step(batch, 'roast');
      await maker.take(roast, beans.parcelId, mass + 0.2);
      loads.push((await maker.make(roast, 'roasted beans', mass)).parcelId);
      await maker.close(roast, 'moisture');
    }
    const now = async () => (await shop.send('GET', `/api/batches/${batch}`)).body as BatchView;
    const waiting = async () =>
      (await now()).parcels.filter((p) => p.material === 'roasted beans').map((p) => p.remainingMg);
    const winnow = v7();
    const ids = [v7(), v7(), v7()];
    const together = (
      more: object,
      also: object[] = [1, 2].map((i) => ({ id: ids[i], parcelId: loads[i] })),
    ) =>
      shop.send('PUT', `/api/movements/${ids[0]}`, {
        stepId: winnow,
        begins: { batchId: batch, station: 'winnow' },
        direction: 'in',
        parcelId: loads[0],
        also,
        ...more,
      });
    const refused = [
      [await together({ massMg: kg(1) }), 422, 'not-valid'],
      [await together({ direction: 'loss', reason: 'dust', massMg: kg(1) }), 422, 'not-valid'],
      [await together({}, [{ id: ids[1], parcelId: loads[0] }]), 422, 'not-valid'],
      [await together({}, [{ id: ids[1], parcelId: v7() }]), 404, 'not-found'],
      [await together({}, [{ id: ids[0], parcelId: loads[1] }]), 409, 'id-used'],
    ] as const;
    for (const [answer, status, code] of refused) expect(answer).toMatchObject({ status, body: { code } });
    expect((await now()).steps).toHaveLength(3);
    expect((await waiting()).sort()).toEqual([kg(2), kg(2.5), kg(3)]);
    const before = await now();
    const { status, body } = await together({});
    expect(status).toBe(201);
    const after = await now();
    expect(after.lastSeq).toBe(before.lastSeq + 1);
    const lines = after.movements.filter((m) => m.stepId === winnow);
    expect(lines.map((m) => [m.id, m.massMg, m.source])).toEqual([
      [ids[0], kg(3), 'derived'],
      [ids[1], kg(2.5), 'derived'],
      [ids[2], kg(2), 'derived'],
    ]);
    expect(await waiting()).toEqual([0, 0, 0]);
    expect((await undo(body.seq)).status).toBe(201);
    expect((await now()).steps).toHaveLength(3);
    expect((await waiting()).sort()).toEqual([kg(2), kg(2.5), kg(3)]);
    // Once one of them has been corrected it is no longer that act.
    const [first, second] = [v7(), v7()];
    const again = await shop.send('PUT', `/api/movements/${first}`, {
      stepId: v7(),
      begins: { batchId: batch, station: 'winnow' },
      direction: 'in',
      parcelId: loads[0],
      also: [{ id: second, parcelId: loads[1] }],
    });
    expect(again.status).toBe(201);
    await maker.correct(second, 2.4);
    expect(await undo(again.body.seq)).toMatchObject({ status: 409, body: { code: 'replaced-since' } });
    expect((await waiting()).sort()).toEqual([0, kg(0.1), kg(2)]);
  });
});
