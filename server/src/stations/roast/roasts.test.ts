import type { RoastRecord } from '@wunsch/contract';
import { USUAL_DATABASE, Maker, openWorkshop, type TestWorkshop } from '../../testing/workshop.ts';

describe.each(USUAL_DATABASE)('roasts looked for, on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    for (const [code, name, batches] of [
      ['NK', 'Nkondo 100% sun', ['NK-01', 'NK-02']],
      ['MR', 'Marisol', ['MR-01']],
    ] as const) {
      const lot = await maker.lot(code, 20, { name });
      for (const batch of batches) {
        const stepId = await maker.step(await maker.batch(batch, lot.id), 'roast');
        await maker.take(stepId, lot.parcelId, 2);
      }
    }
  });
  afterAll(() => shop.close());

  const found = async (text: string) => {
    const { status, body } = await shop.send('GET', `/api/roasts?find=${encodeURIComponent(text)}&limit=40`);
    expect(status).toBe(200);
    return (body as RoastRecord[]).map((r) => r.batchCode).sort();
  };

  test('by part of a batch’s code, its lot’s code or name, in capitals or not', async () => {
    expect(await found('nk-02')).toEqual(['NK-02']);
    expect(await found('nk')).toEqual(['NK-01', 'NK-02']);
    expect(await found('solar')).toEqual([]);
    expect(await found(' marisol ')).toEqual(['MR-01']);
  });

  test('each with what went in, by which its lot learns from beans alone', async () => {
    const { body } = await shop.send('GET', '/api/roasts?find=NK-01&limit=40');
    expect((body as RoastRecord[])[0]).toMatchObject({ inMaterial: 'dry beans' });
  });

  test('a sign that means anything to the database means itself', async () => {
    expect(await found('100%')).toEqual(['NK-01', 'NK-02']);
    expect(await found('1%0')).toEqual([]);
    expect(await found('M_-01')).toEqual([]);
  });

  test('with nothing to look for, nothing is answered but what would be right', async () => {
    expect((await shop.send('GET', '/api/roasts?find=%20')).status).toBe(422);
    expect((await shop.send('GET', `/api/roasts?find=${'x'.repeat(81)}`)).status).toBe(422);
  });
});
