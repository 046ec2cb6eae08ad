import { v7 } from 'uuid';
import type { BowlRunOn, PouredBowl } from '@wunsch/contract';
import { ownPath, plannedPath, temperatureAt, TEMPER_PATHS, type TemperMethod } from '@wunsch/core/temper';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('poured bowls of a lot on %s', (kind) => {
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

  test('a bowl learns how long it runs on from its own logs, whatever was in it', async () => {
    const machine = async () => {
      const id = v7();
      await shop.send('PUT', `/api/machines/${id}`, {
        name: `Bowl ${id.slice(-3)}`,
        station: 'temper',
        kind: 'bowl',
      });
      return id;
    };
    const [mine, other] = [await machine(), await machine()];
    const runOn = async (id: string) =>
      (await shop.send('GET', `/api/machines/${id}/run-on`)).body as BowlRunOn;
    const lot = await maker.lot('RO', 20, { material: 'couverture' });
    const batchId = await maker.batch('RO-01', lot.id);
    // Falls evenly to 28.6, is lifted, and what is left dies away with a time of 60 s.
    const lifted = 600;
    const pace = 1.2 / 60;
    const at = (s: number) =>
      s <= lifted ? 28.6 + pace * (lifted - s) : 28.6 - pace * 60 * (1 - Math.exp(-(s - lifted) / 60));
    const bowl = async (machineId: string, method: TemperMethod) => {
      const step = await maker.step(batchId, 'temper', {
        machineId,
        details: { method, chocolateType: 'dark' },
      });
      await maker.take(step, lot.parcelId, 1);
      const seconds = Array.from({ length: 90 }, (_, k) => k * 10);
      await shop.send('PUT', `/api/readings/${v7()}`, {
        stepId: step,
        place: 'bowl',
        startedAt: '2026-11-20T09:00:00Z',
        seconds,
        celsius: seconds.map((s) => Math.round(at(s) * 10) / 10),
        source: 'probe',
      });
      await maker.make(step, 'tempered chocolate', null);
      await maker.close(step);
    };
    await bowl(mine, 'bowl');
    await bowl(mine, 'bag');
    await bowl(mine, 'machine');
    expect(await runOn(mine)).toBeNull();
    await bowl(mine, 'bowl');
    const learned = (await runOn(mine))!;
    expect(learned.bowls).toBe(3);
    expect(Math.abs(learned.seconds - 60)).toBeLessThan(12);
    expect(await runOn(other)).toBeNull();
    expect(await runOn(v7())).toBeNull();
  });
});
