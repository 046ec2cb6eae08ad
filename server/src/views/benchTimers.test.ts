import { v7 } from 'uuid';
import type { BenchView } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('timers on the Bench, on %s', (kind) => {
  let shop: TestWorkshop;
  let batchId: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    batchId = await maker.batch('TI-1', (await maker.lot('TI', 20)).id);
  });
  afterAll(() => shop.close());

  const note = async (data: object, of: object = {}) => {
    const id = v7();
    const { status, body } = await shop.send('PUT', `/api/observations/${id}`, { ...of, data });
    expect(status).toBe(201);
    return { id, seq: body.seq as number };
  };
  const timer = (label: string) => ({ kind: 'timer', label, dueAt: '2026-11-20T08:00:00Z' });
  const rings = async () =>
    ((await shop.send('GET', '/api/bench')).body as BenchView).due
      .filter((d) => d.kind === 'timer')
      .map((d) => d.label)
      .sort();

  test.each([
    ['the workshop’s own', () => ({})],
    ['a batch’s', () => ({ batchId })],
  ])('%s ring until they are quietened, and again when that is taken back', async (_, of) => {
    const first = await note(timer('Turn the crate'), of());
    await note(timer('Vent the store'), of());
    expect(await rings()).toEqual(['Turn the crate', 'Vent the store']);
    const done = await note({ kind: 'timerDone', timerId: first.id }, of());
    expect(await rings()).toEqual(['Vent the store']);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: done.seq })).status).toBe(201);
    expect(await rings()).toEqual(['Turn the crate', 'Vent the store']);
    await note({ kind: 'timerDone', timerId: first.id }, of());
    const second = ((await shop.send('GET', '/api/bench')).body as BenchView).due.find(
      (d) => d.label === 'Vent the store',
    )!;
    await note({ kind: 'timerDone', timerId: second.id }, of());
    expect(await rings()).toEqual([]);
  });

  test('what calls to a station is silent once nothing waits there, and what was set at a step ends with it', async () => {
    const maker = new Maker(shop);
    const { id: lotId, parcelId } = await maker.lot('TJ', 20);
    const of = { batchId: await maker.batch('TJ-1', lotId) };
    const roast = await maker.step(of.batchId, 'roast');
    await maker.take(roast, parcelId, 2);
    await note(timer('Look at the beans'), { stepId: roast });
    const { parcelId: roasted } = await maker.make(roast, 'roasted beans', 1.88);
    expect(await rings()).toEqual(['Look at the beans']);
    await maker.close(roast, 'moisture');
    await note({ ...timer('Crack them'), calls: 'winnow' }, of);
    expect(await rings()).toEqual(['Crack them']);
    const winnow = await maker.step(of.batchId, 'winnow');
    await maker.take(winnow, roasted, 1.88);
    await maker.make(winnow, 'nibs', 1.5);
    await maker.lose(winnow, 'husk', 0.37);
    expect(await rings()).toEqual(['Crack them']);
    const { seq } = (await maker.close(winnow, 'sweepings')) as unknown as { seq: number };
    expect(await rings()).toEqual([]);
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq })).status).toBe(201);
    expect(await rings()).toEqual(['Crack them']);
  });
});
