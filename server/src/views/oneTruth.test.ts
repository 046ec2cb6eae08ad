import type { BatchView, BenchView } from '@wunsch/contract';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

describe.each(DATABASES)('what is to be expected of a batch, on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
  });
  afterAll(() => shop.close());

  /** A finished batch that was sorted, with a yield. */
  async function sorted(code: string, lot: { id: string; parcelId: string }, share: number) {
    const batch = await maker.batch(code, lot.id);
    const step = await maker.step(batch, 'sort');
    await maker.take(step, lot.parcelId, 1);
    await maker.make(step, 'sorted beans', share);
    await maker.close(step, 'unexplained');
    await shop.send('PUT', `/api/batches/${batch}/state`, { state: 'finished' });
  }

  test('is the same on the Bench as on its own page, whichever other lots are at work', async () => {
    const lots = [await maker.lot('AA', 90), await maker.lot('BB', 90), await maker.lot('CC', 90)];
    const shares = [0.99, 0.93, 0.86];
    for (let n = 0; n < 8; n += 1)
      for (const [i, lot] of lots.entries())
        await sorted(`${'ABC'[i]}-${n}`, lot, shares[i]! - 0.004 * (n % 3));
    const open = [
      await maker.batch('A-now', lots[0]!.id, { plannedMg: 10_000_000 }),
      await maker.batch('B-now', lots[1]!.id, { plannedMg: 10_000_000 }),
    ];
    const bench: BenchView = (await shop.send('GET', '/api/bench')).body;
    expect(bench.batches.map((b) => b.id).sort()).toEqual([...open].sort());
    for (const { id, flow } of bench.batches) {
      const page: BatchView = (await shop.send('GET', `/api/batches/${id}`)).body;
      expect(page.flow).toEqual(flow);
    }
    const sortedOf = (id: string) =>
      bench.batches.find((b) => b.id === id)!.flow.stations.find((s) => s.station === 'sort')!.expected
        .meanMg;
    // Lots that were sorted harder are expected to give less.
    expect(sortedOf(open[1]!)).toBeLessThan(sortedOf(open[0]!));
  });
});
