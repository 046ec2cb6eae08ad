// npm test: types, lint, format, units on both databases, and the browser. The last line sums all runners.
import { existsSync, mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { build } from './build.mjs';
import { startPostgres } from './postgres.mjs';
import { ensureChromium, ensurePackages, run } from './setup.mjs';

ensurePackages();
const sum = { passed: 0, failed: 0, skipped: 0 };
const only = process.argv.slice(2);
const wanted = (name) => only.length === 0 || only.includes(name);
const reports = mkdtempSync(join(tmpdir(), 'wunsch-reports-'));

function check(name, script) {
  if (!wanted(name)) return;
  console.log(`\n— ${name}`);
  const { status } = run('npm', ['run', '-s', script], { allowFailure: true });
  if (status === 0) sum.passed += 1;
  else sum.failed += 1;
}

check('types', 'types');
check('lint', 'lint');
check('format', 'format:check');

if (wanted('unit')) {
  console.log('\n— unit and server tests, on PGlite and PostgreSQL');
  await build();
  const postgres = await startPostgres();
  const file = join(reports, 'unit.json');
  const { status } = run('npm', ['run', '-s', 'unit', '--', '--silent', `--outputFile=${file}`, '--json'], {
    allowFailure: true,
    env: { ...process.env, WUNSCH_TEST_PG: postgres.url },
    stdio: ['ignore', 'ignore', 'inherit'],
  });
  postgres.stop();
  const result = existsSync(file) ? JSON.parse(readFileSync(file, 'utf8')) : null;
  sum.passed += result?.numPassedTests ?? 0;
  sum.failed += (result?.numFailedTests ?? 0) + (result?.numRuntimeErrorTestSuites ?? 0);
  sum.skipped += result?.numPendingTests ?? 0;
  if (status !== 0 && sum.failed === 0) sum.failed += 1;
}

if (wanted('browser')) {
  console.log('\n— browser');
  ensureChromium();
  await build();
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
