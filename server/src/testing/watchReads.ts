import { sql } from 'drizzle-orm';
import { isStale, TOPICS, type Change } from '@wunsch/contract';
import { rowsOf } from '../db/raw.ts';
import type { BusEvent } from '../live/bus.ts';
import type { TestWorkshop } from './workshop.ts';

/** Something that looked different after an entry and would not have been read again. */
export interface Missed {
  kind: string;
  address: string;
  /** The first place where the answers differ, with both. */
  what: string;
}

/** Rows asked for by their ids: where the latest are found. */
const LATEST: readonly [prefix: string, rows: string][] = [
  ['/api/batches/', 'select id from batch order by started_at desc limit 4'],
  ['/api/pages/of-batch/', 'select id from batch order by started_at desc limit 2'],
  ['/api/lots/', 'select id from lot order by created_at desc limit 3'],
  ['/api/people/', 'select id from person order by id limit 3'],
  ['/api/steps/', 'select id from step order by started_at desc limit 2'],
  ['/api/machines/', 'select id from machine order by id desc limit 2'],
  ['/api/deliveries/', 'select id from delivery order by id desc limit 2'],
  ['/api/recalls/', 'select id from recall order by id desc limit 1'],
  ['/api/cases/', 'select id from fault_case order by id desc limit 2'],
  ['/api/classes/', 'select id from class_event order by id desc limit 2'],
  ['/api/tasting-sessions/', 'select id from tasting_session order by created_at desc limit 2'],
  ['/api/trials/', 'select id from trial order by id desc limit 1'],
  ['/api/ingredients/', 'select id from ingredient order by id limit 2'],
  ['/api/fillings/', "select id from step where kind = 'prepare' and not voided order by id desc limit 2"],
  ['/api/labels/', "select id from parcel where material = 'bars' order by id desc limit 2"],
];

/** What is no page of the workshop’s books: it is told otherwise, asked for at a press, or about the server. */
const NO_PAGE =
  /\.(csv|pdf|svg|ics|zip|geojson|jsonld)$|\/file$|^\/api\/(health|events|trail|find|openapi|backups|sessions|guest|practices|holiday-places|calendars\/|bar\/|class\/)/;

/** What says in its query of what it is asked; looked at below. */
const ASKED_WITH = new Set(['/api/trace', '/api/compositions', '/api/machine-before']);

/** A change of everything. */
const EVERYTHING: BusEvent = { seq: 0, kind: '', target: '', batchId: null, by: null, touches: [...TOPICS] };

/** Fields of the moment rather than of the books. */
const PASSING = new Set(['lastSeq', 'tookMs']);

function firstDifference(a: unknown, b: unknown, path = ''): string | null {
  if (JSON.stringify(a) === JSON.stringify(b)) return null;
  if (typeof a !== 'object' || typeof b !== 'object' || !a || !b)
    return `${path}: ${JSON.stringify(a)} became ${JSON.stringify(b)}`.slice(0, 300);
  const [was, is] = [a as Record<string, unknown>, b as Record<string, unknown>];
  for (const key of new Set([...Object.keys(was), ...Object.keys(is)])) {
    const found = PASSING.has(key) ? null : firstDifference(was[key], is[key], `${path}.${key}`);
    if (found) return found;
  }
  return null;
}

/** Every address of a page there is in a workshop, from its own description. */
async function addresses({ app, store }: TestWorkshop): Promise<string[]> {
  const paths = Object.entries(app.swagger().paths ?? {})
    .filter(([path, methods]) => methods && 'get' in methods && !NO_PAGE.test(path))
    .map(([path]) => path);
  const all = await Promise.all(
    paths.map(async (path) => {
      if (ASKED_WITH.has(path)) return [];
      if (!path.includes('{')) return [path];
      const from = LATEST.find(([prefix]) => path.startsWith(prefix));
      if (!from) throw new Error(`say in watchReads.ts where an id for ${path} is found`);
      const rows = rowsOf<{ id: string }>(await store.db.execute(sql.raw(from[1])));
      return rows.map(({ id }) => path.replace(/\{\w+\}/, id));
    }),
  );
  const batches = rowsOf<{ id: string }>(
    await store.db.execute(sql`select id from batch order by started_at desc limit 2`),
  );
  const parcels = rowsOf<{ id: string }>(
    await store.db.execute(
      sql`select id from parcel where material in ('filling', 'couverture', 'chocolate') order by id desc limit 2`,
    ),
  );
  const machines = rowsOf<{ id: string }>(
    await store.db.execute(
      sql`select distinct machine_id as id from step where machine_id is not null limit 2`,
    ),
  );
  return [
    ...all.flat(),
    ...parcels.map(({ id }) => `/api/compositions?of=${id}`),
    ...machines.map(({ id }) => `/api/machine-before?machine=${id}`),
    ...batches.map(({ id }) => `/api/trace?of=batch&id=${id}&way=back`),
  ];
}

/**
 * Watches the entries of a test workshop: before and after each that is watched every page is drawn anew at one and the same moment, and
 * what looks different must be among what the entry says it touches.
 *
 * @param most entries of a kind that are watched; each takes as long as reading the whole workshop three times
 * @returns what was missed so far
 */
export function watchReads(shop: TestWorkshop, most: number): readonly Missed[] {
  const { store, app } = shop;
  const missed: Missed[] = [];
  const seen = new Map<string, number>();
  const submit = store.writer.submit.bind(store.writer);
  const now = store.now.bind(store);
  const ask = async (paths: readonly string[], moment: number) => {
    // Nothing that is remembered may stand in for what is.
    store.bus.publishToCaches(EVERYTHING);
    store.now = () => moment;
    const answers = new Map<string, unknown>();
    for (const url of paths) {
      const answer = await app.inject({ url, headers: { host: 'localhost:4310', cookie: shop.cookie } });
      answers.set(url, answer.statusCode === 200 ? answer.json() : { status: answer.statusCode });
    }
    store.now = now;
    return answers;
  };
  let watching = false;
  store.writer.submit = async (request) => {
    const nth = (seen.get(request.kind) ?? 0) + 1;
    if (watching || nth > most) return submit(request);
    seen.set(request.kind, nth);
    watching = true;
    const changes: Change[] = [];
    const stop = store.bus.subscribe(
      (event: BusEvent) => void changes.push(event),
      () => undefined,
    );
    try {
      const paths = await addresses(shop);
      const moment = now() + 1000;
      const before = await ask(paths, moment);
      const accepted = await submit(request);
      await store.writer.settleStream();
      const after = await ask(paths, moment);
      const changed = paths.filter((p) => firstDifference(before.get(p), after.get(p)));
      // What differs from one look to the next by itself tells nothing.
      const again = await ask(changed, moment);
      for (const address of changed) {
        if (firstDifference(after.get(address), again.get(address))) continue;
        if (changes.some((change) => isStale(address, change))) continue;
        const what = firstDifference(before.get(address), after.get(address))!;
        missed.push({ kind: request.kind, address, what });
      }
      return accepted;
    } finally {
      stop();
      watching = false;
    }
  };
  return missed;
}
