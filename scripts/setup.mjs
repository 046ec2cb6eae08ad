// What a bare machine still needs, installed only where it is missing.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, readdirSync, statSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';
import chromium from './chromium.json' with { type: 'json' };

export const root = join(dirname(fileURLToPath(import.meta.url)), '..');

/** Runs a command in the project and ends this one if it fails. */
export function run(command, args, options = {}) {
  const done = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  if (done.error) throw done.error;
  if (done.status !== 0 && !options.allowFailure) process.exit(done.status ?? 1);
  return done;
}

/** Runs a command in the project while other things go on; this process ends if it fails. */
export async function runBeside(command, args, options = {}) {
  const child = spawn(command, args, { cwd: root, stdio: 'inherit', ...options });
  await new Promise((resolve, reject) => {
    child.on('error', reject);
    child.on('close', (status) => (status === 0 ? resolve() : process.exit(status ?? 1)));
  });
}

/** Packages as the lock file names them. `npm install` rather than `npm ci`: see docs/architecture.md. */
export function ensurePackages() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) {
    console.error(`Node 20.19 or newer is needed; this is ${process.versions.node}`);
    process.exit(1);
  }
  const mark = join(root, 'node_modules/.package-lock.json');
  const lock = join(root, 'package-lock.json');
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync(lock).mtimeMs - 1000) return;
  console.log('installing packages …');
  run('npm', ['install', '--no-save', '--no-audit', '--no-fund', '--loglevel=error']);
}

const inUsrBin = (name) => existsSync(`/usr/bin/${name}`);

/** Folder of PostgreSQL's server programs; undefined where they are not installed. */
const postgresFolder = () => {
  const base = '/usr/lib/postgresql';
  return existsSync(base)
    ? readdirSync(base)
        .map((v) => join(base, v, 'bin'))
        .filter((b) => existsSync(join(b, 'initdb')))
        .at(-1)
    : undefined;
};

/** Debian's packages by what they are for, each with whether it is there. */
const SYSTEM = {
  /** Chromium without a window: a tenth faster in the walks than the one that could draw one. */
  browser: { 'chromium-headless-shell': () => existsSync(chromium.executablePath) },
  /** They read labels back in the tests: text and fonts of a PDF, QR codes and Data Matrix. */
  readers: {
    'poppler-utils': () => inUsrBin('pdftotext'),
    'zbar-tools': () => inUsrBin('zbarimg'),
    'dmtx-utils': () => inUsrBin('dmtxread'),
  },
  /** A spreadsheet program and a statistics package that read in the long script what is taken away. */
  foreign: { 'libreoffice-calc': () => inUsrBin('soffice'), 'r-base-core': () => inUsrBin('Rscript') },
  postgres: { postgresql: () => postgresFolder() !== undefined },
};

/**
 * Installs what is missing of Debian's packages while other things go on.
 *
 * @param what keys of SYSTEM
 * @returns resolves once all of it is there; the process ends where that fails
 */
export async function ensureSystem(...what) {
  const missing = what.flatMap((key) =>
    Object.entries(SYSTEM[key]).flatMap(([name, isThere]) => (isThere() ? [] : [name])),
  );
  if (missing.length === 0) return;
  console.log(`installing ${missing.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  // In one command, which goes on even while this process waits for another.
  const install = `apt-get update -qq && apt-get install -y -qq --no-install-recommends ${missing.join(' ')}`;
  await runBeside('sh', ['-c', install], { env, stdio: ['ignore', 'ignore', 'inherit'] });
}

/** Folder of PostgreSQL's server programs, from Debian's packages. */
export async function ensurePostgres() {
  await ensureSystem('postgres');
  return postgresFolder();
}
