import {
  Mutex,
  parse,
  protocol,
  type PGlite,
  type QueryOptions,
  type Results,
  type Transaction,
} from '@electric-sql/pglite';

type Messages = Parameters<typeof parse.parseResults>[0];

/** A statement the database has parsed and keeps under a name. */
interface Prepared {
  name: string;
  parameters: number[];
  /** Names and types of what its rows consist of; empty where it gives none. */
  fields: Results['fields'];
}

/** What a transaction does ahead of its queries. */
export interface Ahead {
  /** Told the text of each query of the transaction that runs, and waited for, before it is asked. */
  before: ((text: string) => Promise<void>) | null;
  /** Asks within that transaction at once, telling nobody. */
  run: (text: string, values: unknown[], options?: QueryOptions) => Promise<Results<unknown>>;
}

/** Most statements kept; those not used for longest go first. */
const MOST = 400;

/** Longest statement worth keeping: rows written by the dozen differ from one time to the next. */
const LONGEST = 6000;

/** The rows of an answer, each value read by its type. PGlite's own reading copies some hundred parsers for every query. */
function resultOf<T>(
  answer: Messages,
  fields: Results['fields'],
  client: PGlite,
  options: QueryOptions | undefined,
): Results<T> {
  const readers = fields.map(
    ({ dataTypeID }) => options?.parsers?.[dataTypeID] ?? client.parsers[dataTypeID] ?? ((v: string) => v),
  );
  const valueOf = (value: string | null, i: number): unknown =>
    value === null ? null : readers[i]!(value, fields[i]!.dataTypeID);
  const rows: unknown[] = [];
  let affectedRows = 0;
  for (const message of answer)
    if (message.name === 'dataRow') {
      const values = (message as unknown as { fields: (string | null)[] }).fields.map(valueOf);
      rows.push(
        options?.rowMode === 'array'
          ? values
          : Object.fromEntries(values.map((value, i) => [fields[i]!.name, value])),
      );
    } else if (message.name === 'commandComplete') {
      const [command, ...rest] = (message as unknown as { text: string }).text.split(' ');
      if (command !== 'SELECT') affectedRows = Number(rest.at(-1)) || 0;
    }
  return { rows: rows as T[], fields, affectedRows };
}

/**
 * A PGlite that has each statement parsed once and afterwards asks in a single trip; by itself it makes six trips a query and
 * parses anew each time, which costs more than most queries do. Everything goes through here from then on: a query outside a
 * transaction waits until the transaction that runs has ended.
 *
 * Tables must not be changed while it is in use.
 */
export function withPreparedStatements(client: PGlite): { client: PGlite; ahead: Ahead } {
  const turns = new Mutex();
  const statements = new Map<string, Prepared>();
  let made = 0;

  const send = (...parts: Uint8Array[]): Promise<Messages> =>
    client.execProtocolStream(Buffer.concat(parts), { syncToFs: false }) as Promise<Messages>;

  const prepare = async (text: string): Promise<Prepared> => {
    const found = statements.get(text);
    if (found) {
      // Put last: the first of the map is the one not used for longest.
      statements.delete(text);
      statements.set(text, found);
      return found;
    }
    const keep = text.length <= LONGEST;
    const name = keep ? `s${(made += 1)}` : '';
    const messages = await send(
      protocol.serialize.parse({ name, text }),
      protocol.serialize.describe({ type: 'S', name }),
      protocol.serialize.sync(),
    );
    const statement = {
      name,
      parameters: parse.parseDescribeStatementResults(messages),
      fields: messages
        .filter((m) => m instanceof protocol.messages.RowDescriptionMessage)
        .flatMap((m) => m.fields.map(({ name: called, dataTypeID }) => ({ name: called, dataTypeID }))),
    };
    if (!keep) return statement;
    statements.set(text, statement);
    if (statements.size > MOST) {
      const [oldest, { name: gone }] = statements.entries().next().value!;
      statements.delete(oldest);
      await send(protocol.serialize.close({ type: 'S', name: gone }), protocol.serialize.sync());
    }
    return statement;
  };

  const run = <T>(text: string, values: unknown[] = [], options?: QueryOptions): Promise<Results<T>> =>
    client.runExclusive(async () => {
      const { name, parameters, fields } = await prepare(text);
      const bound = values.map((value, i) => {
        if (value === null || value === undefined) return null;
        const serialize = options?.serializers?.[parameters[i]!] ?? client.serializers[parameters[i]!];
        return serialize ? (serialize(value) as string) : String(value);
      });
      const answer = await send(
        protocol.serialize.bind({ statement: name, values: bound }),
        protocol.serialize.execute({}),
        protocol.serialize.sync(),
      );
      return resultOf<T>(answer, fields, client, options);
    });

  const ahead: Ahead = { before: null, run };

  const own: Partial<PGlite> = {
    query: <T>(text: string, values?: unknown[], options?: QueryOptions) =>
      turns.runExclusive(() => run<T>(text, values, options)),
    exec: (text, options) => turns.runExclusive(() => client.exec(text, options)),
    transaction: <T>(work: (tx: Transaction) => Promise<T>) =>
      turns.runExclusive(() =>
        client.transaction((tx) =>
          work({
            query: async (text, values, options) => {
              await ahead.before?.(text);
              return run(text, values, options);
            },
            exec: async (text, options) => {
              await ahead.before?.(text);
              return tx.exec(text, options);
            },
            sql: (strings, ...values) => tx.sql(strings, ...values),
            rollback: () => tx.rollback(),
            listen: (channel, told) => tx.listen(channel, told),
            get closed() {
              return tx.closed;
            },
          }),
        ),
      ),
  };

  const prepared = new Proxy(client, {
    get(target, key) {
      if (Object.hasOwn(own, key)) return own[key as keyof PGlite];
      const value = Reflect.get(target, key, target) as unknown;
      return typeof value === 'function' ? (value.bind(target) as unknown) : value;
    },
  });
  return { client: prepared, ahead };
}
