import { v7 } from 'uuid';
import { Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { watchReads, type Missed } from '../testing/watchReads.ts';

/** Entries of each kind that are watched; with `npm run trials` every test of the server is watched besides. */
const WATCHED = 1;

describe('after an entry every page it shows on is read again', () => {
  let shop: TestWorkshop;
  let maker: Maker;
  let missed: readonly Missed[];
  let lot: { id: string; parcelId: string };
  beforeAll(async () => {
    shop = await openWorkshop();
    maker = new Maker(shop);
    lot = await maker.lot('RA', 90);
    missed = watchReads(shop, WATCHED);
  });
  afterEach(() => expect(missed).toEqual([]));
  afterAll(() => shop.close());

  const put = async (what: string, body: object, id = v7()) => {
    const { status, body: answer } = await shop.send('PUT', `/api/${what}/${id}`, body);
    if (status !== 201) throw new Error(`${what}: ${JSON.stringify(answer)}`);
    return id;
  };
  const quick = (liking: number) => ({ form: 'quick', sour: 3, grit: 1, liking });

  /** A batch from beans to bars on the shelf. */
  async function bars(code: string) {
    const batch = await maker.batch(code, lot.id);
    let parcelId = lot.parcelId;
    let mass = 4;
    for (const [station, material, remainder] of [
      ['sort', 'sorted beans', 'unexplained'],
      ['roast', 'roasted beans', 'moisture'],
      ['winnow', 'nibs', 'husk'],
      ['grind', 'chocolate', 'machine hold-up'],
    ] as const) {
      const step = await maker.step(batch, station);
      await maker.take(step, parcelId, mass);
      mass *= 0.93;
      parcelId = (await maker.make(step, material, mass)).parcelId;
      await maker.close(step, remainder);
    }
    const mould = await maker.step(batch, 'mould');
    await maker.take(mould, parcelId, mass);
    const made = await maker.make(mould, 'bars', mass, { count: 60, place: 'shelf' });
    await maker.close(mould);
    return { batch, parcelId: made.parcelId };
  }

  test('weights and closings, on other batches’ pages as well', async () => {
    await maker.batch('RA-0', lot.id, { plannedMg: 10_000_000 });
    await bars('RA-1');
    await bars('RA-2');
  });

  test('tastings, on pages and in sessions', async () => {
    const { batch } = await bars('RA-3');
    await put('tastings', { batchId: batch, card: quick(6) });
    const other = await bars('RA-4');
    const table = await maker.tableSet([{ batchId: batch }, { batchId: other.batch }]);
    for (const place of [1, 2]) await maker.paperCard(table, place, quick(4 + place));
    await maker.opened(table);
  });

  test('hours of work, where a grind ends; a machine that stands', async () => {
    const batch = await maker.batch('RA-5', lot.id);
    const machines = (await shop.send('GET', '/api/machines')).body as { id: string; name: string }[];
    const grind = await maker.step(batch, 'grind', {
      machineId: machines.find((m) => m.name === 'Ida')!.id,
      startedAt: new Date(Date.now() - 20 * 3_600_000).toISOString(),
    });
    for (const [hours, um] of [
      [16, 60],
      [10, 44],
      [4, 33],
    ])
      await maker.note(
        grind,
        { kind: 'grit', method: 'micrometer', um },
        new Date(Date.now() - hours! * 3_600_000).toISOString(),
      );
    await put('work-hours', { timeZone: 'UTC', week: Array.from({ length: 7 }, () => [[1080, 1140]]) });
    await maker.note(grind, { kind: 'pause' });
  });

  test('a filling, what it was made of, and its weights corrected', async () => {
    const couverture = await maker.lot('RA-C', 5, { material: 'couverture' });
    const movementId = v7();
    const made = { movementId: v7(), parcelId: v7(), massMg: 900_000 };
    await put('fillings', {
      name: 'Ganache',
      lines: [{ movementId, parcelId: couverture.parcelId, massMg: 1_000_000 }],
      made,
      lossId: v7(),
      bestBefore: '2026-11-20',
    });
    await put('corrections', { movementId, massMg: 950_000, reason: 'misread' });
    await put('leaves', {
      parcelId: made.parcelId,
      massMg: 100_000,
      destination: 'eaten',
      takenId: v7(),
      lossId: v7(),
    });
  });
});
