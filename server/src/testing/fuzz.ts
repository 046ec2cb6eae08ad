import { v7 } from 'uuid';
import type { TestWorkshop } from './workshop.ts';

/** A piece of JSON Schema as the published description uses it. */
interface Schema {
  $ref?: string;
  type?: string | string[];
  const?: unknown;
  enum?: unknown[];
  anyOf?: Schema[];
  oneOf?: Schema[];
  allOf?: Schema[];
  properties?: Record<string, Schema>;
  required?: string[];
  additionalProperties?: Schema | boolean;
  items?: Schema;
  minItems?: number;
  minimum?: number;
  maximum?: number;
  minLength?: number;
  maxLength?: number;
  format?: string;
  pattern?: string;
}

interface Operation {
  method: string;
  path: string;
  parameters: { name: string; in: string; schema?: Schema }[];
  body: Schema | null;
  type: string;
}

/** What came of it. */
export interface Fuzzed {
  sent: number;
  byStatus: Record<string, number>;
  /** Routes that were asked. */
  routes: number;
  /** Requests the server did not handle: no answer, a fault of its own, or a refusal that is no problem details. */
  unhandled: string[];
}

/** Values nobody means well with. */
const HOSTILE: readonly unknown[] = [
  null,
  '',
  ' ',
  '\u0000',
  'a\u0000b',
  '\uD800',
  '𝕳\u202E',
  'x'.repeat(5000),
  "'; drop table trail; --",
  '<script>alert(1)</script>',
  '../../etc/passwd',
  0,
  -0,
  -1,
  1e308,
  -1e308,
  1e-320,
  2 ** 31,
  2 ** 53,
  0.1 + 0.2,
  true,
  [],
  {},
  [[[[[[[[]]]]]]]],
  { __proto__: null, constructor: 1 },
  '0001-01-01T00:00:00Z',
  '+275760-09-13T00:00:00Z',
  '2026-02-31',
  '2026-02-30T25:61:00Z',
  '1970-01-01T00:00:00.000Z',
  '-------- ---- ---- ----',
  '00000000-0000-0000-0000-000000000000',
];

/** Park and Miller's generator: the same run again from the same seed. */
function generator(seed: number) {
  let state = (seed % 2_147_483_646) + 1;
  const next = () => (state = (state * 48_271) % 2_147_483_647) / 2_147_483_647;
  return {
    next,
    below: (n: number) => Math.floor(next() * n),
    pick: <T>(list: readonly T[]): T => list[Math.floor(next() * list.length)]!,
  };
}
type Random = ReturnType<typeof generator>;

/**
 * Sends made-up requests to every route of the published description: bodies that fit its schemas, with a part of them spoilt,
 * ids of things that exist and of some that do not, and as people of every role, a stranger among them.
 *
 * @param cookies one a role; an empty one is a stranger
 */
export async function fuzz(
  shop: TestWorkshop,
  { requests, seed, cookies }: { requests: number; seed: number; cookies: readonly string[] },
): Promise<Fuzzed> {
  const description = (await shop.send('GET', '/api/openapi.json')).body;
  const operations = operationsOf(description).filter(
    // Streams never end; signing out and setting up would end the run for all.
    ({ path, method }) =>
      path !== '/api/events' &&
      !(method === 'DELETE' && path.startsWith('/api/session')) &&
      path !== '/api/password' &&
      !path.startsWith('/api/people/'),
  );
  const random = generator(seed);
  const ids: string[] = [v7()];
  const maker = new Maker(description.components?.schemas ?? {}, random, ids);
  const found: Fuzzed = { sent: 0, byStatus: {}, routes: operations.length, unhandled: [] };
  for (let i = 0; i < requests; i += 1) {
    const operation = operations[i % operations.length]!;
    const request = maker.request(operation);
    // Most as an owner, who gets furthest.
    const cookie = random.next() < 0.7 ? cookies[0]! : random.pick(cookies);
    const answer = await shop.app
      .inject({
        method: operation.method as 'GET',
        url: request.url,
        headers: { host: 'localhost:4310', cookie, ...request.headers },
        ...(request.payload !== undefined && { payload: request.payload }),
      })
      .catch((error: unknown) => error as Error);
    found.sent += 1;
    if (answer instanceof Error) {
      found.unhandled.push(`${operation.method} ${request.url}: ${answer.message}`);
      continue;
    }
    const status = answer.statusCode;
    found.byStatus[status] = (found.byStatus[status] ?? 0) + 1;
    const isProblem = String(answer.headers['content-type']).includes('problem+json');
    if (status >= 500 || (status >= 400 && !isProblem))
      found.unhandled.push(
        `${operation.method} ${request.url.slice(0, 200)} ${String(request.payload).slice(0, 600)}: ${status} ${answer.body.slice(0, 200)}`,
      );
    for (const id of answer.body.slice(0, 20_000).match(/[0-9a-f]{8}-[0-9a-f-]{27}/g) ?? [])
      if (ids.length < 400) ids.push(id);
      else if (random.next() < 0.05) ids[random.below(ids.length)] = id;
  }
  return found;
}

