import { sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import { answersOf } from '../testing/answers.ts';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what was taken out of the books comes back, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  /** Everything any page shows, without the trail and the versions that rise with every change. */
  const shown = async () => {
    const answers = await answersOf(shop.app, shop.cookie);
    return Object.fromEntries(Object.entries(answers).filter(([url]) => !url.startsWith('/api/trail')));
  };
  const view = async (id: string) => (await shop.send('GET', `/api/batches/${id}`)).body;
  /** A batch in what counts: masses, lines in force, observations, steps. */
  const told = async (id: string) => {
    const { batch, steps, movements, observations } = await view(id);
    const counts = (rows: { id: string; inForce?: boolean; version?: number }[]) =>
      rows
        .filter((r) => r.inForce !== false)
        .map(({ version: _, ...r }) => r)
        .sort((a, b) => a.id.localeCompare(b.id));
    return {
      state: batch?.state,
      steps: counts(steps),
      movements: counts(movements),
      observations: counts(observations),
    };
  };
  const lastSeq = async () => (await shop.send('GET', '/api/trail?limit=1')).body[0].seq as number;
  const put = async (url: string, body: object) => {
    const answer = await shop.send('PUT', url, body);
    expect([answer.status, answer.body?.detail]).toEqual([expect.any(Number), undefined]);
    return lastSeq();
  };
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
  const stock = async () =>
    (await shop.store.db
      .execute(sql`select id, remaining_mg, count from parcel order by id`)
      .then((r) => (r as unknown as { rows: unknown[] }).rows)) as unknown[];
  const proof = async () => (await shop.send('GET', '/api/stock-proof')).body;

  /** Twelve kilograms sorted and roasted, one weight of it taken back, with a note and a smell. */
  async function roasted(code: string) {
    const lot = await maker.lot(`${code}L`, 60);
    const batch = await maker.batch(code, lot.id, { plannedMg: kg(12) });
    const sort = await maker.step(batch, 'sort');
    await maker.take(sort, lot.parcelId, 12);
    await maker.lose(sort, 'flat', 0.3);
    const sorted = await maker.make(sort, 'sorted beans', 11.6);
    await maker.close(sort, 'dust');
    const roast = await maker.step(batch, 'roast');
    await maker.take(roast, sorted.parcelId, null);
    await maker.lose(roast, 'other', 0.5);
    await undo(await lastSeq());
    const beans = await maker.make(roast, 'roasted beans', 11);
    await maker.note(roast, { kind: 'note', text: 'smells of baking' });
    return { lot, batch, sort, sorted, roast, beans };
  }

  test('a step voided by a wrong tap, with all that was weighed and seen at it', async () => {
    const { batch, roast, sorted } = await roasted('RA');
    const [before, held] = [await told(batch), await stock()];
    const seq = await put(`/api/steps/${roast}/void`, { reason: 'wrong step' });
    expect((await told(batch)).steps).toHaveLength(before.steps.length - 1);
    expect((await undo(seq)).status).toBe(201);
    expect(await told(batch)).toEqual(before);
    expect(await stock()).toEqual(held);
    // What had been taken back before is not in the books again: 11.6 kg went in and 11 came out.
    const inForce = before.movements.filter((m) => (m as unknown as { stepId: string }).stepId === roast);
    expect(inForce).toHaveLength(2);
    // It can be closed as ever, and voided again.
    await maker.close(roast, 'moisture');
    expect((await proof()).mass.differenceMg).toBe(0);
    expect((await undo(seq)).body.code).toBe('already-undone');
    await put(`/api/steps/${roast}/void`, { reason: '' });
    const parcel = (await stock()).find((p) => (p as { id: string }).id === sorted.parcelId);
    expect(Number((parcel as { remaining_mg: number }).remaining_mg)).toBe(kg(11.6));
  });

  test('not where what it had taken has gone elsewhere since: then nothing changes, and the reason is said', async () => {
    const { batch, roast, sorted } = await roasted('RB');
    const seq = await put(`/api/steps/${roast}/void`, { reason: '' });
    const other = await maker.step(batch, 'roast');
    await maker.take(other, sorted.parcelId, 5);
    const [before, held] = [await told(batch), await stock()];
    const refused = await undo(seq);
    expect([refused.status, refused.body.code]).toEqual([409, 'oversubscribed']);
    expect([await told(batch), await stock()]).toEqual([before, held]);
  });

  test.each(['open', 'finished'])('a whole batch voided while %s', async (state) => {
    const { lot, batch, roast } = await roasted(`RC-${state}`);
    await maker.close(roast, 'moisture');
    if (state === 'finished') await put(`/api/batches/${batch}/state`, { state, reason: '' });
    const ofLot = async () =>
      JSON.stringify((await shop.send('GET', `/api/lots/${lot.id}`)).body).replaceAll(/"version":\d+/g, '');
    const [before, held, all, lotBefore] = [await told(batch), await stock(), await shown(), await ofLot()];
    const seq = await put(`/api/batches/${batch}/state`, { state: 'void', reason: 'wrong batch' });
    expect(await stock()).not.toEqual(held);
    expect((await undo(seq)).status).toBe(201);
    expect([await told(batch), await stock()]).toEqual([before, held]);
    expect(await ofLot()).toEqual(lotBefore);
    // Every other page says what it said; only the batch has a higher version.
    const after = await shown();
    const other = Object.keys(all).filter((url) => all[url] !== after[url]);
    expect(other.filter((url) => !url.includes(lot.id) && !/bench|batches/.test(url))).toEqual([]);
  });

  test('not where its code stands on another batch by now', async () => {
    const { batch, lot } = await roasted('RD');
    const seq = await put(`/api/batches/${batch}/state`, { state: 'void', reason: '' });
    await maker.batch('RD', lot.id);
    const refused = await undo(seq);
    expect([refused.status, refused.body.code]).toEqual([409, 'code-taken']);
    expect((await told(batch)).state).toBe('void');
  });

  test('an abandoned batch: what was written off, and the step that was open', async () => {
    const { batch, roast } = await roasted('RE');
    const [before, held] = [await told(batch), await stock()];
    const seq = await put(`/api/batches/${batch}/state`, { state: 'abandoned', reason: 'burnt' });
    expect((await proof()).mass.differenceMg).toBe(0);
    expect((await undo(seq)).status).toBe(201);
    expect([await told(batch), await stock()]).toEqual([before, held]);
    const { steps } = await view(batch);
    expect(steps.find((s: { id: string }) => s.id === roast)).toMatchObject({
      status: 'open',
      endedAt: null,
    });
    await maker.close(roast, 'moisture');
    expect((await proof()).mass.differenceMg).toBe(0);
  });

  test('a reopened batch is finished again', async () => {
    const { batch, roast } = await roasted('RF');
    await maker.close(roast, 'moisture');
    await put(`/api/batches/${batch}/state`, { state: 'finished', reason: '' });
    const seq = await put(`/api/batches/${batch}/state`, { state: 'open', reason: '' });
    expect((await undo(seq)).status).toBe(201);
    expect((await told(batch)).state).toBe('finished');
  });
});
