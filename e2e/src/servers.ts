import { spawn, type ChildProcess } from 'node:child_process';
import { mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';

const root = fileURLToPath(new URL('../..', import.meta.url));

/** A port nobody listens on. */
export async function freePort(): Promise<number> {
  const probe = createServer();
  await new Promise<void>((resolve) => probe.listen(0, '127.0.0.1', resolve));
  const address = probe.address();
  await new Promise((resolve) => probe.close(resolve));
  return typeof address === 'object' && address ? address.port : 0;
}

/**
 * What Node is started with: an empty workshop lives for a minute, and compiling the database's WebAssembly for speed takes longer than it saves.
 * The demo makes years of records first.
 */
const FLAGS = { 'server/dist/start.js': ['--liftoff-only'], 'demo/dist/start.js': [] };

/** Starts the built server, or the built demo, on a data directory, and waits until the workshop is open. */
export async function startServer(
  script: keyof typeof FLAGS,
  directory: string,
  port: number,
): Promise<ChildProcess> {
  const child = spawn('node', [...FLAGS[script], join(root, script)], {
    cwd: root,
    env: {
      ...process.env,
      PORT: String(port),
      WUNSCH_DATA: directory,
      DATABASE_URL: '',
      ...(script === 'server/dist/start.js' && { WUNSCH_MEMORY_MB: '8' }),
    },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  for (let i = 0; i < 600; i += 1) {
    const health = await fetch(`http://127.0.0.1:${port}/api/health`).then(
      (r) => r.json() as Promise<{ status: string }>,
      () => null,
    );
    if (health?.status === 'ok') return child;
    if (child.exitCode !== null) throw new Error(`${script} ended with ${child.exitCode}`);
    await new Promise((resolve) => setTimeout(resolve, 200));
  }
  throw new Error(`${script} did not open in time`);
}

/** Ends a server as a person would, and waits. */
export async function stopServer(child: ChildProcess): Promise<void> {
  if (child.exitCode !== null) return;
  const ended = new Promise((resolve) => child.once('exit', resolve));
  child.kill('SIGTERM');
  await ended;
}

/** One demo for all walks that are taken in it. */
export default async function servers(): Promise<() => Promise<void>> {
  const directory = mkdtempSync(join(tmpdir(), 'wunsch-e2e-'));
  const port = await freePort();
  // While working on one test the demo may be left out.
  const demo = process.env.WITHOUT_DEMO
    ? null
    : await startServer('demo/dist/start.js', join(directory, 'demo'), port);
  process.env.DEMO_URL = `http://127.0.0.1:${port}`;
  return async () => {
    if (demo) await stopServer(demo);
    rmSync(directory, { recursive: true, force: true });
  };
}
