import { v7 } from 'uuid';
import type { TrailItem } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

describe.each(USUAL_DATABASE)('the trail on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let first: string;
  let weight: string;
  let step: string;

  const trail = async (query = '') =>
    (await shop.send('GET', `/api/trail?limit=500${query}`)).body as TrailItem[];
  const kinds = async (query: string) => [...new Set((await trail(query)).map((i) => i.kind))].sort();

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    const lot = await maker.lot('TRL', 30);
    first = await maker.batch('TRL-01', lot.id);
    await maker.batch('TRL_02', lot.id);
    step = await maker.step(first, 'sort');
    weight = await maker.take(step, lot.parcelId, 5);
    const tam = await signIn(shop, 'Tam', 'third password');
    await shop.send('PUT', `/api/caution-readings/${v7()}`, { station: 'roast' }, { cookie: tam });
  });
  afterAll(() => shop.close());

  test('is narrowed to a person, a kind, a batch and some days', async () => {
    const all = await trail();
    expect(all.map((i) => i.seq)).toEqual([...all.map((i) => i.seq)].sort((a, b) => b - a));
    expect(await kinds('&by=TA')).toEqual(['caution.read']);
    expect(await kinds('&by=AK&kinds=batch.start')).toEqual(['batch.start']);
    expect((await trail('&batch=trl-0')).every((i) => i.batchId === first)).toBe(true);
    // An underscore is one, and stands for nothing else.
    expect(await trail('&batch=TRL_0')).toHaveLength(1);
    expect(await trail('&batch=%25')).toEqual([]);
    const tomorrow = new Date(Date.now() + 86_400_000).toISOString();
    expect(await trail(`&from=${tomorrow}`)).toEqual([]);
    expect(await trail(`&to=${tomorrow}`)).toEqual(all);
    expect((await shop.send('GET', '/api/trail-kinds')).body).toEqual(
      expect.arrayContaining(['batch.start', 'lot.receive', 'caution.read']),
    );
  });

  test('goes back page by page without a gap, and to the first entry', async () => {
    const all = await trail();
    const paged: TrailItem[] = [];
    for (let before = ''; ;) {
      const page = (await shop.send('GET', `/api/trail?limit=3${before}`)).body as TrailItem[];
      paged.push(...page);
      if (page.length < 3) break;
      before = `&before=${page.at(-1)!.seq}`;
    }
    expect(paged).toEqual(all);
  });

  test('of changes alone shows corrections and what was taken back', async () => {
    expect(await trail('&changes=true')).toEqual([]);
    // What was made is no change, what is changed from a version is one, whatever its kind is called.
    const customer = v7();
    const put = (name: string, version?: number) =>
      shop.send(
        'PUT',
        `/api/customers/${customer}`,
        { name },
        version === undefined ? undefined : { 'if-match': `"${version}"` },
      );
    expect((await put('Harbour')).status).toBe(201);
    expect(await trail('&changes=true')).toEqual([]);
    expect((await put('Harbour Café', 1)).status).toBe(201);
    expect((await trail('&changes=true')).map((i) => i.kind)).toEqual(['customer.put']);
    const [note] = await trail('&by=TA');
    await shop.send('PUT', `/api/corrections/${v7()}`, {
      movementId: weight,
      massMg: 4_900_000,
      reason: 'misread',
    });
    expect((await trail('&changes=true')).map((i) => i.kind)).toEqual(['movement.correct', 'customer.put']);
    const tam = await signIn(shop, 'Tam', 'third password');
    expect((await shop.send('PUT', `/api/undos/${v7()}`, { seq: note!.seq }, { cookie: tam })).status).toBe(
      201,
    );
    const after = await trail('&changes=true');
    expect(after.map((i) => i.kind)).toEqual(expect.arrayContaining(['undo', 'caution.read']));
    expect(after.find((i) => i.seq === note!.seq)!.undone).toBe(true);
  });

  test('what it is not asked for is refused in words', async () => {
    for (const query of ['from=yesterday', 'before=-1', 'batch=', 'changes=perhaps'])
      expect((await shop.send('GET', `/api/trail?${query}`)).status).toBe(422);
  });
});
