import { v7 } from 'uuid';
import type { FindHit } from '@wunsch/contract';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('the find box on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batch: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('QUI', 20, { name: 'Quiet valley', country: 'Fiji' });
    batch = await maker.batch('QUI-07', lot.id);
    const step = await maker.step(batch, 'sort');
    await maker.note(step, { kind: 'note', text: 'smells of 100% damp hay' });
    const nibs = (await shop.send('GET', '/api/ingredients')).body.find(
      (i: { key: string }) => i.key === 'nibs',
    );
    const id = v7();
    const made = await shop.send('PUT', `/api/recipes/${id}`, {
      name: 'Quiet 80',
      lines: [{ ingredientId: nibs.id, massMg: 1_000_000 }],
    });
    expect(made.status).toBe(201);
  });
  afterAll(() => shop.close());

  const find = async (q: string): Promise<FindHit[]> =>
    (await shop.send('GET', `/api/find?q=${encodeURIComponent(q)}`)).body;
  const kinds = async (q: string) => (await find(q)).map((h) => h.kind);

  test('batches, lots and recipes by any part of their name or code, in any case', async () => {
    expect(await kinds('quiet')).toEqual(['batch', 'lot', 'recipe']);
    expect(await kinds('i-07')).toEqual(['batch']);
    expect(await kinds('FIJI')).toEqual(['lot']);
    expect((await find('qui-07'))[0]).toMatchObject({ title: 'QUI-07', path: `/batch/${batch}` });
  });

  test('notes by a word in them, with where they were written', async () => {
    expect(await find('damp hay')).toEqual([
      expect.objectContaining({ kind: 'note', title: 'QUI-07', path: `/batch/${batch}` }),
    ]);
  });

  test('a note that was corrected is found by what it says now', async () => {
    const { batches } = (await shop.send('GET', '/api/bench')).body as { batches: { id: string }[] };
    expect(batches.map((b) => b.id)).toContain(batch);
    const first = v7();
    const note = (id: string, text: string, replaces?: string) =>
      shop.send('PUT', `/api/observations/${id}`, {
        batchId: batch,
        data: { kind: 'note', text },
        ...(replaces && { replaces }),
      });
    expect((await note(first, 'bag torn at the marzipan seam')).status).toBe(201);
    expect(await kinds('marzipan')).toEqual(['note']);
    expect((await note(v7(), 'bag torn at the upper seam', first)).status).toBe(201);
    expect(await kinds('marzipan')).toEqual([]);
    expect(await kinds('upper seam')).toEqual(['note']);
  });

  test('signs that mean something to a database are only signs', async () => {
    expect(await kinds('100%')).toEqual(['note']);
    expect(await find('1_0')).toEqual([]);
    expect(await find("'; drop table lot; --")).toEqual([]);
    expect(await find('\\')).toEqual([]);
  });

  test('what is void is not found; an empty question is refused', async () => {
    const lot = await maker.lot('GON', 5);
    const gone = await maker.batch('GON-01', lot.id);
    expect(await kinds('gon-01')).toEqual(['batch']);
    await shop.send('PUT', `/api/batches/${gone}/state`, { state: 'void', reason: 'typed twice' });
    expect(await kinds('gon-01')).toEqual([]);
    expect((await shop.send('GET', '/api/find?q=%20')).status).toBe(422);
  });

  test('bars by the code on their label', async () => {
    const step = await maker.step(batch, 'mould', { details: { barCode: 'QB-2611' } });
    expect(await find('qb-26')).toEqual([
      { kind: 'bars', id: step, title: 'QB-2611', detail: '', state: null, path: `/batch/${batch}` },
    ]);
  });
});
