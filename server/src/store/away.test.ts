import pg from 'pg';
import { v7 } from 'uuid';
import { openServer } from './server.ts';
import { DATABASES, Maker, openWorkshop, type TestWorkshop } from '../testing/workshop.ts';
import { Gate } from '../testing/gate.ts';
import type { BusEvent } from '../live/bus.ts';

const onServer = DATABASES.includes('postgresql') ? describe : describe.skip;

/** Waits until something holds. */
async function until(holds: () => Promise<boolean> | boolean, what: string): Promise<void> {
  for (let i = 0; i < 400; i += 1) {
    if (await holds()) return;
    await new Promise((r) => setTimeout(r, 25));
  }
  throw new Error(`in vain: ${what}`);
}

onServer('a PostgreSQL that goes away', () => {
  let shop: TestWorkshop;
  let gate: Gate;
  let direct: string;
  let maker: Maker;
  beforeAll(async () => {
    shop = await openWorkshop('postgresql', async (url) => {
      direct = url;
      gate = await Gate.before(url);
      return gate.url;
    });
    maker = new Maker(shop);
  });
  afterAll(async () => {
    await shop.close();
    await gate.remove();
  });

  const health = async () => (await shop.send('GET', '/api/health')).body as { status: string };
  const isOk = async () => (await health()).status === 'ok';
  const query = async (text: string) => {
    const client = new pg.Client({ connectionString: direct });
    await client.connect();
    try {
      return await client.query(text);
    } finally {
      await client.end();
    }
  };

  test('while it is away, health says so, and reads and entries are answered 503 and change nothing', async () => {
    const lot = await maker.lot('AWY', 20);
    gate.shut();
    await until(async () => (await health()).status === 'waiting', 'health says waiting');
    const id = v7();
    const put = () => shop.send('PUT', `/api/batches/${id}`, { code: 'AWY-1', lotId: lot.id });
    const [read, write] = [await shop.send('GET', '/api/bench'), await put()];
    for (const { status, body } of [read, write]) {
      expect({ status, code: body.code }).toEqual({ status: 503, code: 'database-away' });
      expect(body.detail).toContain('nothing has been changed');
    }
    gate.lift();
    await until(isOk, 'health is ok again');
    expect((await put()).status).toBe(201);
    expect((await put()).body.repeated).toBe(true);
  });

  test('changes and weights made through another server meanwhile arrive once it is back, each once and in order', async () => {
    const other = await openServer(direct);
    try {
      const heard: BusEvent[] = [];
      const weights: number[] = [];
      shop.store.bus.subscribe(
        (event) => heard.push(event),
        () => undefined,
      );
      shop.store.bus.onWeight(({ massMg }) => weights.push(massMg));
      gate.shut();
      await until(async () => (await health()).status === 'waiting', 'health says waiting');
      const people = (await query('select id, initials from person')).rows as {
        id: string;
        initials: string;
      }[];
      const note = (text: string) =>
        other.writer.submit({
          kind: 'observation.add',
          target: v7(),
          actor: { ...people[0]!, role: 'owner' },
          body: { data: { kind: 'note', text } },
        });
      const made: number[] = [];
      for (const text of ['one', 'two', 'three']) made.push((await note(text)).seq);
      gate.lift();
      await until(isOk, 'health is ok again');
      made.push((await note('four')).seq);
      await until(() => heard.some((e) => e.seq === made.at(-1)), 'the last change heard');
      // News of what this server made itself just before may still have been on its way.
      expect(heard.map((e) => e.seq).filter((seq) => seq >= made[0]!)).toEqual(made);
      other.showWeight({
        machineId: v7(),
        name: 'scale',
        massMg: 512_000,
        stable: true,
        at: '2026-11-02T08:00:00Z',
      });
      await until(() => weights.length > 0, 'a weight');
      expect(weights).toEqual([512_000]);
    } finally {
      await other.close();
    }
  });

  test('ending its connections one by one, as an administrator does, ends no server', async () => {
    for (let round = 0; round < 3; round += 1) {
      await query(
        'select pg_terminate_backend(pid) from pg_stat_activity where pid <> pg_backend_pid() and datname = current_database()',
      );
      await until(async () => (await shop.send('GET', '/api/bench')).status === 200, 'the Bench is read');
      await until(isOk, 'health is ok again');
    }
    await maker.lot(`T${v7().slice(-6)}`, 5);
  });

  test('a server that starts while it is away waits for it', async () => {
    gate.shut();
    let waited = 0;
    const opening = openServer(gate.url, { onWaiting: () => (waited += 1) });
    await until(() => waited > 0, 'it waits');
    gate.lift();
    const store = await opening;
    expect(store.isAway()).toBe(false);
    await store.close();
    await until(isOk, 'health is ok again');
  });
});
