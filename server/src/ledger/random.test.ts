import fc from 'fast-check';
import { sql } from 'drizzle-orm';
import { cpSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildApp } from '../app.ts';
import { openEmbedded } from '../store/embedded.ts';
import type { Store } from '../store/store.ts';
import { firstRun, Maker, signIn, type TestWorkshop } from '../testing/workshop.ts';

/** Histories; `npm run trials` asks for many. */
const HISTORIES = Number(process.env.WUNSCH_HISTORIES ?? 25);

/** What a maker may do next; numbers pick among what is there, and how much. */
type Act =
  | { do: 'take'; which: number; share: number }
  | { do: 'make'; share: number }
  | { do: 'lose'; share: number }
  | { do: 'close' }
  | { do: 'correct'; which: number; factor: number }
  | { do: 'undo' };

const share = fc.double({ min: 0.05, max: 1.2, noNaN: true });
const act: fc.Arbitrary<Act> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ do: fc.constant('take' as const), which: fc.nat(50), share }) },
  { weight: 4, arbitrary: fc.record({ do: fc.constant('make' as const), share }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('lose' as const), share }) },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('close' as const) }) },
  {
    weight: 2,
    arbitrary: fc.record({
      do: fc.constant('correct' as const),
      which: fc.nat(50),
      factor: fc.double({ min: 0.5, max: 1.5, noNaN: true }),
    }),
  },
  { weight: 2, arbitrary: fc.record({ do: fc.constant('undo' as const) }) },
);

const rows = async <T>(store: Store, query: ReturnType<typeof sql>): Promise<T[]> =>
  ((await store.db.execute(query)) as unknown as { rows: T[] }).rows;

/** Masses in force, as the ledger keeps them: what each parcel holds, and each step's ins, outs and losses. */
async function books(store: Store) {
  return {
    parcels: await rows<{ id: string; mg: string }>(
      store,
      sql`select p.id, p.remaining_mg::text as mg from parcel p where exists
        (select 1 from movement m where m.parcel_id = p.id and not m.voided and m.replaced_by is null) order by p.id`,
    ),
    steps: await rows<{ id: string; status: string }>(
      store,
      sql`select s.id, s.status, m.direction, sum(m.mass_mg)::text as mg from step s
        left join movement m on m.step_id = s.id and not m.voided and m.replaced_by is null
        where not s.voided group by s.id, s.status, m.direction order by s.id, m.direction`,
    ),
  };
}

/** Everything that must hold after every entry, accepted or refused. */
async function audit(store: Store): Promise<void> {
  const wrong = await rows(
    store,
    sql`select 'parcel' as what, p.id::text as id from parcel p where p.remaining_mg < 0 or p.remaining_mg <>
          coalesce((select sum(case when m.direction = 'out' then m.mass_mg else -m.mass_mg end)
            from movement m where m.parcel_id = p.id and m.replaced_by is null and not m.voided), 0)
        union all
        select 'step', s.id::text from step s join movement m on m.step_id = s.id and m.replaced_by is null and not m.voided
          where s.status = 'closed' and not s.voided and s.station <> 'beans' group by s.id
          having sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end) <> 0
        union all
        select 'total', 'all' where
          (select coalesce(sum(m.mass_mg), 0) from movement m join step s on s.id = m.step_id
             where m.replaced_by is null and not m.voided and m.direction = 'out' and s.station = 'beans')
          <> (select coalesce(sum(remaining_mg), 0) from parcel)
           + (select coalesce(sum(m.mass_mg), 0) from movement m where m.replaced_by is null and not m.voided and m.direction = 'loss')
           + (select coalesce(sum(case when m.direction = 'in' then m.mass_mg else -m.mass_mg end), 0) from movement m join step s on s.id = m.step_id
                where s.status = 'open' and m.replaced_by is null and not m.voided and s.station <> 'beans')`,
  );
  expect(wrong).toEqual([]);
}

let directory: string;
let store: Store;
let shop: TestWorkshop;
let maker: Maker;
let lots = 0;

