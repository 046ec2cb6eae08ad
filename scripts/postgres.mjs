// A throwaway PostgreSQL server for the tests. It refuses to run as root, so a system user of its own is made there.
import { execFileSync, spawnSync } from 'node:child_process';
import { chmodSync, chownSync, mkdtempSync, rmSync } from 'node:fs';
import { createServer } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { ensurePostgres } from './setup.mjs';

const USER = 'wunsch-test';

async function freePort() {
  const probe = createServer();
  await new Promise((resolve) => probe.listen(0, '127.0.0.1', resolve));
  const { port } = probe.address();
  await new Promise((resolve) => probe.close(resolve));
  return port;
}

/** Starts a server; `stop` ends it and removes its files. */
export async function startPostgres() {
  const bin = await ensurePostgres();
  const folder = mkdtempSync(join(tmpdir(), 'wunsch-pg-'));
  const options = { stdio: ['ignore', 'ignore', 'inherit'], cwd: folder };
  if (process.getuid() === 0) {
    if (spawnSync('id', [USER]).status !== 0)
      execFileSync('useradd', ['--system', '--no-create-home', '--shell', '/usr/sbin/nologin', USER]);
    options.uid = Number(execFileSync('id', ['-u', USER]));
    options.gid = Number(execFileSync('id', ['-g', USER]));
    chownSync(folder, options.uid, options.gid);
  }
  chmodSync(folder, 0o700);
  const port = await freePort();
  const data = join(folder, 'data');
  execFileSync(
    join(bin, 'initdb'),
    ['-D', data, '-U', 'wunsch', '-A', 'trust', '-E', 'UTF8', '--locale=C', '--no-sync'],
    options,
  );
  const flags = `-p ${port} -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c fsync=off -c max_connections=60`;
  execFileSync(
    join(bin, 'pg_ctl'),
    ['-D', data, '-w', '-o', flags, '-l', join(folder, 'log'), 'start'],
    options,
  );
  return {
    url: `postgres://wunsch@127.0.0.1:${port}/postgres`,
    stop() {
      spawnSync(join(bin, 'pg_ctl'), ['-D', data, '-m', 'immediate', 'stop'], options);
      rmSync(folder, { recursive: true, force: true });
    },
  };
}
