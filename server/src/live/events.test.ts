import { v7 } from 'uuid';
import { DATABASES, Maker, openWorkshop, signIn, type TestWorkshop } from '../testing/workshop.ts';

interface Sent {
  id?: number;
  event: string;
  data: unknown;
}

/** Reads a stream of server-sent events as a page would. */
class Page {
  readonly got: Sent[] = [];
  /** What the server's clock showed, epoch ms. */
  readonly clock: number[] = [];
  private readonly cancel = new AbortController();
  ended = false;

  static async open(url: string, cookie: string, lastEventId?: number): Promise<Page> {
    const page = new Page();
    const response = await fetch(`${url}/api/events`, {
      headers: { cookie, ...(lastEventId !== undefined && { 'last-event-id': String(lastEventId) }) },
      signal: page.cancel.signal,
    });
    expect(response.headers.get('content-type')).toBe('text/event-stream');
    void page.read(response.body!).catch(() => undefined);
    return page;
  }

  private async read(body: ReadableStream<Uint8Array>): Promise<void> {
    let text = '';
    for await (const part of body) {
      text += new TextDecoder().decode(part);
      const blocks = text.split('\n\n');
      text = blocks.pop()!;
      for (const block of blocks) {
        const lines = Object.fromEntries(
          block.split('\n').map((l) => [l.slice(0, l.indexOf(':')), l.slice(l.indexOf(':') + 2)]),
        );
        if (lines.event === 'clock') this.clock.push((JSON.parse(lines.data!) as { now: number }).now);
        else if (lines.data)
          this.got.push({
            ...(lines.id && { id: Number(lines.id) }),
            event: lines.event ?? 'message',
            data: JSON.parse(lines.data),
          });
      }
    }
    this.ended = true;
  }

  /** Waits until what has come satisfies a condition. */
  async until(fits: (got: readonly Sent[]) => boolean): Promise<void> {
    for (let i = 0; i < 400 && !fits(this.got); i += 1) await new Promise((r) => setTimeout(r, 25));
    if (!fits(this.got)) throw new Error(`in vain: ${JSON.stringify(this.got)}`);
  }

  close(): void {
    this.cancel.abort();
  }
}

