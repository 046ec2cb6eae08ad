import { randomUUID } from 'node:crypto';
import { rmSync } from 'node:fs';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { v7 } from 'uuid';
import type { FirstRun } from '@wunsch/contract';
import { buildApp } from '../app.ts';
import { copyTree } from '../db/files.ts';
import type { App } from '../http/types.ts';
import { openEmbedded } from '../store/embedded.ts';
import { openServer } from '../store/server.ts';
import type { Store } from '../store/store.ts';
import { watchReads } from './watchReads.ts';

/** A workshop in a fresh database, driven through its real routes. */
export interface TestWorkshop {
  app: App;
  store: Store;
  /** Sends as the owner unless another cookie is given; returns status and body. */
  send(
    method: 'GET' | 'PUT' | 'POST' | 'DELETE',
    url: string,
    body?: unknown,
    headers?: Record<string, string>,
  ): Promise<{ status: number; body: any }>;
  cookie: string;
  close(): Promise<void>;
}

/** Databases the server's tests run on: PostgreSQL only where the test run has started one. */
export const DATABASES: readonly Kind[] = process.env.WUNSCH_TEST_PG
  ? ['embedded', 'postgresql']
  : ['embedded'];

/** One of them, for what is decided before anything is stored: the one that opens sooner. */
export const ANY_DATABASE = DATABASES.slice(-1);

/**
 * For what asks either in the same words and works on what it answers: both in the trials, otherwise the one that opens sooner. Every walk in the
 * browser, and the demo, asks the other.
 */
export const USUAL_DATABASE = process.env.WUNSCH_TRIALS ? DATABASES : ANY_DATABASE;

/** Entries of each kind in each workshop after which it is looked whether every page they show on is read again. */
const WATCHED = Number(process.env.WUNSCH_WATCH ?? 0);

/** The first run used in tests. */
export function firstRun(): FirstRun {
  return {
    workshop: {
      name: 'Test row',
      shape: 'shop',
      currency: 'GBP',
      temperatureUnit: '°C',
      massSystem: 'metric',
    },
    owner: { id: v7(), name: 'Ada', initials: 'AK', password: 'a long password' },
    people: [
      { id: v7(), name: 'Vi', initials: 'VI', role: 'viewer', password: 'another password' },
      { id: v7(), name: 'Tam', initials: 'TA', role: 'taster', password: 'third password' },
    ],
    machines: [{ id: v7(), name: 'Ida', station: 'grind', minMg: 2_000_000, maxMg: 9_000_000 }],
  };
}

type Kind = 'embedded' | 'postgresql';

/** Something between the server and its PostgreSQL: it is given the database's address and answers with another. */
type Through = (url: string) => Promise<string>;

/** A place for a store, or a whole one, closed. */
interface Place {
  /** A directory, or the address of a database. */
  at: string;
  drop: () => Promise<void>;
}

async function asAdmin(sql: string): Promise<void> {
  const client = new pg.Client({ connectionString: process.env.WUNSCH_TEST_PG! });
  await client.connect();
  await client.query(sql);
  await client.end();
}

const databaseOf = (url: string) => new URL(url).pathname.slice(1);

/** An empty place, or a copy of what lies at another. */
async function makePlace(kind: Kind, from?: Place): Promise<Place> {
  if (kind === 'embedded') {
    const at = await mkdtemp(join(tmpdir(), 'wunsch-test-'));
    if (from) await copyTree(from.at, at, { flush: false });
    return { at, drop: () => rm(at, { recursive: true, force: true }) };
  }
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  await asAdmin(`create database ${name}${from ? ` template ${databaseOf(from.at)}` : ''}`);
  const url = new URL(process.env.WUNSCH_TEST_PG!);
  url.pathname = `/${name}`;
  return { at: url.href, drop: () => asAdmin(`drop database ${name} with (force)`) };
}

