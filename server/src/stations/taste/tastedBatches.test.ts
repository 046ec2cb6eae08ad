import { v7 } from 'uuid';
import type { TastedBatch } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('tasted batches on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batch: string;
  let untasted: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('TST', 20);
    batch = await maker.batch('TST-1', lot.id);
    untasted = await maker.batch('TST-2', lot.id);
    const grind = await maker.step(batch, 'grind');
    const typed = v7();
    const grit = (id: string, um: number, replaces: string | null = null) =>
      shop.send('PUT', `/api/observations/${id}`, {
        batchId: batch,
        stepId: grind,
        at: '2026-11-20T09:00:00Z',
        data: { kind: 'grit', method: 'micrometer', um },
        replaces,
      });
    expect((await grit(typed, 240)).status).toBe(201);
    expect((await grit(v7(), 24, typed)).status).toBe(201);
  });
  afterAll(() => shop.close());
  const put = (what: string, body: unknown, id = v7()) => shop.send('PUT', `/api/${what}/${id}`, body);
  const read = async () => (await shop.send('GET', '/api/tasted-batches')).body as TastedBatch[];
  const quick = (liking: number) => ({ form: 'quick', sour: 4, grit: 1, liking });

  test('nothing tasted, nothing told; a card of the page stands at once', async () => {
    expect(await read()).toEqual([]);
    await put('tastings', { batchId: batch, card: quick(6) });
    const [found, ...others] = await read();
    expect(others).toEqual([]);
    expect(found).toMatchObject({ code: 'TST-1', bars: 0, madeAt: null, roastDose: null, gritUm: 24 });
    expect(found!.cards).toEqual([
      expect.objectContaining({ liking: 6, sour: 4, grit: 1, session: null, by: 'AK' }),
    ]);
  });

  test('what is said in a session stands only once it is open, as first impressions, under the batch that was in the glass', async () => {
    const table = await maker.tableSet([{ batchId: batch }, { other: { maker: 'Harbour Lane' } }]);
    for (const [place, liking] of [
      [1, 8],
      [2, 8],
      [1, 1],
    ])
      await maker.paperCard(table, place!, quick(liking!));
    expect((await read())[0]!.cards).toHaveLength(1);
    await maker.opened(table);
    const found = await read();
    expect(found.map((b) => b.batchId)).not.toContain(untasted);
    expect(found[0]!.cards.map((c) => [c.by, c.liking, c.session])).toEqual([
      ['AK', 6, null],
      ['Mia', 8, 1],
    ]);
  });

  test('words for notes are renamed and merged with If-Match; results follow, cards keep what was said', async () => {
    const list = async () => (await shop.send('GET', '/api/note-lists/current')).body;
    const first = await list();
    expect(first).toMatchObject({ version: 0, renames: {} });
    const families = [{ name: 'fruit', notes: ['red fruit', 'citrus'] }];
    const change = (body: object, version: number) =>
      shop.send('PUT', `/api/note-lists/${v7()}`, body, { 'if-match': `"${version}"` });
    const renamed = [{ from: 'berry', to: 'red fruit' }];
    expect((await change({ families, renamed: [{ from: 'berry', to: 'gone' }] }, 0)).status).toBe(422);
    expect((await change({ families: [{ name: 'x', notes: ['a', 'A'] }] }, 0)).status).toBe(422);
    expect((await change({ families, renamed }, 0)).status).toBe(201);
    expect((await change({ families, renamed }, 0)).status).toBe(412);
    expect(await list()).toEqual({ families, renames: { berry: 'red fruit' }, version: 1 });
    expect(
      (
        await change(
          {
            families: [{ name: 'fruit', notes: ['fruit'] }],
            renamed: [
              { from: 'red fruit', to: 'fruit' },
              { from: 'citrus', to: 'fruit' },
            ],
          },
          1,
        )
      ).status,
    ).toBe(201);
    expect((await list()).renames).toEqual({ berry: 'fruit', 'red fruit': 'fruit', citrus: 'fruit' });
  });
});
