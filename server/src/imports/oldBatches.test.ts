import { v7 } from 'uuid';
import type { BatchSpending, BatchView, ImportPut, Lot, StockItem, StockProof } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

const G = 1000;
const KG = 1_000_000;

/** A batch as it stood in an old table. */
const ROW = {
  row: 2,
  code: 'H-01',
  lot: 'hnk',
  startedOn: '2024-04-02',
  beansMg: 2500 * G,
  roastedMg: 2360 * G,
  nibsMg: 1870 * G,
  sugarMg: 800 * G,
  butterMg: 100 * G,
  chocolateMg: 2700 * G,
  bars: 36,
  barMg: 70 * G,
};

describe.each(USUAL_DATABASE)('batches of old tables on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    await take({
      of: 'lots',
      file: 'beans.csv',
      rows: [
        { row: 2, code: 'HNK', name: 'Nkondo', receivedOn: '2024-02-13', massMg: 60 * KG, pricePerKg: 840 },
      ],
    });
  });
  afterAll(() => shop.close());

  const take = async (body: ImportPut) => {
    const answer = await shop.send('PUT', `/api/imports/${v7()}`, body);
    return { ...answer, seq: answer.body?.seq as number };
  };
  const undo = (seq: number) => shop.send('PUT', `/api/undos/${v7()}`, { seq });
  const get = async <T>(url: string) => (await shop.send('GET', url)).body as T;
  const lotHere = async () => (await get<Lot[]>('/api/lots')).find((l) => l.code === 'HNK')!;
  const proof = async () => {
    const { mass, bars } = await get<StockProof>('/api/stock-proof');
    return [mass.differenceMg, bars.difference];
  };

  test('a batch of a table is the same in the books as one entered by hand, and goes again without a trace', async () => {
    const lot = await lotHere();
    const taken = await take({
      of: 'batches',
      file: 'b.csv',
      rows: [{ ...ROW, bestBefore: '2025-10-02' }],
    });
    // The same weights, one after the other at the scale.
    const byHand = await maker.batch('H-02', lot.id, { plannedMg: 2500 * G, barMg: 70 * G });
    let from = lot.parcelId;
    const shelf = await get<{ id: string; key: string | null }[]>('/api/ingredients');
    const idOf = (key: string) => shelf.find((i) => i.key === key)!.id;
    for (const [kind, material, outKg, loss] of [
      ['roast', 'roasted beans', 2.36, 'moisture'],
      ['winnow', 'nibs', 1.87, 'husk'],
      ['grind', 'chocolate', 2.7, 'hold-up'],
      ['mould', 'bars', 2.52, 'hold-up'],
    ] as const) {
      const step = await maker.step(byHand, kind);
      await maker.take(step, from, kind === 'roast' ? 2.5 : null);
      if (kind === 'grind')
        for (const [key, massMg] of [
          ['cane-sugar', 800 * G],
          ['cocoa-butter', 100 * G],
        ] as const)
          await shop.send('PUT', `/api/movements/${v7()}`, {
            stepId: step,
            direction: 'in',
            ingredientId: idOf(key),
            massMg,
          });
      const out = await maker.make(step, material, outKg, kind === 'mould' ? { count: 36 } : {});
      from = out.parcelId;
      await maker.close(step, loss);
    }
    const found = await get<{ id: string; code: string }[]>('/api/batches?limit=500');
    const told = async (code: string) => {
      const view = await get<BatchView>(`/api/batches/${found.find((b) => b.code === code)!.id}`);
      const { stations, bars, cacaoKept, nowMg } = view.flow;
      const cost = await get<BatchSpending>(`/api/batches/${view.batch.id}/cost`);
      return {
        stations: stations.map(({ station, inMg, outMg, losses }) => ({ station, inMg, outMg, losses })),
        rest: { bars, cacaoKept, nowMg, beans: cost.spent.beans, ingredients: cost.spent.ingredients },
        parcels: view.parcels.map((p) => [p.material, p.remainingMg, p.count]).sort(),
        lines: view.movements
          .map((m) => [
            m.direction,
            m.ingredientId === null ? m.material : 'ingredient',
            m.label ?? '',
            m.massMg,
            m.source,
            m.count,
            m.uMg,
            m.reason,
          ])
          .sort((a, b) => JSON.stringify(a).localeCompare(JSON.stringify(b))),
      };
    };
    expect(await told('H-01')).toEqual(await told('H-02'));
    expect(await proof()).toEqual([0, 0]);
    const items = await get<StockItem[]>('/api/stock-items');
    expect(items.find((i) => i.batchCode === 'H-01')?.bestBefore).toBe('2025-10-02');
    const before = (await lotHere()).remainingMg;
    expect((await undo(taken.seq)).status).toBe(201);
    expect((await lotHere()).remainingMg).toBe(before + 2500 * G);
    expect((await get<StockItem[]>('/api/stock-items')).filter((i) => i.batchCode === 'H-01')).toEqual([]);
    expect(await proof()).toEqual([0, 0]);
  });

  test('one batch of a table that was worked on since stands in the way of taking the table back, and none goes', async () => {
    const rows = [1, 2, 3].map((n) => ({
      row: n,
      code: `W-0${n}`,
      lot: 'hnk',
      startedOn: '2024-05-02',
      beansMg: 1000 * G,
      roastedMg: 940 * G,
    }));
    const taken = await take({ of: 'batches', file: 'b.csv', rows });
    const found = await get<{ id: string; code: string }[]>('/api/batches?limit=500');
    const idOf = (code: string) => found.find((b) => b.code === code)!.id;
    const roasted = (await get<BatchView>(`/api/batches/${idOf('W-02')}`)).parcels[0]!;
    const other = await maker.batch('W-99', (await lotHere()).id);
    const step = await maker.step(other, 'winnow');
    await maker.take(step, roasted.id, 0.2);
    const refused = await undo(taken.seq);
    expect(refused).toMatchObject({ status: 409, body: { code: 'used-later' } });
    const states = await get<{ code: string; state: string }[]>('/api/batches?limit=500');
    expect(states.filter((b) => b.code.startsWith('W-0')).map((b) => b.state)).toEqual([
      'finished',
      'finished',
      'finished',
    ]);
    expect((await shop.send('PUT', `/api/steps/${step}/void`, {})).status).toBe(201);
    expect((await undo(taken.seq)).status).toBe(201);
    expect(await proof()).toEqual([0, 0]);
  });

  test('a batch that is still being made goes on where its weights end, its note beside it, and goes again with the table', async () => {
    const now = Date.now();
    const today = new Date(now).toISOString().slice(0, 10);
    const facts = { row: 2, lot: 'hnk', beansMg: 1000 * G, goesOn: true };
    const taken = await take({
      of: 'batches',
      file: 'b.csv',
      rows: [
        { ...facts, code: 'G-01', startedOn: '2024-05-02', nibsMg: 780 * G, note: 'in the small mill' },
        { ...facts, row: 3, code: 'G-02', startedOn: today, roastedMg: 940 * G, nibsMg: 770 * G },
        { ...facts, row: 4, code: 'G-03', startedOn: today },
        { ...facts, row: 5, code: 'G-04', startedOn: today, nibsMg: 760 * G, sugarMg: 320 * G },
      ],
    });
    const found = await get<{ id: string; code: string }[]>('/api/batches?limit=500');
    const view = (code: string) => get<BatchView>(`/api/batches/${found.find((b) => b.code === code)!.id}`);
    const one = await view('G-01');
    expect(one.batch).toMatchObject({ state: 'open', stateReason: '' });
    expect(one.next).toMatchObject({ code: 'start', station: 'recipe', massMg: 780 * G });
    expect(one.observations.map((o) => o.data)).toEqual([{ kind: 'note', text: 'in the small mill' }]);
    const two = await view('G-02');
    const times = two.steps.map((s) => Date.parse(s.startedAt));
    // Whatever hour of the day it is, nothing lies ahead, and roasting before winnowing.
    expect(Math.max(...times)).toBeLessThan(now + 5000);
    expect(two.steps.map((s) => s.kind)).toEqual(['roast', 'winnow']);
    expect(times[0]).toBeLessThan(times[1]!);
    expect((await view('G-03')).next).toMatchObject({ code: 'start' });
    // Its sugar is in the bowl with the nibs.
    const four = await view('G-04');
    expect(four.next).toMatchObject({ code: 'weigh-out', station: 'recipe', massMg: 1080 * G });
    const bowl = four.steps.find((s) => s.kind === 'recipe')!;
    const done = await shop.send('PUT', `/api/steps/${bowl.id}/close`, {
      remainder: null,
      remainderId: v7(),
    });
    expect(done.status).toBe(422);
    await maker.make(bowl.id, 'charge', null);
    await maker.close(bowl.id);
    expect((await view('G-04')).next).toMatchObject({ code: 'start', station: 'grind', massMg: 1080 * G });
    expect(await proof()).toEqual([0, 0]);
    // What was done here since does not go with the table by the way.
    expect(await undo(taken.seq)).toMatchObject({
      status: 409,
      body: { code: 'gone-on', params: { code: 'G-04' } },
    });
    await shop.send('PUT', `/api/batches/${four.batch.id}/state`, { state: 'void', reason: 'made anew' });
    expect((await undo(taken.seq)).status).toBe(201);
    expect((await view('G-01')).batch.state).toBe('void');
    expect(await proof()).toEqual([0, 0]);
  });
});
