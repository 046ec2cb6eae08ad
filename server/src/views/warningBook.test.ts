import { v7 } from 'uuid';
import type { WarningBook } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('warnings looked back on, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());
  const book = async () => (await shop.send('GET', '/api/warnings')).body as WarningBook;

  test('nothing is said before there is anything to look back on', async () => {
    expect(await book()).toEqual([]);
  });

  test('a logged bowl that left its window was warned of; one that was kept was not', async () => {
    const lot = await maker.lot('WB', 20, { material: 'couverture' });
    const batchId = await maker.batch('WB-01', lot.id);
    const bowl = async (perMinute: number) => {
      const step = await maker.step(batchId, 'temper', {
        details: { method: 'bowl', chocolateType: 'dark' },
      });
      await maker.take(step, lot.parcelId, 1);
      const down = [46, 40, 35, 31, 28, 27.4, 27.4, 29, 30.6, 31.2];
      const seconds = [...down.map((_, i) => i * 60), ...Array.from({ length: 180 }, (_, k) => 600 + k * 10)];
      await shop.send('PUT', `/api/readings/${v7()}`, {
        stepId: step,
        place: 'bowl',
        startedAt: '2026-11-20T09:00:00Z',
        seconds,
        celsius: seconds.map((s, i) => down[i] ?? 31.2 + (perMinute * (s - 590)) / 60),
        source: 'probe',
      });
      await maker.make(step, 'tempered chocolate', null);
      await maker.close(step);
    };
    await bowl(-0.05);
    await bowl(0);
    const [of, ...rest] = await book();
    expect(rest).toEqual([]);
    expect(of).toMatchObject({
      kind: 'bowl-window',
      station: 'temper',
      happened: 1,
      inTime: 1,
      quiet: 1,
      false: 0,
    });
    expect(of!.leadSeconds).toBeGreaterThan(100);
    expect(of!.leadSeconds).toBeLessThan(200);
  });

  test('beans that dried too slowly were warned of, in seconds like everything else', async () => {
    const lot = await maker.lot('WD', 100, { material: 'wet beans' });
    const dry = 48;
    for (let hours = 0; hours <= 96; hours += 6) {
      const kg = dry * (1 + (52 / 48) * Math.exp(-0.012 * hours));
      await shop.send('PUT', `/api/observations/${v7()}`, {
        lotId: lot.id,
        at: new Date(Date.parse('2026-10-01T08:00:00Z') + hours * 3_600_000).toISOString(),
        data: { kind: 'drying', massMg: Math.round(kg * 1e6), moisture: hours === 0 ? 52 : null },
      });
    }
    const of = (await book()).find((w) => w.kind === 'drying-mould');
    expect(of).toMatchObject({ station: 'beans', happened: 1, inTime: 1, quiet: 0, false: 0 });
    expect(of!.leadSeconds! / 3600).toBeGreaterThan(6);
  });
});
