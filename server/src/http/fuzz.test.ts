import { fuzz } from '../testing/fuzz.ts';
import { USUAL_DATABASE, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

/** Requests on each database, other ones on each; `npm run trials` sends 20,000. */
const REQUESTS = Number(process.env.WUNSCH_FUZZ ?? 250);
const SEED = Number(process.env.WUNSCH_SEED ?? 20_261_125);

describe.each(USUAL_DATABASE)('made-up requests on %s', (kind) => {
  let shop: TestWorkshop;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    const maker = new Maker(shop);
    const lot = await maker.lot('FUZ', 40);
    const batch = await maker.batch('FUZ-1', lot.id);
    const roast = await maker.step(batch, 'roast');
    await maker.take(roast, lot.parcelId, 3);
    await maker.make(roast, 'roasted beans', 2.8);
  });
  afterAll(() => shop.close());

  test(
    'every one is answered or refused in words, none fails, and the workshop goes on working',
    async () => {
      const cookies = [
        shop.cookie,
        await signIn(shop, 'Tam', 'third password'),
        await signIn(shop, 'Vi', 'another password'),
        '',
      ];
      const { sent, byStatus, routes, unhandled } = await fuzz(shop, {
        requests: REQUESTS,
        seed: SEED + USUAL_DATABASE.indexOf(kind),
        cookies,
      });
      if (process.env.WUNSCH_FUZZ) console.log(kind, { sent, routes, byStatus, unhandled: unhandled.length });
      expect(unhandled).toEqual([]);
      // Not everything was turned away at the door: a good part got as far as the ledger.
      expect((byStatus[200] ?? 0) + (byStatus[201] ?? 0)).toBeGreaterThan(sent / 10);
      expect(routes).toBeGreaterThan(60);
      const maker = new Maker(shop);
      const lot = await maker.lot('AFTER', 10);
      const batch = await maker.batch('AFTER-1', lot.id);
      for (const url of ['/api/bench', '/api/stock', '/api/lots', `/api/batches/${batch}`, '/api/trail'])
        expect([url, (await shop.send('GET', url)).status]).toEqual([url, 200]);
    },
    60_000 + REQUESTS * 100,
  );
});
