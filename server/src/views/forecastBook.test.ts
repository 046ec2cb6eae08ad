import { v7 } from 'uuid';
import type { ForecastBook } from '@wunsch/contract';
import { expectedYield } from '@wunsch/core/ledger';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('forecasts looked back on, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());
  const book = async () => (await shop.send('GET', '/api/forecasts')).body as ForecastBook;

  test('nothing is said before there is anything to look back on', async () => {
    expect(await book()).toEqual([]);
  });

  test('each yield is foretold from those before it and from no other', async () => {
    const lot = await maker.lot('FO', 60);
    const shares = [0.8, 0.78, 0.81, 0.79, 0.7];
    for (const [i, share] of shares.entries()) {
      const batch = await maker.batch(`FO-0${i + 1}`, lot.id);
      const step = await maker.step(batch, 'winnow');
      await maker.take(step, lot.parcelId, 2);
      await maker.make(step, 'nibs', 2 * share);
      await maker.close(step, 'husk');
    }
    const [winnow, ...rest] = await book();
    expect(rest).toEqual([]);
    expect([winnow!.kind, winnow!.station]).toEqual(['yield', 'winnow']);
    expect(winnow!.forecasts.map((f) => f.code)).toEqual(['FO-04', 'FO-05']);
    winnow!.forecasts.forEach((f, k) => {
      const { mean, sd } = expectedYield({ station: 'winnow', lot: shares.slice(0, 3 + k), workshop: [] });
      expect([f.mean, f.sd, f.actual]).toEqual([
        expect.closeTo(mean, 9),
        expect.closeTo(sd, 9),
        expect.closeTo(shares[3 + k]!, 9),
      ]);
    });
  });

  test('a grind is foretold from its machine’s runs since the last rebuild: new stones learn nothing from the old', async () => {
    const machine = v7();
    await shop.send('PUT', `/api/machines/${machine}`, { name: 'Ada', station: 'grind', kind: 'stones' });
    const lot = await maker.lot('GR', 90, { material: 'nibs' });
    const grind = async (code: string, day: string, rate: number) => {
      const batch = await maker.batch(code, lot.id);
      const at = (hours: number) =>
        new Date(Date.parse(`${day}T06:00:00Z`) + hours * 3_600_000).toISOString();
      const step = await maker.step(batch, 'grind', { machineId: machine, startedAt: at(0) });
      await maker.take(step, lot.parcelId, 5, { at: at(0) });
      for (const hours of [2, 8, 16, 24, 34]) {
        const um = Math.round(10 * (14 + 71 * Math.exp(-rate * hours))) / 10;
        await maker.note(step, { kind: 'grit', method: 'micrometer', um }, at(hours));
      }
      await maker.make(step, 'chocolate', 5);
      await shop.send('PUT', `/api/steps/${step}/close`, {
        remainder: null,
        remainderId: v7(),
        endedAt: at(35),
      });
    };
    const told = async (code: string) =>
      (await book()).find((k) => k.kind === 'grit')!.forecasts.find((f) => f.code === code)!;
    await grind('GR-01', '2026-06-01', 0.16);
    await grind('GR-02', '2026-06-08', 0.16);
    await grind('GR-03', '2026-07-01', 0.06);
    const before = await told('GR-03');
    const rebuilt = await shop.send('PUT', `/api/machine-events/${v7()}`, {
      machineId: machine,
      kind: 'rebuilt',
      at: '2026-06-20T08:00:00Z',
    });
    expect(rebuilt.status).toBe(201);
    const after = await told('GR-03');
    expect(after.actual).toBe(before.actual);
    expect(after.mean).not.toBeCloseTo(before.mean, 2);
    expect(Math.abs(after.mean - after.actual)).toBeLessThan(Math.abs(before.mean - before.actual) + 0.5);
    // What came before the rebuild is looked back on as before.
    expect((await told('GR-02')).mean).toBeGreaterThan(0);
  });
});