const openAt = async (kind: Kind, { at }: Place, through: Through): Promise<Store> =>
  kind === 'embedded' ? openEmbedded({ directory: at }) : openServer(await through(at));

const asIs: Through = (url) => Promise.resolve(url);

/** A closed workshop after the first run, its owner signed in; every other of this process is a copy of it. */
interface Beginning {
  place: Place;
  cookie: string;
}

const beginnings = new Map<Kind, Promise<Beginning>>();

async function begin(kind: Kind): Promise<Beginning> {
  const place = await makePlace(kind);
  const store = await openAt(kind, place, asIs);
  const app = await buildApp({ store: () => store });
  const made = await app.inject({
    method: 'POST',
    url: '/api/first-run',
    payload: firstRun(),
    headers: { host: 'localhost:4310' },
  });
  if (made.statusCode !== 201) throw new Error(made.body);
  const cookie = await signIn({ app }, 'Ada', 'a long password');
  await app.close();
  await store.close();
  if (kind === 'embedded') process.once('exit', () => rmSync(place.at, { recursive: true, force: true }));
  return { place, cookie };
}

function beginningOf(kind: Kind): Promise<Beginning> {
  const made = beginnings.get(kind) ?? begin(kind);
  beginnings.set(kind, made);
  return made;
}

/** Opens a workshop that has been made by the first run, its owner signed in; on any database where none is named. */
export async function openWorkshop(
  kind: Kind = ANY_DATABASE[0]!,
  through: Through = asIs,
): Promise<TestWorkshop> {
  const beginning = await beginningOf(kind);
  const place = await makePlace(kind, beginning.place);
  const store = await openAt(kind, place, through);
  const app = await buildApp({ store: () => store });
  const shop: TestWorkshop = {
    app,
    store,
    cookie: beginning.cookie,
    async send(method, url, body, headers = {}) {
      const plain = typeof body === 'string';
      const response = await app.inject({
        method,
        url,
        ...(body !== undefined && { payload: body as object }),
        headers: {
          host: 'localhost:4310',
          cookie: shop.cookie,
          ...(plain && { 'content-type': 'text/csv' }),
          ...headers,
        },
      });
      const isJson = String(response.headers['content-type']).includes('json');
      return {
        status: response.statusCode,
        body: isJson && response.body !== '' ? response.json() : response.body || null,
      };
    },
    async close() {
      await app.close();
      await store.close();
      await place.drop();
      if (missed.length > 0) throw new Error(`not read again: ${JSON.stringify(missed, null, 1)}`);
    },
  };
  const missed = WATCHED > 0 ? watchReads(shop, WATCHED) : [];
  return shop;
}

/** Signs someone in and returns the cookie to send. */
export async function signIn(
  shop: Pick<TestWorkshop, 'app'>,
  name: string,
  password: string,
): Promise<string> {
  const response = await shop.app.inject({
    method: 'POST',
    url: '/api/session',
    payload: { name, password },
    headers: { host: 'localhost:4310' },
  });
  if (response.statusCode !== 200) throw new Error(response.body);
  return `${response.cookies[0]!.name}=${response.cookies[0]!.value}`;
}

/** Kilograms in mg. */
export const kg = (amount: number) => Math.round(amount * 1_000_000);

/** A session that has begun, and its only seat. */
export interface TableSet {
  sessionId: string;
  seatId: string;
}

/** Shorthand for the calls a maker makes. */
export class Maker {
  constructor(readonly shop: TestWorkshop) {}

  private async put(url: string, body: object) {
    const answer = await this.shop.send('PUT', url, body);
    if (answer.status >= 300)
      throw Object.assign(new Error(answer.body.detail), { problem: answer.body, status: answer.status });
    return answer.body;
  }

  async lot(code: string, mass: number, more: object = {}) {
    const ids = { id: v7(), parcelId: v7() };
    const { id, parcelId } = ids;
    await this.put(`/api/lots/${id}`, {
      code,
      name: `${code} lot`,
      massMg: kg(mass),
      receivedOn: '2026-09-01',
      stepId: v7(),
      movementId: v7(),
      parcelId,
      pricePerKg: 900,
      ...more,
    });
    return ids;
  }

