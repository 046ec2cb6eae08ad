import { v7 } from 'uuid';
import type { MachineView } from '@wunsch/contract';
import { Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe('hours of a machine', () => {
  let shop: TestWorkshop;
  const machineId = v7();
  const hour = (n: number) => new Date(Date.parse('2026-06-01T08:00:00Z') + n * 3_600_000).toISOString();
  const seen = async () =>
    ((await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView).totals;
  const serviced = (at: string) =>
    shop.send('PUT', `/api/machine-events/${v7()}`, { machineId, kind: 'serviced', note: '', at });
  beforeAll(async () => {
    shop = await openWorkshop();
    const maker = new Maker(shop);
    const facts = { name: 'Otto', station: 'grind', kind: 'stone grinder', serviceHours: 800 };
    await shop.send('PUT', `/api/machines/${machineId}`, facts);
    const lot = await maker.lot('HRS', 20, { material: 'nibs' });
    const batchId = await maker.batch('HRS-01', lot.id);
    // Thirty runs of ten hours, one a day: more than its page lists.
    for (let day = 0; day < 30; day += 1) {
      const step = await maker.step(batchId, 'grind', { machineId, startedAt: hour(24 * day) });
      const closing = {
        remainder: null,
        remainderId: v7(),
        handsOnMinutes: 20,
        endedAt: hour(24 * day + 10),
      };
      const closed = await shop.send('PUT', `/api/steps/${step}/close`, closing);
      if (closed.status !== 201) throw new Error(JSON.stringify(closed.body));
    }
  });
  afterAll(() => shop.close());

  test('count all that began since it was last serviced, however many runs that was', async () => {
    expect(await seen()).toMatchObject({ runs: 30, hours: 300, sinceServiceHours: 300 });
    await serviced(hour(24 * 3 - 1));
    expect(await seen()).toMatchObject({ hours: 300, sinceServiceHours: 270 });
    await serviced(hour(24 * 28 - 1));
    expect(await seen()).toMatchObject({ hours: 300, sinceServiceHours: 20 });
  });

  test('stand beside the charges it had last, newest first, with what went in and came out', async () => {
    const { charges } = (await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView;
    expect(charges).toHaveLength(24);
    expect(charges.map((c) => c.startedAt)).toEqual(
      Array.from({ length: 24 }, (_, i) => hour(24 * (29 - i))),
    );
    expect(charges[0]).toMatchObject({ batchCode: 'HRS-01', hours: 10, inMg: 0, outMg: 0 });
    const maker = new Maker(shop);
    const lot = await maker.lot('CHG', 8);
    const batchId = await maker.batch('CHG-01', lot.id);
    const step = await maker.step(batchId, 'roast', { machineId, startedAt: hour(900) });
    await maker.take(step, lot.parcelId, 4);
    await maker.correct(await maker.take(step, lot.parcelId, 1), 2);
    await maker.make(step, 'roasted beans', 5.5);
    await shop.send('PUT', `/api/steps/${step}/close`, {
      remainder: 'moisture',
      remainderId: v7(),
      handsOnMinutes: 5,
      endedAt: hour(900.5),
    });
    const [newest] = ((await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView).charges;
    expect(newest).toEqual({
      stepId: step,
      batchId,
      batchCode: 'CHG-01',
      startedAt: hour(900),
      hours: 0.5,
      inMg: 6_000_000,
      outMg: 5_500_000,
    });
    // What was a mistake is none.
    await shop.send('PUT', `/api/steps/${step}/void`, {});
    const after = (await shop.send('GET', `/api/machines/${machineId}`)).body as MachineView;
    expect(after.charges[0]).toMatchObject({ batchCode: 'HRS-01' });
  });

  test('are not begun anew by cleaning it', async () => {
    await shop.send('PUT', `/api/machine-events/${v7()}`, {
      machineId,
      kind: 'cleaned',
      note: '',
      at: hour(24 * 29.9),
    });
    expect((await seen()).sinceServiceHours).toBe(20);
  });
});
