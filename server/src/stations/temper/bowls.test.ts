import { v7 } from 'uuid';
import type { PouredBowl } from '@wunsch/contract';
import { ownPath, plannedPath, temperatureAt, TEMPER_PATHS, type TemperMethod } from '@wunsch/core/temper';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(DATABASES)('poured bowls of a lot on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  test('each tells what it reached and how its bars came out; three good ones make a path', async () => {
    const lot = await maker.lot('BO', 20, { material: 'couverture' });
    const batchId = await maker.batch('BO-01', lot.id);
    const bowl = async (method: TemperMethod, workedK: number, seen: object | null) => {
      const step = await maker.step(batchId, 'temper', { details: { method, chocolateType: 'dark' } });
      await maker.take(step, lot.parcelId, 1);
      const path = plannedPath(TEMPER_PATHS.dark, method, 26);
      const seconds = Array.from({ length: Math.floor(path.at(-1)!.minutes * 2) }, (_, k) => k * 30);
      await shop.send('PUT', `/api/readings/${v7()}`, {
        stepId: step,
        place: 'bowl',
        startedAt: '2026-11-20T09:00:00Z',
        seconds,
        celsius: seconds.map((s) => temperatureAt(path, s / 60) + workedK),
        source: 'probe',
      });
      const out = await maker.make(step, 'tempered chocolate', null);
      await maker.close(step);
      const pour = await maker.step(batchId, 'mould');
      await maker.take(pour, out.parcelId, null);
      await maker.make(pour, 'bars', 0.96, { count: 16 });
      await maker.close(pour, 'trim');
      if (seen)
        await maker.note(pour, { kind: 'result', gloss: 5, snap: 5, release: 5, bloom: false, ...seen });
    };
    await bowl('table', -0.5, {});
    await bowl('machine', -0.5, {});
    await bowl('seed', -0.5, { bloom: true });
    await bowl('seed', -0.5, null);
    await bowl('seed', -0.5, {});
    const bowls = (await shop.send('GET', `/api/lots/${lot.id}/bowls`)).body as PouredBowl[];
    expect(bowls.map((b) => [b.method, b.good, b.coolC === null])).toEqual([
      ['table', true, false],
      ['machine', true, false],
      ['seed', false, true],
      ['seed', null, true],
      ['seed', true, true],
    ]);
    expect(bowls[0]!.coolC).toBeCloseTo(27, 1);
    for (const b of bowls) expect(b.workC).toBeCloseTo(31, 0);
    const own = ownPath(TEMPER_PATHS.dark, bowls)!;
    expect(own.bowls).toBe(3);
    expect(own.path.workC).toBeLessThan(31.5);
    expect((await shop.send('GET', `/api/lots/${v7()}/bowls`)).body).toEqual([]);
  });
});
