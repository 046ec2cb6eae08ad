import { sql } from 'drizzle-orm';
import { v7 } from 'uuid';
import type { Delivery, StockProof } from '@wunsch/contract';
import { MAY_ENTER, type Material, type WorkKind } from '@wunsch/core/ledger';
import { seededRandom } from '@wunsch/core/numerics';
import { traceForward } from '@wunsch/core/trace';
import { rowsOf } from '../db/raw.ts';
import { DATABASES, kg, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { loadGraph } from '../trace/loadGraph.ts';
import { walk } from './walk.ts';

/** Entries of one history; more where they are asked for (`npm run trials`). */
const ENTRIES = Number(process.env.WUNSCH_HISTORY ?? 250);

/** What comes out of each kind of work in these histories. */
const MAKES: Readonly<
  Record<'sort' | 'roast' | 'winnow' | 'grind' | 'temper' | 'mould', readonly Material[]>
> = {
  sort: ['sorted beans', 'rejects'],
  roast: ['roasted beans'],
  winnow: ['nibs', 'husk'],
  grind: ['chocolate', 'rework'],
  temper: ['tempered chocolate', 'rework'],
  mould: ['bars', 'rework'],
};

type Kind = keyof typeof MAKES;
const KINDS = Object.keys(MAKES) as Kind[];

/** Every kind of act there is. */
const KINDS_OF_ACT = [
  ...[
    'begin',
    'begin with',
    'take',
    'make',
    'lose',
    'close',
    'correct',
    'undo',
    'part',
    'join',
    'wrap',
    'deliver',
  ],
  ...['return', 'count', 'leave'],
];

interface Line {
  id: string;
  step: string;
  direction: 'in' | 'out' | 'loss';
  parcel: string | null;
  mg: number;
}

interface OnHand {
  id: string;
  material: Material;
  mg: number;
  count: number | null;
  batch: string | null;
}

/** A workshop that makes entries of every kind at random, and knows of them only what the doors answered. */
class Hands {
  private readonly random: () => number;
  private readonly open: { step: string; batch: string; kind: Kind; freeMg: number }[] = [];
  private readonly weighed: { id: string; massMg: number }[] = [];
  private readonly done: number[] = [];
  private batches = 0;
  readonly lots: { id: string; parcelId: string }[] = [];
  customerId = '';
  /** Entries taken, and refused in words, by kind. */
  readonly taken = new Map<string, number>();
  readonly refused = new Map<string, number>();

  constructor(
    private readonly shop: TestWorkshop,
    private readonly maker: Maker,
    seed: number,
  ) {
    this.random = seededRandom(seed);
  }

  private pick<T>(list: readonly T[]): T {
    return list[Math.floor(this.random() * list.length)]!;
  }

  async begin(): Promise<void> {
    for (const code of ['HA', 'HB', 'HC']) this.lots.push(await this.maker.lot(code, 4000));
    this.customerId = v7();
    await this.shop.send('PUT', `/api/customers/${this.customerId}`, {
      name: 'Quay stall',
      channel: 'trade',
    });
  }

  private async onHand(): Promise<OnHand[]> {
    return rowsOf<OnHand>(
      await this.shop.store.db
        .execute(sql`select id, material, remaining_mg::float8 as mg, count, batch_id as batch
        from parcel where remaining_mg > 0 and material <> 'packaging' order by id`),
    );
  }

  /** One entry, or one that is refused. */
  async act(): Promise<void> {
    const acts: Record<string, [weight: number, act: () => Promise<number | null>]> = {
      begin: [this.open.length < 8 ? 10 : 1, () => this.startStep()],
      'begin with': [this.open.length < 8 ? 6 : 1, () => this.beginWith()],
      take: [14, () => this.take()],
      make: [14, () => this.make()],
      lose: [3, () => this.lose()],
      close: [5, () => this.close()],
      correct: [6, () => this.correct()],
      undo: [6, () => this.undo()],
      part: [3, () => this.part()],
      join: [5, () => this.join()],
      wrap: [2, () => this.wrap()],
      deliver: [3, () => this.deliver()],
      return: [2, () => this.takeBack()],
      count: [4, () => this.count()],
      leave: [2, () => this.leave()],
    };
    let ticket = this.random() * Object.values(acts).reduce((sum, [w]) => sum + w, 0);
    const [name, [, act]] = Object.entries(acts).find(([, [w]]) => (ticket -= w) < 0)!;
    const before = await fingerprint(this.shop);
    const status = await act();
    if (status === null) return;
    expect(status).toBeLessThan(500);
    const tally = status < 300 ? this.taken : this.refused;
    tally.set(name, (tally.get(name) ?? 0) + 1);
    // What is refused leaves nothing behind.
    if (status >= 300) expect(await fingerprint(this.shop)).toBe(before);
  }

  private async put(path: string, body: object, id = v7()): Promise<number> {
    const { status, body: answer } = await this.shop.send('PUT', `${path}/${id}`, body);
    if (status < 300) this.done.push(answer.seq as number);
    return status;
  }

  /** A batch that is at work, or a new one. */
  private async someBatch(): Promise<string> {
    const lot = this.pick(this.lots);
    const running = this.open.length > 0 && this.random() < 0.6 ? this.pick(this.open) : null;
    if (running) return running.batch;
    const batch = v7();
    this.batches += 1;
    await this.put('/api/batches', { code: `H-${this.batches}`, lotId: lot.id }, batch);
    return batch;
  }

  private async startStep(): Promise<number> {
    const kind = this.pick(KINDS);
    const batch = await this.someBatch();
    const step = v7();
    const status = await this.put('/api/steps', { batchId: batch, station: kind }, step);
    if (status < 300) this.open.push({ step, batch, kind, freeMg: 0 });
    return status;
  }

  /** A step and its first weight in one act; now and then of what may not go in there, or of more than there is. */
  private async beginWith(): Promise<number | null> {
    const kind = this.pick(KINDS);
    const all = await this.onHand();
    const fits = this.random() < 0.9 ? all.filter((p) => MAY_ENTER[kind as WorkKind].has(p.material)) : all;
    if (fits.length === 0) return null;
    const batch = await this.someBatch();
    const from = this.pick(fits);
    const massMg = from.count === null ? Math.min(kg(30), Math.ceil(from.mg * this.random() * 1.1)) : from.mg;
    const [step, id] = [v7(), v7()];
    const status = await this.put(
      '/api/movements',
      {
        stepId: step,
        begins: { batchId: batch, station: kind },
        direction: 'in',
        parcelId: from.id,
        massMg: from.count === null ? massMg : null,
      },
      id,
    );
    if (status < 300) {
      this.open.push({ step, batch, kind, freeMg: massMg });
      if (from.count === null) this.weighed.push({ id, massMg });
    }
    return status;
  }

  private async take(): Promise<number | null> {
    if (this.open.length === 0) return null;
    const at = this.pick(this.open);
    const fits = (await this.onHand()).filter((p) => MAY_ENTER[at.kind as WorkKind].has(p.material));
    if (fits.length === 0) return null;
    // Mostly what was made here, else lots, and now and then something from another batch altogether.
    const own = fits.filter((p) => p.batch === at.batch);
    const from = own.length > 0 && this.random() < 0.6 ? this.pick(own) : this.pick(fits);
    const massMg = Math.min(
      Math.round(kg(30 * this.random())) + 1,
      Math.ceil(from.mg * (this.random() * 1.1)),
    );
    const whole = this.random() < 0.3 && from.mg < kg(60);
    // Now and then with all there is of others as well; of the same one twice is refused.
    const also = whole && this.random() < 0.4 ? fits.filter(() => this.random() < 0.3).slice(0, 3) : [];
    const id = v7();
    const status = await this.put(
      '/api/movements',
      {
        stepId: at.step,
        direction: 'in',
        parcelId: from.id,
        ...(from.count === null
          ? { massMg: whole ? null : massMg }
          : { massMg: null, count: whole ? null : 1 + Math.floor(this.random() * from.count) }),
        ...(also.length > 0 && { also: also.map((p) => ({ id: v7(), parcelId: p.id })) }),
      },
      id,
    );
    if (status < 300) {
      at.freeMg += also.reduce((sum, p) => sum + p.mg, whole ? from.mg : massMg);
      if (from.count === null) this.weighed.push({ id, massMg });
    }
    return status;
  }

  private async make(): Promise<number | null> {
    if (this.open.length === 0) return null;
    const at = this.pick(this.open);
    const material = this.pick(MAKES[at.kind]);
    const massMg = Math.max(1000, Math.round(at.freeMg * this.random() * 1.05));
    const id = v7();
    const status = await this.put(
      '/api/movements',
      {
        stepId: at.step,
        direction: 'out',
        parcelId: v7(),
        material,
        massMg,
        ...(material === 'bars' && { count: Math.max(1, Math.round(massMg / 50_000)), place: 'shelf' }),
      },
      id,
    );
    if (status < 300) {
      at.freeMg = Math.max(0, at.freeMg - massMg);
      this.weighed.push({ id, massMg });
    }
    return status;
  }

  private async lose(): Promise<number | null> {
    if (this.open.length === 0) return null;
    const at = this.pick(this.open);
    const massMg = Math.max(1, Math.round(at.freeMg * this.random() * 0.1));
    const body = {
      stepId: at.step,
      direction: 'loss',
      reason: this.pick(['dust', 'hold-up', 'moisture']),
      massMg,
    };
    return this.put('/api/movements', body);
  }

  private async close(): Promise<number | null> {
    if (this.open.length === 0) return null;
    const at = this.pick(this.open);
    const body = { remainder: this.random() < 0.8 ? 'hold-up' : null, remainderId: v7(), handsOnMinutes: 5 };
    const { status, body: answer } = await this.shop.send('PUT', `/api/steps/${at.step}/close`, body);
    if (status < 300) {
      this.done.push(answer.seq as number);
      this.open.splice(this.open.indexOf(at), 1);
    }
    return status;
  }

  private async correct(): Promise<number | null> {
    if (this.weighed.length === 0) return null;
    const at = Math.floor(this.random() * this.weighed.length);
    const old = this.weighed[at]!;
    const massMg = Math.max(1, Math.round(old.massMg * (0.7 + 0.6 * this.random())));
    const id = v7();
    const status = await this.put('/api/corrections', { movementId: old.id, massMg, reason: 'misread' }, id);
    if (status < 300) this.weighed.splice(at, 1, { id, massMg });
    return status;
  }

  private async undo(): Promise<number | null> {
    const seq = this.done.at(-1 - Math.floor(this.random() * 6));
    if (seq === undefined) return null;
    const { status } = await this.shop.send('PUT', `/api/undos/${v7()}`, { seq });
    if (status < 300) this.done.splice(this.done.indexOf(seq), 1);
    return status;
  }

  /** Bars on hand, and a number of them. */
  private async bars(): Promise<{ from: OnHand; count: number } | null> {
    const all = (await this.onHand()).filter((p) => p.material === 'bars');
    if (all.length === 0) return null;
    const from = this.pick(all);
    return { from, count: 1 + Math.floor(this.random() * Math.min(20, from.count ?? 1)) };
  }

  private async part(): Promise<number | null> {
    const stock = await this.onHand();
    if (stock.length === 0) return null;
    const from = this.pick(stock);
    const part = { parcelId: v7(), stepId: v7(), takenId: v7(), madeId: v7() };
    const some =
      from.count === null
        ? { massMg: Math.ceil(from.mg * this.random()) }
        : { count: 1 + Math.floor(this.random() * from.count) };
    return this.put('/api/moves', {
      place: this.pick(['shelf', 'shop', 'cellar']),
      parcels: [{ parcelId: from.id, ...some, part }],
    });
  }

  private async join(): Promise<number | null> {
    const stock = await this.onHand();
    const isSame = (a: OnHand, b: OnHand) => a.batch === b.batch && a.material === b.material;
    const several = stock.filter((a) => stock.some((b) => b !== a && isSame(a, b)));
    if (several.length === 0) return null;
    const first = this.pick(several);
    const same = several.filter((i) => isSame(i, first)).slice(0, 3);
    return this.put('/api/joinings', {
      parcels: same.map((i) => ({ parcelId: i.id, takenId: v7() })),
      madeId: v7(),
      parcelId: v7(),
    });
  }

  private async wrap(): Promise<number | null> {
    const found = await this.bars();
    if (!found) return null;
    return this.put('/api/wrappings', {
      parcelId: found.from.id,
      takenId: v7(),
      made: [{ count: found.count, label: 'box', movementId: v7(), parcelId: v7() }],
      ...(found.count < (found.from.count ?? 0) && {
        broken: { count: 1, movementId: v7(), parcelId: v7() },
      }),
    });
  }

  private async deliver(): Promise<number | null> {
    const found = await this.bars();
    if (!found) return null;
    const line = { parcelId: found.from.id, count: found.count, stepId: v7(), takenId: v7(), lossId: v7() };
    return this.put('/api/deliveries', { customerId: this.customerId, lines: [line] });
  }

  private async takeBack(): Promise<number | null> {
    const all = (await this.shop.send('GET', '/api/deliveries?limit=5')).body as Delivery[];
    if (all.length === 0) return null;
    const of = this.pick(all);
    const line = { stepId: of.lines[0]!.stepId, parcelId: v7(), madeId: v7(), lossId: v7() };
    return this.put('/api/returns', {
      deliveryId: of.id,
      onHold: this.random() < 0.2,
      lines: [{ ...line, ...(this.random() < 0.6 && { count: 1 }) }],
    });
  }

  private async count(): Promise<number | null> {
    const stock = await this.onHand();
    if (stock.length === 0) return null;
    const from = this.pick(stock);
    const found =
      from.count === null
        ? { foundMg: Math.max(0, Math.round(from.mg * (0.95 + 0.08 * this.random()))) }
        : { foundCount: Math.max(0, from.count + Math.round(this.random() * 6 - 3)) };
    const line = { parcelId: from.id, stepId: v7(), takenId: v7(), lossId: v7(), ...found };
    return this.put('/api/stock-counts', {
      lines: [{ ...line, expectedMg: from.mg, expectedCount: from.count, reason: 'mislaid' }],
    });
  }

  private async leave(): Promise<number | null> {
    const stock = await this.onHand();
    if (stock.length === 0) return null;
    const from = this.pick(stock);
    const some = from.count === null ? { massMg: Math.ceil(from.mg * 0.2 * this.random()) } : { count: 1 };
    const destination = this.pick(['sold', 'gift', 'waste']);
    return this.put('/api/leaves', { parcelId: from.id, ...some, destination, takenId: v7(), lossId: v7() });
  }
}

/** A few sums that change with anything in the books. */
async function fingerprint({ store }: TestWorkshop): Promise<string> {
  const [sums] = rowsOf<object>(
    await store.db.execute(sql`select
      (select count(*) || ' ' || coalesce(sum(remaining_mg), 0) || ' ' || coalesce(sum(count), 0) from parcel) as parcels,
      (select count(*) || ' ' || coalesce(sum(mass_mg), 0) || ' ' || count(*) filter (where voided or replaced_by is not null)
        from movement) as lines,
      (select count(*) || ' ' || count(*) filter (where voided) || ' ' || count(*) filter (where status = 'open') from step) as steps`),
  );
  return JSON.stringify(sums);
}

/** Whatever breaks the books: parcels that are not what their lines say, closed steps that do not come out even, lines of another batch. */
const broken = async ({ store }: TestWorkshop) =>
  rowsOf(
    await store.db.execute(sql`
      select 'parcel' as what, p.id::text as id from parcel p
        left join (select parcel_id, sum(case when direction = 'out' then mass_mg else -mass_mg end) as mg,
            sum(case when direction = 'out' then count else -count end) as n
          from movement where replaced_by is null and not voided and parcel_id is not null group by 1) m on m.parcel_id = p.id
        where p.remaining_mg < 0 or p.remaining_mg <> coalesce(m.mg, 0)
          or (p.count is not null and (p.count < 0 or p.count <> coalesce(m.n, 0)))
      union all
      select 'step', s.id::text from step s join movement m on m.step_id = s.id and m.replaced_by is null and not m.voided
        where s.status = 'closed' and not s.voided and s.kind <> 'receive' group by s.id
        having sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end) <> 0
      union all
      select 'batch of a line', m.id::text from movement m join step s on s.id = m.step_id where m.batch_id is distinct from s.batch_id
      union all
      select 'batch of a parcel', p.id::text from parcel p join step s on s.id = p.step_id where p.batch_id is distinct from s.batch_id`),
  );

describe.each(DATABASES)('a long history on %s', (kind) => {
  let shop: TestWorkshop;
  let hands: Hands;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    hands = new Hands(shop, new Maker(shop), kind === 'embedded' ? 20_261_126 : 20_261_127);
    await hands.begin();
  });
  afterAll(() => shop.close());

  const even = async () => {
    const { mass, bars } = (await shop.send('GET', '/api/stock-proof')).body as StockProof;
    expect([mass.differenceMg, bars.difference]).toEqual([0, 0]);
    expect(await broken(shop)).toEqual([]);
  };

  test(`through ${ENTRIES} entries of every kind nothing is created, nothing vanishes, and what is refused changes nothing`, async () => {
    const accepted = () => [...hands.taken.values()].reduce((a, b) => a + b, 0);
    for (let looked = 0; accepted() < ENTRIES;) {
      await hands.act();
      if (accepted() < looked + 100) continue;
      looked = accepted();
      await even();
    }
    await even();
    // Each kind was really made, and many were refused at times.
    expect([...hands.taken.keys()].sort()).toEqual([...KINDS_OF_ACT].sort());
    expect(hands.refused.size).toBeGreaterThan(5);
  }, 600_000);

  test('what hangs together is what a walk line by line through the whole ledger finds, both ways', async () => {
    const lines = rowsOf<Line>(
      await shop.store.db
        .execute(sql`select id, step_id as step, direction, parcel_id as parcel, mass_mg::float8 as mg
        from movement where replaced_by is null and not voided`),
    );
    const parcels = rowsOf<{ id: string; step: string }>(
      await shop.store.db.execute(sql`select id, step_id as step from parcel order by id`),
    );
    const maker = new Map(parcels.map((p) => [p.id, p.step]));
    const reachedFrom = (parcelId: string, way: 'forward' | 'back') => {
      const seen = new Set([maker.get(parcelId)!]);
      for (const at of seen)
        for (const line of lines) {
          if (line.step !== at || !line.parcel) continue;
          if (way === 'back' && line.direction === 'in') seen.add(maker.get(line.parcel)!);
          if (way === 'forward' && line.direction === 'out')
            for (const use of lines)
              if (use.parcel === line.parcel && use.direction !== 'loss') seen.add(use.step);
        }
      return [...seen].sort();
    };
    const asked = [
      ...hands.lots.map((l) => l.parcelId),
      ...parcels.filter((_, i) => i % 29 === 0).map((p) => p.id),
    ];
    let farthest = 0;
    for (const id of asked)
      for (const way of ['forward', 'back'] as const) {
        const walked = await walk(shop.store.db, { parcelIds: [id] }, way);
        const steps = [...walked.lines.keys()].sort();
        expect(steps).toEqual(reachedFrom(id, way));
        farthest = Math.max(farthest, steps.length);
        for (const [step, mine] of walked.lines)
          expect(mine.reduce((sum, l) => sum + l.massMg, 0)).toBe(
            lines.reduce((sum, l) => sum + (l.step === step ? l.mg : 0), 0),
          );
      }
    expect(farthest).toBeGreaterThan(30);
  }, 300_000);

  test('every milligram of each lot is somewhere: on hand, in work, gone or lost', async () => {
    for (const { parcelId } of hands.lots) {
      const roots = { parcelIds: [parcelId], stepIds: [], ingredientIds: [] };
      const forward = traceForward(await loadGraph(shop.store.db, roots, 'forward'), roots);
      const sum = (ends: readonly { contentMg: number }[]) => ends.reduce((t, e) => t + e.contentMg, 0);
      const all = sum(forward.here) + sum(forward.gone) + sum(forward.lost) + sum(forward.inProcess);
      expect(forward.rootMg).toBeGreaterThan(kg(3000));
      expect(Math.abs(all - forward.rootMg) / forward.rootMg).toBeLessThan(1e-9);
    }
  }, 60_000);
});
