import { v7 } from 'uuid';
import type { BatchView, BenchView, PlanRoomView } from '@wunsch/contract';
import { USUAL_DATABASE, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';

/** A charge that is too much for one grinder is parted between two, and each is a machine at work of its own. */
describe.each(USUAL_DATABASE)('a batch in two grinders at once on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let batchId: string;
  const machine = { big: v7(), small: v7() };
  const step = { big: '', small: '' };

  const get = async <T>(path: string) => (await shop.send('GET', path)).body as T;
  const view = () => get<BatchView>(`/api/batches/${batchId}`);

  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    for (const [name, id] of Object.entries(machine)) {
      const { status } = await shop.send('PUT', `/api/machines/${id}`, {
        name,
        station: 'grind',
        kind: 'stone grinder',
        minMg: kg(1),
        maxMg: kg(7),
      });
      expect(status).toBe(201);
    }
    const lot = await maker.lot('TWO', 20, { material: 'nibs' });
    batchId = await maker.batch('TWO-01', lot.id);
    const bowl = await maker.step(batchId, 'recipe');
    await maker.take(bowl, lot.parcelId, 8);
    const charge = await maker.make(bowl, 'charge', null);
    await maker.close(bowl);
    step.big = await maker.step(batchId, 'grind', { machineId: machine.big });
    await maker.take(step.big, charge.parcelId, 5);
    step.small = await maker.step(batchId, 'grind', { machineId: machine.small });
    await maker.take(step.small, charge.parcelId, 3);
  });
  afterAll(() => shop.close());

  test('the Bench tells each with its machine and what is in it', async () => {
    const bench = await get<BenchView>('/api/bench');
    expect(bench.running.map((r) => [r.stepId, r.machineId, r.machine, r.massMg])).toEqual([
      [step.big, machine.big, 'big', kg(5)],
      [step.small, machine.small, 'small', kg(3)],
    ]);
    expect(bench.line.find((s) => s.station === 'grind')).toMatchObject({ running: 2 });
  });

  test('what comes next names the machine that is due first, and its mass', async () => {
    expect((await view()).next).toMatchObject({
      code: 'take-reading',
      massMg: kg(5),
      at: { stepId: step.big, machine: 'big' },
    });
    await maker.note(step.big, { kind: 'grit', method: 'micrometer', um: 60 });
    const { next } = await view();
    expect(next).toMatchObject({ massMg: kg(3), at: { stepId: step.small, machine: 'small' } });
    const [batch] = (await get<BenchView>('/api/bench')).batches;
    expect(batch).toMatchObject({ machine: 'small', next });
  });

  test('each is what went into it, not what went into both', async () => {
    await maker.weigh(step.small, 'cane-sugar', 1);
    const { bowls } = await view();
    const told = bowls!.map((b) => [
      b.stepId,
      Object.fromEntries(b.lines.map((l) => [l.ingredient.name, l.massMg])),
    ]);
    expect(told).toEqual([
      [step.big, { Nibs: kg(5) }],
      [step.small, { Nibs: kg(3), 'Cane sugar': kg(1) }],
    ]);
  });

  test('the plan knows both machines to be taken', async () => {
    const [batch] = (await get<PlanRoomView>('/api/plan')).batches;
    const told = [batch!.running!, ...batch!.beside!].map((r) => [r.machineId, r.massMg]);
    expect(told).toEqual([
      // What goes in begins a grind anew, so the big one is due first again.
      [machine.big, kg(5)],
      [machine.small, kg(4)],
    ]);
  });

  test('with one of them drawn off, the other is alone again, and still a part', async () => {
    await maker.make(step.small, 'chocolate', null);
    await maker.close(step.small);
    const { next, bowls } = await view();
    expect(bowls!.map((b) => [b.stepId, b.lines.map((l) => l.massMg)])).toEqual([[step.big, [kg(5)]]]);
    expect(next).toMatchObject({ code: 'take-reading', massMg: kg(5) });
    expect(next.at).toBeUndefined();
  });
});
