import { mkdir } from 'node:fs/promises';
import { Server as SecureServer } from 'node:https';
import { fileURLToPath } from 'node:url';
import { buildApp } from './app.ts';
import { certificateFrom, ownAddresses, ownCertificate, type Certificate } from './access/certificate.ts';
import { isLoopback, requireSafeAddress } from './access/exposure.ts';
import { newFirstRunCode } from './access/firstRunCode.ts';
import { readSettings, type Settings } from './settings.ts';
import { restoreArchive } from './archive/directory.ts';
import { BackupKeeper } from './backups/keeper.ts';
import { openEmbedded } from './store/embedded.ts';
import { clearFresh } from './store/fill.ts';
import { openServer } from './store/server.ts';
import type { Store } from './store/store.ts';
import { workshopExists } from './workshop/handlers.ts';

/** How often a server with a certificate of its own looks whether its network has given it another address, ms. */
const LOOK_AT_ADDRESSES = 10 * 60_000;

/** What a run of the server may be told by the program that starts it. */
export interface ServeOptions {
  /** Called once the store is open, before anyone is told; the demo fills an empty store here. */
  onOpen?: (store: Store) => Promise<void>;
  directory?: string;
}

/** Longest wait for answers on their way when it is told to stop, ms. */
const STOP_WITHIN = 10_000;

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

/** The certificate to serve with: none where only this machine can listen in, or where plain HTTP was asked for. */
async function certificateFor(settings: Settings, directory: string): Promise<Certificate | null> {
  if (settings.certificate) return certificateFrom(settings.certificate.key, settings.certificate.cert);
  if (isLoopback(settings.host) || settings.plainHttp) return null;
  await mkdir(directory, { recursive: true, mode: 0o700 });
  return ownCertificate(directory);
}

/** Lets a running server speak for an address its network gives it later: its own certificate is made anew and served from then on. */
function keepSpeakingFor(server: object, directory: string, first: Certificate): void {
  let served = first;
  const look = async () => {
    const current = await ownCertificate(directory);
    if (current.fingerprint === served.fingerprint || !(server instanceof SecureServer)) return;
    server.setSecureContext(current);
    served = current;
    console.log(`the network has another address; certificate, SHA-256: ${current.fingerprint}`);
  };
  setInterval(() => void look().catch((error: unknown) => console.error(error)), LOOK_AT_ADDRESSES).unref();
}

function openStore(settings: Settings, directory: string): Promise<Store> {
  if (settings.databaseUrl)
    return openServer(settings.databaseUrl, {
      onWaiting: () => console.log('the database does not answer yet; waiting for it'),
    });
  return openEmbedded({
    directory,
    acceptGaps: settings.acceptGaps,
    onFatal: (error) => {
      console.error(
        'an entry was journalled but could not be stored; stopping so that the next start recovers it',
        error,
      );
      process.exit(1);
    },
  });
}

/** Opens the store, listens, and closes whole on SIGINT and SIGTERM. */
export async function serve(options: ServeOptions = {}): Promise<void> {
  let store: Store | null = null;
  try {
    const settings = readSettings(process.env);
    const { host, port } = settings;
    const directory = options.directory ?? settings.directory ?? 'data/workshop';
    const isWide = !isLoopback(host);
    const certificate = await certificateFor(settings, directory);
    const scheme = certificate ? 'https' : 'http';
    const firstRunCode = isWide || settings.behindProxy ? newFirstRunCode() : null;
    const backups = new BackupKeeper({
      folder: settings.backups ?? null,
      directory: settings.databaseUrl ? null : directory,
      store: () => store,
    });
    const app = await buildApp({
      store: () => store,
      web: fileURLToPath(new URL('../../web/dist', import.meta.url)),
      log: settings.log,
      certificate,
      firstRunCode,
      backups,
      restore: async (archive) => {
        const before = store;
        if (!before || before.writer.lastSeq > 0) throw workshopExists();
        // Meanwhile every page says that the workshop is being opened.
        store = null;
        await before.close();
        try {
          if (!settings.databaseUrl) await clearFresh(directory);
          return await restoreArchive(archive, settings.databaseUrl ?? directory);
        } finally {
          store = await openStore(settings, directory);
        }
      },
      behindProxy: settings.behindProxy,
      metrics: settings.metrics,
      addresses: () => (isWide ? ownAddresses().map((ip) => `${scheme}://${ip}:${port}`) : []),
    });
    if (certificate && !settings.certificate) keepSpeakingFor(app.server, directory, certificate);
    const stop = (code: number) => {
      setTimeout(() => process.exit(code), STOP_WITHIN).unref();
      void (async () => {
        await app.close();
        await backups.stop();
        await store?.close();
        process.exit(code);
      })();
    };
    process.on('SIGINT', () => stop(0));
    process.on('SIGTERM', () => stop(0));
    // Only the page's "opening the workshop" is served until the store is open, and only to this machine if it must be so.
    if (!isWide) await app.listen({ host, port });
    const opened = await openStore(settings, directory);
    await options.onOpen?.(opened);
    await requireSafeAddress(opened.db, host);
    for (const line of openingLines(opened.opened)) console.log(line);
    store = opened;
    backups.start();
    if (isWide) await app.listen({ host, port });
    const shown = host === '0.0.0.0' || host === '::' ? 'localhost' : host;
    const actual = app.addresses()[0]?.port ?? port;
    console.log(`Wunsch is open at ${scheme}://${shown}:${actual}`);
    for (const address of isWide ? ownAddresses() : [])
      console.log(`in your network: ${scheme}://${address}:${actual}`);
    if (certificate) console.log(`certificate, SHA-256: ${certificate.fingerprint}`);
    if (isWide && !certificate)
      console.log('plain HTTP: whoever shares this network can read along, passwords included');
    if (firstRunCode && opened.writer.lastSeq === 0) console.log(`code for the first run: ${firstRunCode}`);
  } catch (error) {
    console.error(error instanceof Error ? error.message : error);
    process.exit(1);
  }
}
