// What a bare machine still needs, installed only where it is missing.
import { spawnSync } from 'node:child_process';
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

function aptInstall(packages) {
  console.log(`installing ${packages.join(', ')} …`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const options = { env, stdio: ['ignore', 'ignore', 'inherit'] };
  run('apt-get', ['update', '-qq'], options);
  run('apt-get', ['install', '-y', '-qq', '--no-install-recommends', ...packages], options);
}

/** Chromium without a window, from Debian's packages: a tenth faster in the walks than the one that could draw one. */
export function ensureChromium() {
  if (!existsSync(chromium.executablePath)) aptInstall(['chromium-headless-shell']);
}

/** Programs that read labels back in the tests: text and fonts of a PDF, QR codes and Data Matrix. */
export function ensureReaders() {
  const missing = Object.entries({
    'poppler-utils': 'pdftotext',
    'zbar-tools': 'zbarimg',
    'dmtx-utils': 'dmtxread',
  }).filter(([, program]) => !existsSync(`/usr/bin/${program}`));
  if (missing.length > 0) aptInstall(missing.map(([name]) => name));
}

/** A spreadsheet program and a statistics package that read in the long script what is taken away. */
export function ensureForeign() {
  const missing = Object.entries({ 'libreoffice-calc': 'soffice', 'r-base-core': 'Rscript' }).filter(
    ([, program]) => !existsSync(`/usr/bin/${program}`),
  );
  if (missing.length > 0) aptInstall(missing.map(([name]) => name));
}

/** Folder of PostgreSQL's server programs, from Debian's packages. */
export function ensurePostgres() {
  const base = '/usr/lib/postgresql';
  const find = () =>
    existsSync(base)
      ? readdirSync(base)
          .map((v) => join(base, v, 'bin'))
          .filter((b) => existsSync(join(b, 'initdb')))
          .at(-1)
      : undefined;
  if (!find()) aptInstall(['postgresql']);
  return find();
}
