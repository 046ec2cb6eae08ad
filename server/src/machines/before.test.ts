import { v7 } from 'uuid';
import type { LabelView, Machine, MachineBefore } from '@wunsch/contract';
import { Maker, openWorkshop, USUAL_DATABASE, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('what was in a machine before on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let ida: string;
  let dark: { id: string; parcelId: string };

  const before = async (query = '') =>
    (await shop.send('GET', `/api/machine-before?machine=${ida}${query}`)).body as MachineBefore;
  const clean = (at?: string) =>
    shop.send('PUT', `/api/machine-events/${v7()}`, { machineId: ida, kind: 'cleaned', ...(at && { at }) });
  /** A bowl of some chocolate in the machine, begun so many hours ago. */
  const bowl = async (code: string, lot: { id: string; parcelId: string }, hours: number, kg = 1) => {
    const batchId = await maker.batch(code, lot.id);
    const step = await maker.step(batchId, 'temper', {
      machineId: ida,
      startedAt: new Date(Date.now() - hours * 3_600_000).toISOString(),
      details: { method: 'seed', chocolateType: 'dark' },
    });
    await maker.take(step, lot.parcelId, kg);
    const poured = await maker.make(step, 'tempered chocolate', null);
    await maker.close(step);
    return { batchId, step, poured: poured.parcelId };
  };

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    ida = v7();
    await shop.send('PUT', `/api/machines/${ida}`, { name: 'Bowl', station: 'temper', kind: 'bowl' });
    const machines = (await shop.send('GET', '/api/machines')).body as Machine[];
    expect(machines.some((m) => m.id === ida)).toBe(true);
    const sheet = { cacao: 60, fat: 38 };
    dark = await maker.lot('DK', 20, {
      material: 'couverture',
      sheet: { ...sheet, kind: 'dark', ingredients: 'cocoa mass, sugar' },
    });
  });
  afterAll(() => shop.close());

  test('is told with its allergens by what went in, until it is cleaned; and labels are looked at for it', async () => {
    expect(await before()).toEqual({ machine: 'Bowl', cleanedAt: null, cleanedBy: null, runs: [] });
    const milk = await maker.lot('MK', 20, {
      material: 'couverture',
      sheet: { kind: 'milk', cacao: 38, fat: 36, ingredients: 'sugar, whole milk powder, soya lecithin' },
    });
    await bowl('MK-01', milk, 30);
    expect((await before()).runs).toMatchObject([{ batchCode: 'MK-01', allergens: ['milk', 'soy'] }]);
    const next = await bowl('DK-01', dark, 5);
    expect((await before()).runs.map((r) => [r.batchCode, r.allergens])).toEqual([
      ['DK-01', []],
      ['MK-01', ['milk', 'soy']],
    ]);
    // Before it began there was the milk alone; before that nothing.
    const at = (hours: number) => `&at=${new Date(Date.now() - hours * 3_600_000).toISOString()}`;
    expect((await before(at(6))).runs).toHaveLength(1);
    expect((await before(at(31))).runs).toEqual([]);
    const mould = await maker.step(next.batchId, 'mould');
    await maker.take(mould, next.poured, null);
    const bars = await maker.make(mould, 'bars', 0.98, { count: 14 });
    await maker.close(mould, 'hold-up');
    const looked = async () => {
      const label = (await shop.send('GET', `/api/labels/${bars.parcelId}`)).body as LabelView;
      return label.checks.filter((c) => c.name === 'carriedOver').map((c) => c.params);
    };
    expect(await looked()).toEqual([
      { allergen: 'milk', machine: 'Bowl', batch: 'MK-01' },
      { allergen: 'soy', machine: 'Bowl', batch: 'MK-01' },
    ]);
    // Cleaned afterwards is too late for these bars, and enough for the next.
    await clean();
    expect((await before()).runs).toEqual([]);
    expect(await looked()).toHaveLength(2);
    await clean(new Date(Date.now() - 6 * 3_600_000).toISOString());
    expect(await looked()).toEqual([]);
  });

  test('a machine nobody knows is not found, and no moment is refused', async () => {
    expect((await shop.send('GET', `/api/machine-before?machine=${v7()}`)).status).toBe(404);
    expect((await shop.send('GET', `/api/machine-before?machine=${ida}&at=soon`)).status).toBe(422);
    expect((await shop.send('GET', '/api/machine-before')).status).toBe(422);
  });
});
