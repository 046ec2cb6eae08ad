import { v7 } from 'uuid';
import type { PickingPut, PickingRecord } from '@wunsch/contract';
import { USUAL_DATABASE, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('the harvest on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
  });
  afterAll(() => shop.close());

  const put = (path: string, body: unknown) => shop.send('PUT', `/api/${path}`, body);
  const pickings = async () => (await shop.send('GET', '/api/pickings')).body as PickingRecord[];
  const pick = async (more: Partial<PickingPut> = {}) => {
    const id = v7();
    const answer = await put(`pickings/${id}`, {
      on: '2026-05-04',
      plot: 'River',
      pods: 120,
      paid: 3000,
      ...more,
    });
    return { id, ...answer, seq: answer.body?.seq as number };
  };
  const takeIn = (id: string, of: readonly string[], more: object = {}) =>
    put(`lots/${id}/harvest`, {
      code: 'RV',
      name: 'River, May',
      material: 'wet beans',
      massMg: 14_000_000,
      receivedOn: '2026-05-05',
      stepId: v7(),
      movementId: v7(),
      parcelId: v7(),
      pickings: of,
      ...more,
    });
  const undo = (seq: number) => put(`undos/${v7()}`, { seq });

  test('pods are noted and taken back', async () => {
    expect(await pickings()).toEqual([]);
    const one = await pick({ trees: 30, wetMg: 13_500_000, from: 'Aunt Livia' });
    expect(one.status).toBe(201);
    expect(await pickings()).toEqual([
      expect.objectContaining({
        plot: 'River',
        pods: 120,
        trees: 30,
        from: 'Aunt Livia',
        lotId: null,
        lotCode: null,
      }),
    ]);
    expect((await undo(one.seq)).status).toBe(201);
    expect(await pickings()).toEqual([]);
  });

  test.each([
    ['no plot', { plot: '  ' }, 'plot'],
    ['half a pod', { pods: 0.5 }, 'pods'],
    ['no pod', { pods: 0 }, 'pods'],
    ['no day of the calendar', { on: '2026-02-31' }, 'on'],
    ['money below nothing', { paid: -1 }, 'paid'],
  ])('refused by field: %s', async (_, more, field) => {
    expect(await pick(more)).toMatchObject({ status: 422, body: { field } });
  });

  test('pickings become a lot in one act, go into no second one, and are free again when it is taken back', async () => {
    const [a, b] = [await pick(), await pick({ on: '2026-05-06', pods: 60 })];
    const lot = v7();
    const taken = await takeIn(lot, [a.id, b.id]);
    expect(taken.status).toBe(201);
    expect((await pickings()).map((p) => [p.pods, p.lotCode])).toEqual([
      [60, 'RV'],
      [120, 'RV'],
    ]);
    const lots = (await shop.send('GET', '/api/lots')).body as {
      id: string;
      remainingMg: number;
      material: string;
    }[];
    expect(lots).toEqual([
      expect.objectContaining({ id: lot, remainingMg: 14_000_000, material: 'wet beans' }),
    ]);
    expect(await takeIn(v7(), [a.id], { code: 'RW' })).toMatchObject({
      status: 409,
      body: { code: 'taken-in' },
    });
    expect(await undo(a.seq)).toMatchObject({ status: 409, body: { code: 'in-use' } });
    expect((await undo(taken.body.seq)).status).toBe(201);
    expect((await pickings()).every((p) => p.lotId === null)).toBe(true);
    expect((await shop.send('GET', '/api/lots')).body).toEqual([]);
    expect((await undo(a.seq)).status).toBe(201);
  });

  test('what was not picked, and what is not picked from trees, is refused; nothing is left half done', async () => {
    const [one] = await pickings();
    expect((await takeIn(v7(), [v7()])).status).toBe(404);
    expect((await takeIn(v7(), [one!.id, v7()])).status).toBe(404);
    expect((await takeIn(v7(), [one!.id], { material: 'dry beans' })).status).toBe(422);
    expect((await takeIn(v7(), [])).status).toBe(422);
    expect((await pickings())[0]!.lotId).toBeNull();
    expect((await shop.send('GET', '/api/lots')).body).toEqual([]);
  });
});
