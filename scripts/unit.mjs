// npm run unit: Jest over both kinds of tests, with what each needs of Node. What follows goes to Jest; with WUNSCH_REPORTS set
// each leaves its results there, as REPORTS names them.
import { spawn } from 'node:child_process';
import { statfsSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './setup.mjs';

/** The kinds, and what Node must be told for each. */
const KINDS = {
  bare: `--enable-source-maps --import ${pathToFileURL(join(root, 'scripts/typescript.mjs')).href}`,
  page: '--experimental-vm-modules',
};

/** Processes side by side: bare tests run within Jest’s own, page tests in workers of it. */
const PARTS = { bare: 2, page: 1 };

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

/** Runs Jest over one part of a kind and answers with its status. */
function runPart(kind, part, asked) {
  const reports = process.env.WUNSCH_REPORTS;
  const folder = temporaryFolder();
  const child = spawn(
    'node',
    [
      'node_modules/jest/bin/jest.js',
      '--passWithNoTests',
      ...(kind === 'bare' ? [`--shard=${part}/${PARTS.bare}`, '--forceExit'] : []),
      ...(reports ? ['--silent', '--json', `--outputFile=${join(reports, `${kind}-${part}.json`)}`] : []),
      ...asked,
    ],
    {
      cwd: root,
      stdio: ['ignore', reports ? 'ignore' : 'inherit', 'inherit'],
      timeout: longestMs(),
      env: {
        ...process.env,
        ...(folder && { TMPDIR: folder }),
        WUNSCH_UNITS: kind,
        NODE_OPTIONS: `--no-warnings ${KINDS[kind]}`,
      },
    },
  );
  return new Promise((resolve) => child.once('close', (status) => resolve(status ?? 1)));
}

/** Names of the results that a whole run leaves in WUNSCH_REPORTS. */
export const REPORTS = Object.entries(PARTS).flatMap(([kind, parts]) =>
  Array.from({ length: parts }, (_, i) => `${kind}-${i + 1}.json`),
);

/** Runs both kinds, the parts of each side by side; the worst of their states. */
export async function runUnits(asked = []) {
  let worst = 0;
  for (const [kind, parts] of Object.entries(PARTS)) {
    const states = await Promise.all(Array.from({ length: parts }, (_, i) => runPart(kind, i + 1, asked)));
    worst = Math.max(worst, ...states);
  }
  return worst;
}

if (import.meta.url === pathToFileURL(process.argv[1]).href)
  process.exit(await runUnits(process.argv.slice(2)));
