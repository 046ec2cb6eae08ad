import { fileURLToPath } from 'node:url';
import { buildApp } from './app.ts';
import { isLoopback, requireSafeAddress } from './access/exposure.ts';
import { openEmbedded } from './store/embedded.ts';
import { openServer } from './store/server.ts';
import type { Store } from './store/store.ts';

/** What a run of the server may be told from outside. */
export interface ServeOptions {
  /** Called once the store is open, before anyone is told; the demo fills an empty store here. */
  onOpen?: (store: Store) => Promise<void>;
  directory?: string;
}

/** A setting from the environment; one that is empty was not set. */
function setting(name: string): string | undefined {
  return process.env[name]?.trim() || undefined;
}

/** Ends the process with one line for anything but a whole number to 65535; 0 takes any free port. */
function portOf(text: string): number {
  const port = Number(text);
  if (Number.isInteger(port) && port >= 0 && port <= 65_535) return port;
  console.error(`PORT is "${text}"; it must be a whole number from 1 to 65535`);
  process.exit(1);
}

/** What the opening of the store found that its owner should know, a line each. */
function openingLines({ rebuilt, replayed, setAside, damaged, holes }: Store['opened']): string[] {
  return [
    ...damaged.map((what) => `could not be read and was left alone: ${what}`),
    ...(rebuilt
      ? [`the last run did not end whole: the store was rebuilt, ${replayed} entries came from the journal`]
      : []),
    ...(setAside > 0
      ? [`${setAside} entries of the journal could not be carried out and were set aside`]
      : []),
    ...holes.map(({ from, to, file }) => `entries ${from} to ${to} are missing from the journal (${file})`),
  ];
}

/** Opens the store, listens, and closes whole on SIGINT and SIGTERM. */
export async function serve(options: ServeOptions = {}): Promise<void> {
  const host = setting('HOST') ?? '127.0.0.1';
  const port = portOf(setting('PORT') ?? '4310');
  const web = fileURLToPath(new URL('../../web/dist', import.meta.url));
  let store: Store | null = null;
  const app = await buildApp({ store: () => store, web, logger: process.env.WUNSCH_LOG === '1' });
  const stop = (code: number) => {
    void (async () => {
      await app.close();
      await store?.close();
      process.exit(code);
    })();
  };
  process.on('SIGINT', () => stop(0));
  process.on('SIGTERM', () => stop(0));
  try {
    // Only the page's "opening the workshop" is served until the store is open, and only to this machine if it must be so.
    if (isLoopback(host)) await app.listen({ host, port });
    const url = setting('DATABASE_URL');
    const opened = url
      ? await openServer(url)
      : await openEmbedded({
          directory: options.directory ?? setting('WUNSCH_DATA') ?? 'data/workshop',
          acceptGaps: setting('WUNSCH_ACCEPT_GAPS') === 'yes',
          onFatal: (error) => {
            console.error(
              'an entry was journalled but could not be stored; stopping so that the next start recovers it',
              error,
            );
            process.exit(1);
          },
        });
    await options.onOpen?.(opened);
    await requireSafeAddress(opened.db, host);
    for (const line of openingLines(opened.opened)) console.log(line);
    store = opened;
    if (!isLoopback(host)) await app.listen({ host, port });
    console.log(
      `Wunsch is open at http://${host === '0.0.0.0' || host === '::' ? 'localhost' : host}:${port}`,
    );
  } catch (error) {
    console.error(error instanceof Error ? error.message : error);
    process.exit(1);
  }
}