describe.each(DATABASES)('the stream of changes on %s', (kind) => {
  let shop: TestWorkshop;
  let maker: Maker;
  let url: string;
  let batch: string;
  let roast: string;
  beforeAll(async () => {
    shop = await openWorkshop(kind);
    maker = new Maker(shop);
    url = await shop.app.listen({ port: 0, host: '127.0.0.1' });
    const lot = await maker.lot('EVT', 20);
    batch = await maker.batch('EVT-1', lot.id);
    roast = await maker.step(batch, 'roast');
    await maker.take(roast, lot.parcelId, 2);
  });
  afterAll(() => shop.close());

  test('a page is told the time as it comes', async () => {
    const page = await Page.open(url, shop.cookie);
    for (let i = 0; i < 100 && page.clock.length === 0; i += 1) await new Promise((r) => setTimeout(r, 20));
    expect(Math.abs(page.clock[0]! - Date.now())).toBeLessThan(5000);
    page.close();
  });

  const note = (text: string) => maker.note(roast, { kind: 'note', text });

  test('every change goes to every open page, in order, with what it is about', async () => {
    const [one, two] = [await Page.open(url, shop.cookie), await Page.open(url, shop.cookie)];
    await note('first');
    await note('second');
    // From the database, what was written before a page opened may be told just after.
    const notes = (got: readonly Sent[]) =>
      got.filter((g) => (g.data as { kind: string }).kind === 'observation.add');
    for (const page of [one, two]) {
      await page.until((got) => notes(got).length >= 2);
      const [first, second, ...more] = notes(page.got);
      expect([first!.data, second!.data, more]).toEqual([
        expect.objectContaining({ batchId: batch }),
        expect.objectContaining({ batchId: batch }),
        [],
      ]);
      expect(second!.id).toBe(first!.id! + 1);
      page.close();
    }
  });

  test('a page that comes back gets what it missed, once, and then goes on', async () => {
    const page = await Page.open(url, shop.cookie);
    await note('seen');
    await page.until((got) => got.length === 1);
    const last = page.got[0]!.id!;
    page.close();
    await note('missed one');
    await note('missed two');
    const again = await Page.open(url, shop.cookie, last);
    await note('live');
    await again.until((got) => got.length >= 3);
    await new Promise((r) => setTimeout(r, 150));
    expect(again.got.map((g) => g.id)).toEqual([last + 1, last + 2, last + 3]);
    again.close();
  });

  test('readings of a board and what a scale shows come as events of their own', async () => {
    const machine = v7();
    await shop.send('PUT', `/api/machines/${machine}`, { name: 'Oven', station: 'roast' });
    const scale = v7();
    await shop.send('PUT', `/api/machines/${scale}`, { name: 'Scale', station: 'mould', kind: 'scale' });
    const tokenOf = async (id: string) => (await shop.send('POST', `/api/machines/${id}/token`)).body.token;
    const lot = await maker.lot('EVO', 5);
    const other = await maker.batch('EVO-1', lot.id);
    const step = await maker.step(other, 'roast', { machineId: machine });
    await maker.take(step, lot.parcelId, 2);
    const page = await Page.open(url, shop.cookie);
    const post = (path: string, token: string, body: object) =>
      fetch(`${url}${path}`, {
        method: 'POST',
        headers: { authorization: `Bearer ${token}`, 'content-type': 'application/json' },
        body: JSON.stringify(body),
      });
    expect((await post('/api/door/readings', await tokenOf(machine), { celsius: 88.5 })).ok).toBe(true);
    expect((await post('/api/door/weights', await tokenOf(scale), { grams: 1234 })).ok).toBe(true);
    await page.until(
      (got) => got.some((g) => g.event === 'readings') && got.some((g) => g.event === 'weight'),
    );
    expect(page.got.find((g) => g.event === 'readings')!.data).toEqual([
      expect.objectContaining({ stepId: step, celsius: [88.5] }),
    ]);
    expect(page.got.find((g) => g.event === 'weight')!.data).toMatchObject({ massMg: 1_234_000 });
    page.close();
  });

  test('a page that has seen nothing whole starts with what comes, and the stream does not break', async () => {
    for (const header of ['1.5', '-3', 'x', '9'.repeat(30)]) {
      const response = await fetch(`${url}/api/events`, {
        headers: { cookie: shop.cookie, 'last-event-id': header },
        signal: AbortSignal.timeout(5000),
      });
      expect(response.status).toBe(200);
      await response.body!.cancel();
    }
  });

  test('a page that missed more than is sent again is told so once', async () => {
    const page = await Page.open(url, shop.cookie, 0);
    await page.until((got) => got.length > 0);
    // Few were entered here: they come one by one.
    expect(page.got.some((e) => e.event === 'missed')).toBe(false);
    page.close();
    await shop.store.db.execute(
      `insert into trail (seq, kind, target, by, at, touches)
       select 1000000 + n, kind, target, by, at, touches
       from generate_series(1, 600) n, (select * from trail order by seq desc limit 1) one`,
    );
    const late = await Page.open(url, shop.cookie, 0);
    await late.until((got) => got.some((e) => e.event === 'missed'));
    expect(late.got.filter((e) => e.event !== 'missed')).toEqual([]);
    late.close();
  });

  test('signing out ends the stream', async () => {
    const other = await signIn(shop, 'Ada', 'a long password');
    const page = await Page.open(url, other);
    await fetch(`${url}/api/session`, { method: 'DELETE', headers: { cookie: other } });
    for (let i = 0; i < 100 && !page.ended; i += 1) await new Promise((r) => setTimeout(r, 50));
    expect(page.ended).toBe(true);
  });

  test('whoever has not signed in hears nothing; a store that closes ends the stream', async () => {
    expect((await fetch(`${url}/api/events`)).status).toBe(401);
    const page = await Page.open(url, shop.cookie);
    shop.store.bus.close();
    await page.until(() => page.ended);
  });
});