  async batch(code: string, lotId: string, more: object = {}) {
    const id = v7();
    await this.put(`/api/batches/${id}`, { code, lotId, ...more });
    return id;
  }

  async step(batchId: string, station: string, more: object = {}) {
    const id = v7();
    await this.put(`/api/steps/${id}`, { batchId, station, ...more });
    return id;
  }

  async take(stepId: string, parcelId: string, mass: number | null, more: object = {}) {
    const id = v7();
    await this.put(`/api/movements/${id}`, {
      stepId,
      direction: 'in',
      parcelId,
      massMg: mass === null ? null : kg(mass),
      ...more,
    });
    return id;
  }

  async make(stepId: string, material: string, mass: number | null, more: object = {}) {
    const ids = { id: v7(), parcelId: v7() };
    await this.put(`/api/movements/${ids.id}`, {
      stepId,
      direction: 'out',
      parcelId: ids.parcelId,
      material,
      massMg: mass === null ? null : kg(mass),
      ...more,
    });
    return ids;
  }

  /** Puts something from the shelf in, by its key. */
  async weigh(stepId: string, key: string, mass: number) {
    const { body } = await this.shop.send('GET', '/api/ingredients');
    const { id } = (body as { id: string; key: string }[]).find((i) => i.key === key)!;
    await this.put(`/api/movements/${v7()}`, {
      stepId,
      direction: 'in',
      ingredientId: id,
      massMg: kg(mass),
    });
  }

  /** 500 foils of 1 g at 40 a kilo, as one parcel. */
  async foil() {
    const parcelId = v7();
    await this.put(`/api/supplies/${v7()}`, {
      name: 'Foil',
      massMg: 500_000,
      count: 500,
      pricePerKg: 4000,
      receivedOn: '2026-11-01',
      stepId: v7(),
      movementId: v7(),
      parcelId,
    });
    return parcelId;
  }

  async lose(stepId: string, reason: string, mass: number) {
    const id = v7();
    await this.put(`/api/movements/${id}`, { stepId, direction: 'loss', reason, massMg: kg(mass) });
    return id;
  }

  async close(stepId: string, remainder: string | null = null, handsOnMinutes = 10) {
    return this.put(`/api/steps/${stepId}/close`, { remainder, remainderId: v7(), handsOnMinutes });
  }

  async correct(movementId: string, mass: number, reason = 'misread') {
    const id = v7();
    await this.put(`/api/corrections/${id}`, { movementId, massMg: kg(mass), reason });
    return id;
  }

  /** Sets the table for a blind session of one taster and one round, and returns it once it has begun. */
  async tableSet(samples: readonly object[]): Promise<TableSet> {
    const table = { sessionId: v7(), seatId: v7() };
    await this.put(`/api/tasting-sessions/${table.sessionId}`, {
      title: 'Blind',
      question: 'keep',
      rounds: 1,
      samples: samples.map((sample, i) => ({ id: v7(), label: `${i}`, ...sample })),
      seats: [{ id: table.seatId, name: 'Mia' }],
    });
    await this.put(`/api/tasting-session-beginnings/${v7()}`, { sessionId: table.sessionId });
    return table;
  }

  /** Types in what the taster wrote on paper of the glass at a place, from 1. */
  async paperCard(table: TableSet, place: number, card: object) {
    await this.put(`/api/session-cards/${v7()}`, { ...table, round: 1, place, card, fromPaper: true });
  }

  async opened({ sessionId }: TableSet) {
    await this.put(`/api/tasting-session-openings/${v7()}`, { sessionId });
  }

  async note(stepId: string, data: object, at?: string) {
    const id = v7();
    await this.put(`/api/observations/${id}`, { stepId, data, at });
    return id;
  }
}
