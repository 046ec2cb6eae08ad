// npm run trials: kills, torn copies, damage, full disks, clocks, a database that goes away, made-up requests and long random histories,
// many times over and on both stores, with their counts; what is read again after each kind of entry; every screen in every setting; and what is taken away, read by programs of others.
import { build } from './build.mjs';
import { startPostgres } from './postgres.mjs';
import { ensurePackages, ensureSystem, run } from './setup.mjs';

ensurePackages();
await ensureSystem('browser', 'foreign', 'readers');
await build();
const postgres = await startPostgres();
const { status } = run('npm', ['run', '-s', 'unit', '--', 'server/src', 'core/src'], {
  allowFailure: true,
  env: {
    WUNSCH_KILLS: '100',
    WUNSCH_TORN: '20',
    WUNSCH_FUZZ: '20000',
    WUNSCH_HISTORY: '2000',
    WUNSCH_HISTORIES: '200',
    WUNSCH_TOGETHER: '2000',
    WUNSCH_TRIALS: '1',
    WUNSCH_TABLE: '1',
    WUNSCH_TEST_PG: postgres.url,
    ...process.env,
  },
});
postgres.stop();
/** Every kind of entry in the tests of these rooms: is each page it shows on read again? */
const watched = ['access', 'cases', 'classes', 'cost', 'ledger', 'months', 'plan', 'publicBar', 'skills'];
const watching = run(
  'npm',
  [
    'run',
    '-s',
    'unit',
    '--',
    ...[...watched, 'stations', 'stock', 'trace', 'views'].map((r) => `server/src/${r}`),
  ],
  { allowFailure: true, env: { ...process.env, WUNSCH_WATCH: '3' } },
);
const screens = run(
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--project=screens'],
  { allowFailure: true, env: { ...process.env, WUNSCH_SCREENS: 'all' } },
);
const foreign = run(
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--project=foreign'],
  { allowFailure: true, env: { ...process.env, WUNSCH_FOREIGN: '1' } },
);
process.exit(status || watching.status || screens.status || foreign.status || 0);
