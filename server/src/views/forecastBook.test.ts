import type { ForecastBook } from '@wunsch/contract';
import { expectedYield } from '@wunsch/core/ledger';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('forecasts looked back on, on %s', (kind) => {
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
});
