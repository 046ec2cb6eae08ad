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

/** Opens the store, listens, and closes whole on SIGINT and SIGTERM. */
export async function serve(options: ServeOptions = {}): Promise<void> {
  const host = process.env.HOST ?? '127.0.0.1';
  const port = Number(process.env.PORT ?? 4310);
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
    const url = process.env.DATABASE_URL;
    const opened = url
      ? await openServer(url)
      : await openEmbedded({
          directory: options.directory ?? process.env.WUNSCH_DATA ?? 'data/workshop',
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
    if (opened.opened.rebuilt)
      console.log(
        `the last run did not end whole: the store was rebuilt, ${opened.opened.replayed} entries came from the journal`,
      );
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
