// npm test: types, lint, format, units on both databases, and the browser. The last line sums all runners.
import { spawn } from 'node:child_process';
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build.mjs';
import { startPostgres } from './postgres.mjs';
import { ensurePackages, ensureSystem, root, run } from './setup.mjs';
import { REPORTS, runUnits } from './unit.mjs';

const only = process.argv.slice(2);
const wanted = (name) => only.length === 0 || only.includes(name);
// Beside everything up to the first test that needs them.
const system = ensureSystem(
  ...(wanted('unit') ? ['postgres', 'readers'] : []),
  ...(wanted('browser') ? ['browser'] : []),
);
ensurePackages();
const sum = { passed: 0, failed: 0, skipped: 0 };
const reports = mkdtempSync(join(tmpdir(), 'wunsch-reports-'));

/** Runs one of package.json's checks and shows what it says once it has ended. */
async function check(name, script) {
  if (!wanted(name)) return;
  const { status, said } = await new Promise((resolve, reject) => {
    const child = spawn('npm', ['run', '-s', script], { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (part) => (said += part));
    child.on('error', reject);
    child.on('close', (status) => resolve({ status, said }));
  });
  console.log(`\n— ${name}\n${said}`);
  if (status === 0) sum.passed += 1;
  else sum.failed += 1;
}

const needsBuild = wanted('unit') || wanted('browser');
await Promise.all([
  check('types', 'types'),
  check('lint', 'lint').then(() => check('format', 'format:check')),
  needsBuild && build(),
]);

if (wanted('unit')) {
  console.log('\n— unit and server tests, on PGlite and PostgreSQL');
  await system;
  const postgres = await startPostgres();
  Object.assign(process.env, { WUNSCH_TEST_PG: postgres.url, WUNSCH_REPORTS: reports });
  const status = await runUnits();
  postgres.stop();
  for (const name of REPORTS) {
    const file = join(reports, name);
    const result = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
    sum.passed += result?.numPassedTests ?? 0;
    sum.failed += result ? result.numFailedTests + result.numRuntimeErrorTestSuites : 1;
    sum.skipped += result?.numPendingTests ?? 0;
  }
  if (status !== 0 && sum.failed === 0) sum.failed += 1;
}

if (wanted('browser')) {
  console.log('\n— browser');
  await system;
  const file = join(reports, 'browser.json');
  const { status } = run(
    'npx',
    ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--reporter=list,json'],
    {
      allowFailure: true,
      env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: file },
    },
  );
  const stats = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')).stats : null;
  sum.passed += (stats?.expected ?? 0) + (stats?.flaky ?? 0);
  sum.failed += stats?.unexpected ?? 0;
  sum.skipped += stats?.skipped ?? 0;
  if (status !== 0 && (stats?.unexpected ?? 0) === 0) sum.failed += 1;
}

console.log(`\n${sum.passed} passed, ${sum.failed} failed${sum.skipped ? `, ${sum.skipped} skipped` : ''}`);
process.exit(sum.failed > 0 || sum.passed === 0 ? 1 : 0);
