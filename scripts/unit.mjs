// npm run unit: Jest over all kinds of tests, in a few processes. What follows goes to Jest; with WUNSCH_REPORTS set each leaves its results
// there, as REPORTS names them.
import { spawn } from 'node:child_process';
import { existsSync, readFileSync, statfsSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './setup.mjs';

/** In how many processes each kind is run; the long ones first, so that both hands are busy to the end. */
const PARTS = { server: 2, core: 2, page: 3 };

/** Processes side by side. */
const HANDS = 3;

/** Files that failed, beyond which something is wrong with more than the machine. */
const MOST_AGAIN = 5;

/** What Node must be told. */
const OPTIONS = `--no-warnings --enable-source-maps --import ${pathToFileURL(join(root, 'scripts/typescript.mjs')).href}`;

/**
 * What Node is started with besides. The database is opened some hundred times a run and asked little each time: compiling its WebAssembly for
 * speed takes longer than it saves.
 */
const FLAGS = { server: ['--liftoff-only'] };

/** A test that hangs must not hold everything up for ever: a whole run is done in minutes, the trials may take hours. */
const longestMs = () => (process.env.WUNSCH_REPORTS ? 40 * 60_000 : 4 * 3_600_000);

/** Thousands of small database files are copied and thrown away: in memory where there is plenty. */
function temporaryFolder() {
  try {
    const { bavail, bsize } = statfsSync('/dev/shm');
    if (bavail * bsize > 6e9) return '/dev/shm';
  } catch {
    // There is none.
  }
  return process.env.TMPDIR;
}

/** Runs Jest over files of a kind and answers with its status; with WUNSCH_REPORTS set its results are kept under the name given. */
function runJest(kind, name, asked) {
  const reports = process.env.WUNSCH_REPORTS;
  const folder = temporaryFolder();
  const child = spawn(
    'node',
    [
      ...(FLAGS[kind] ?? []),
      'node_modules/jest/bin/jest.js',
      '--passWithNoTests',
      '--forceExit',
      ...(reports ? ['--silent', '--json', `--outputFile=${join(reports, name)}`] : []),
      ...asked,
    ],
    {
      cwd: root,
      stdio: ['ignore', reports ? 'ignore' : 'inherit', 'inherit'],
      timeout: longestMs(),
      env: {
        ...process.env,
        ...(folder && { TMPDIR: folder }),
        // Small workshops that are opened some hundred times.
        WUNSCH_MEMORY_MB: '8',
        WUNSCH_UNITS: kind,
        NODE_OPTIONS: OPTIONS,
      },
    },
  );
  return new Promise((resolve) => child.once('close', (status) => resolve(status ?? 1)));
}

/** Name of the results of a part. */
const reportOf = (kind, part) => `${kind}-${part}.json`;

/**
 * What draws a page waits for answers and timers; on a machine that is busy a wait may run out. In a whole run such files get a second try, as the
 * walks in the browser do, and the first failure stays printed.
 */
async function tryPagesAgain(name) {
  const file = join(process.env.WUNSCH_REPORTS, name);
  const first = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
  const failed = first?.testResults.filter((t) => t.status === 'failed').map((t) => t.name) ?? [];
  if (failed.length === 0 || failed.length > MOST_AGAIN) return 1;
  console.error(`a second try for ${failed.map((f) => relative(root, f)).join(', ')}`);
  const status = await runJest('page', name, ['--runTestsByPath', ...failed]);
  const second = JSON.parse(readFileSync(file, 'utf8'));
  const passedBefore = first.testResults
    .filter((t) => t.status !== 'failed')
    .flatMap((t) => t.assertionResults.filter((a) => a.status === 'passed')).length;
  const numPassedTests = passedBefore + second.numPassedTests;
  writeFileSync(file, JSON.stringify({ ...second, numPassedTests }));
  return status;
}

/** Runs one part of a kind and answers with its status. */
async function runPart({ kind, part }, asked) {
  const name = reportOf(kind, part);
  const status = await runJest(kind, name, [`--shard=${part}/${PARTS[kind]}`, ...asked]);
  return status !== 0 && kind === 'page' && process.env.WUNSCH_REPORTS ? tryPagesAgain(name) : status;
}

/** Names of the results that a whole run leaves in WUNSCH_REPORTS. */
export const REPORTS = Object.entries(PARTS).flatMap(([kind, parts]) =>
  Array.from({ length: parts }, (_, i) => reportOf(kind, i + 1)),
);

/** Runs all parts of all kinds, as many side by side as there are hands; the worst of their states. */
export async function runUnits(asked = []) {
  const waiting = Object.entries(PARTS).flatMap(([kind, parts]) =>
    Array.from({ length: parts }, (_, i) => ({ kind, part: i + 1 })),
  );
  let worst = 0;
  const hand = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift())
      worst = Math.max(worst, await runPart(next, asked));
  };
  await Promise.all(Array.from({ length: HANDS }, hand));
  return worst;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href)
  process.exit(await runUnits(process.argv.slice(2)));