function operationsOf(description: any): Operation[] {
  const all: Operation[] = [];
  for (const [path, methods] of Object.entries<Record<string, any>>(description.paths))
    for (const [method, operation] of Object.entries(methods)) {
      const content = operation.requestBody?.content ?? {};
      const [type = 'application/json', media] = Object.entries<any>(content)[0] ?? [];
      all.push({
        method: method.toUpperCase(),
        path,
        parameters: operation.parameters ?? [],
        body: media?.schema ?? null,
        type,
      });
    }
  return all;
}

class Maker {
  constructor(
    private readonly schemas: Record<string, Schema>,
    private readonly random: Random,
    private readonly ids: readonly string[],
  ) {}

  request(operation: Operation): { url: string; headers: Record<string, string>; payload?: string } {
    const { random } = this;
    const query = new URLSearchParams();
    let url = operation.path;
    for (const { name, in: where, schema } of operation.parameters) {
      const value = this.isSpoilt() ? random.pick(HOSTILE) : this.value(schema ?? { type: 'string' }, 0);
      if (where === 'path') url = url.replace(`{${name}}`, encodeURIComponent(toText(value)));
      else if (where === 'query' && random.next() < 0.6) query.set(name, toText(value));
    }
    if ([...query].length > 0) url += `?${query}`;
    const headers: Record<string, string> = {};
    if (random.next() < 0.3)
      headers['if-match'] = random.pick(['"1"', '"2"', '1', '*', 'W/"1"', '"99999999999"', '"x"']);
    if (operation.method === 'GET' || operation.body === null) return { url, headers };
    headers['content-type'] =
      random.next() < 0.97 ? operation.type : random.pick(['text/csv', 'text/plain', 'image/png', '']);
    const body = this.value(operation.body, 0);
    const payload =
      typeof body === 'string' && operation.type !== 'application/json' ? body : JSON.stringify(body);
    // Now and then a body that was cut off on its way.
    return {
      url,
      headers,
      payload: random.next() < 0.02 ? payload.slice(0, random.below(payload.length)) : payload,
    };
  }

  private isSpoilt(): boolean {
    return this.random.next() < 0.04;
  }

  private value(schema: Schema, depth: number): unknown {
    const { random } = this;
    if (depth > 0 && this.isSpoilt()) return random.pick(HOSTILE);
    if (schema.$ref) return this.value(this.schemas[schema.$ref.split('/').at(-1)!] ?? {}, depth);
    if (schema.const !== undefined) return schema.const;
    if (schema.enum) return random.pick(schema.enum);
    const choice = schema.anyOf ?? schema.oneOf;
    if (choice) return this.value(random.pick(choice), depth);
    if (schema.allOf) return Object.assign({}, ...schema.allOf.map((s) => this.value(s, depth)));
    const type = Array.isArray(schema.type) ? random.pick(schema.type) : schema.type;
    switch (type) {
      case 'object':
        return this.object(schema, depth);
      case 'array':
        return Array.from({ length: Math.max(schema.minItems ?? 0, random.below(4)) }, () =>
          this.value(schema.items ?? {}, depth + 1),
        );
      case 'integer':
      case 'number':
        return this.number(schema, type === 'integer');
      case 'boolean':
        return random.next() < 0.5;
      case 'null':
        return null;
      case 'string':
        return this.text(schema);
      default:
        return random.pick([...HOSTILE, 'anything', 7]);
    }
  }

  private object(schema: Schema, depth: number): Record<string, unknown> {
    const made: Record<string, unknown> = {};
    if (depth > 8) return made;
    const required = new Set(schema.required ?? []);
    for (const [name, part] of Object.entries(schema.properties ?? {}))
      if (required.has(name) ? this.random.next() < 0.98 : this.random.next() < 0.5)
        made[name] = this.value(part, depth + 1);
    if (this.random.next() < 0.03) made['not a field'] = this.random.pick(HOSTILE);
    return made;
  }

  private number({ minimum = -1e6, maximum = 1e9 }: Schema, isWhole: boolean): number {
    const low = Math.max(minimum, -1e12);
    const high = Math.min(maximum, 1e12);
    const at = this.random.next();
    const value = at < 0.08 ? low : at > 0.92 ? high : low + (high - low) * this.random.next() ** 6;
    return isWhole ? Math.round(value) : value;
  }

  private text({ format, pattern, minLength = 0, maxLength = 40 }: Schema): string {
    const { random } = this;
    if (format === 'uuid' || pattern?.includes('[0-9a-f]{8}-'))
      return random.next() < 0.8 ? random.pick(this.ids) : v7();
    if (format === 'date-time') return new Date(1.79e12 + random.next() * 1e10).toISOString();
    if (format === 'date') return `2026-${String(1 + random.below(12)).padStart(2, '0')}-1${random.below(9)}`;
    if (pattern?.includes('[A-Z]{3}')) return 'EUR';
    return random
      .pick(['note', 'Nibs 70 %', 'Fève', 'nibs', 'husk', 'sweepings', '2026-11-02T08:00:00Z,21.5', 'ß'])
      .repeat(minLength > 9 ? 3 : 1)
      .slice(0, maxLength)
      .padEnd(minLength, 'x');
  }
}

const toText = (value: unknown): string =>
  value === '\uD800' ? '%ED%A0%80' : typeof value === 'string' ? value : (JSON.stringify(value) ?? '');