beforeAll(async () => {
  directory = mkdtempSync(join(tmpdir(), 'wunsch-random-'));
  store = await openEmbedded({ directory });
  const app = await buildApp({ store: () => store });
  shop = {
    app,
    store,
    cookie: '',
    async send(method, url, body) {
      const response = await app.inject({
        method,
        url,
        ...(body !== undefined && { payload: body as object }),
        headers: { host: 'localhost:4310', cookie: shop.cookie },
      });
      return { status: response.statusCode, body: response.body === '' ? null : response.json() };
    },
    close: async () => undefined,
  };
  await shop.send('POST', '/api/first-run', firstRun());
  shop.cookie = await signIn(shop, 'Ada', 'a long password');
  maker = new Maker(shop);
});
afterAll(async () => {
  await shop.app.close();
  await store.close();
  rmSync(directory, { recursive: true });
});

/** Two stations of one batch, one after the other: sorting feeds the roast, so corrections and undo must carry through. */
async function play(acts: readonly Act[]): Promise<void> {
  lots += 1;
  const lot = await maker.lot(`R${lots}`, 30);
  const batch = await maker.batch(`R${lots}-1`, lot.id);
  let station: 'sort' | 'roast' = 'sort';
  let step = await maker.step(batch, station);
  const held: string[] = [lot.parcelId];
  const entered: { id: string; mass: number }[] = [];
  entered.push({ id: await maker.take(step, lot.parcelId, 10), mass: 10 });
  let unusedIn = 10;
  for (const next of acts) {
    const before = await books(store);
    let refused = false;
    try {
      switch (next.do) {
        case 'take': {
          const mass = 10 * next.share;
          const from = held[next.which % held.length]!;
          entered.push({ id: await maker.take(step, from, mass), mass });
          unusedIn += mass;
          break;
        }
        case 'make': {
          const mass = Math.max(0.001, unusedIn * next.share);
          const made = await maker.make(step, station === 'sort' ? 'sorted beans' : 'roasted beans', mass);
          held.push(made.parcelId);
          entered.push({ id: made.id, mass });
          unusedIn -= mass;
          break;
        }
        case 'lose': {
          const mass = Math.max(0.001, unusedIn * next.share * 0.3);
          entered.push({ id: await maker.lose(step, 'flat', mass), mass });
          unusedIn -= mass;
          break;
        }
        case 'close':
          await maker.close(step, 'dust');
          station = 'roast';
          step = await maker.step(batch, station);
          unusedIn = 0;
          break;
        case 'correct': {
          const old = entered[next.which % Math.max(1, entered.length)];
          if (!old) break;
          const mass = old.mass * next.factor;
          const id = await maker.correct(old.id, mass);
          entered.splice(entered.indexOf(old), 1, { id, mass });
          break;
        }
        case 'undo': {
          const { lastSeq } = (await shop.send('GET', `/api/batches/${batch}`)).body;
          const id = crypto.randomUUID();
          const answer = await shop.send('PUT', `/api/undos/${id}`, { seq: lastSeq });
          refused = answer.status >= 300;
          expect(answer.status).toBeLessThan(500);
        }
      }
    } catch (error) {
      const { status } = error as { status?: number };
      // A refusal says what would be right; anything else is a fault of ours.
      if (status === undefined || status >= 500) throw error;
      refused = true;
    }
    if (refused) expect(await books(store)).toEqual(before);
    await audit(store);
  }
}

test(
  'whatever is entered, corrected and taken back, in whatever order: nothing is created and nothing vanishes',
  async () => {
    await fc.assert(fc.asyncProperty(fc.array(act, { minLength: 3, maxLength: 22 }), play), {
      numRuns: HISTORIES,
      seed: 20261125,
      endOnFailure: false,
    });
  },
  300_000 + HISTORIES * 4_000,
);

test('rebuilt from the journal alone, the books are the same to the milligram', async () => {
  const left = mkdtempSync(join(tmpdir(), 'wunsch-random-cut-'));
  await store.writer.settled();
  cpSync(join(directory, 'journal'), join(left, 'journal'), { recursive: true });
  const again = await openEmbedded({ directory: left });
  expect(again.opened.replayed).toBe(store.writer.lastSeq);
  expect(again.opened.replayed).toBeGreaterThan(8 * HISTORIES);
  expect(await books(again)).toEqual(await books(store));
  expect((await books(again)).parcels.length).toBeGreaterThan(1.5 * HISTORIES);
  await audit(again);
  await again.close();
  rmSync(left, { recursive: true });
}, 120_000);
