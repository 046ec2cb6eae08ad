import { randomUUID } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import pg from 'pg';
import { v7 } from 'uuid';
import type { FirstRun } from '@wunsch/contract';
import { buildApp } from '../app.ts';
import type { App } from '../http/types.ts';
import { openEmbedded } from '../store/embedded.ts';
import { openServer } from '../store/server.ts';
import type { Store } from '../store/store.ts';

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
export const DATABASES: readonly ('embedded' | 'postgresql')[] = process.env.WUNSCH_TEST_PG
  ? ['embedded', 'postgresql']
  : ['embedded'];

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

async function openStore(
  kind: 'embedded' | 'postgresql',
  through: (url: string) => Promise<string>,
): Promise<{ store: Store; drop: () => Promise<void> }> {
  if (kind === 'embedded') {
    const directory = await mkdtemp(join(tmpdir(), 'wunsch-test-'));
    return {
      store: await openEmbedded({ directory }),
      drop: () => rm(directory, { recursive: true, force: true }),
    };
  }
  const base = process.env.WUNSCH_TEST_PG!;
  const name = `t_${randomUUID().replaceAll('-', '')}`;
  const admin = async (sql: string) => {
    const client = new pg.Client({ connectionString: base });
    await client.connect();
    await client.query(sql);
    await client.end();
  };
  await admin(`create database ${name}`);
  const url = new URL(base);
  url.pathname = `/${name}`;
  return {
    store: await openServer(await through(url.href)),
    drop: () => admin(`drop database ${name} with (force)`),
  };
}

/**
 * Opens a workshop, makes it by the first run and signs its owner in. `through` may put something between the server and
 * its PostgreSQL: it is given the database's address and answers with another.
 */
export async function openWorkshop(
  kind: 'embedded' | 'postgresql',
  through: (url: string) => Promise<string> = (url) => Promise.resolve(url),
): Promise<TestWorkshop> {
  const { store, drop } = await openStore(kind, through);
  const app = await buildApp({ store: () => store });
  const shop: TestWorkshop = {
    app,
    store,
    cookie: '',
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
      await drop();
    },
  };
  const answers = firstRun();
  const made = await shop.send('POST', '/api/first-run', answers);
  if (made.status !== 201) throw new Error(JSON.stringify(made.body));
  shop.cookie = await signIn(shop, 'Ada', 'a long password');
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

  async note(stepId: string, data: object, at?: string) {
    const id = v7();
    await this.put(`/api/observations/${id}`, { stepId, data, at });
    return id;
  }
}
