// npm run unit: Jest over both kinds of tests, with what each needs of Node. What follows goes to Jest; with WUNSCH_REPORTS set
// each leaves its results there, as bare.json and page.json.
import { spawnSync } from 'node:child_process';
import { statfsSync } from 'node:fs';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { root } from './setup.mjs';

/** The kinds, and what Node must be told for each. */
const KINDS = { bare: '--import tsx', page: '--experimental-vm-modules' };

/** A test that hangs must not hold everything up for ever. */
const LONGEST_MS = 4 * 3_600_000;

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

/** Runs one kind and answers with Jest's status. */
function runKind(kind, asked) {
  const reports = process.env.WUNSCH_REPORTS;
  const folder = temporaryFolder();
  const { status } = spawnSync(
    'node',
    [
      'node_modules/jest/bin/jest.js',
      '--passWithNoTests',
      ...(reports ? ['--silent', '--json', `--outputFile=${join(reports, `${kind}.json`)}`] : []),
      ...asked,
    ],
    {
      cwd: root,
      stdio: ['ignore', reports ? 'ignore' : 'inherit', 'inherit'],
      timeout: LONGEST_MS,
      env: {
        ...process.env,
        ...(folder && { TMPDIR: folder }),
        WUNSCH_UNITS: kind,
        NODE_OPTIONS: `--no-warnings ${KINDS[kind]}`,
      },
    },
  );
  return status ?? 1;
}

/** Runs both kinds; the worse of their states. */
export function runUnits(asked = []) {
  return Math.max(...Object.keys(KINDS).map((kind) => runKind(kind, asked)));
}

if (import.meta.url === pathToFileURL(process.argv[1]).href) process.exit(runUnits(process.argv.slice(2)));
