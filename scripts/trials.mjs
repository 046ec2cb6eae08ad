// npm run trials: kills, torn copies, damage, full disks, clocks, a database that goes away, made-up requests and long random histories,
// many times over and on both stores, with their counts; and every screen in every setting.
import { build } from './build.mjs';
import { startPostgres } from './postgres.mjs';
import { ensureChromium, ensurePackages, run } from './setup.mjs';

ensurePackages();
ensureChromium();
await build();
const postgres = await startPostgres();
const places = ['journal', 'store', 'db', 'tools', 'live', 'http', 'access', 'readings', 'ledger'];
const { status } = run('npm', ['run', '-s', 'unit', '--', ...places.map((p) => `server/src/${p}`)], {
  allowFailure: true,
  env: {
    WUNSCH_KILLS: '100',
    WUNSCH_TORN: '20',
    WUNSCH_FUZZ: '20000',
    WUNSCH_HISTORY: '2000',
    WUNSCH_TABLE: '1',
    WUNSCH_TEST_PG: postgres.url,
    ...process.env,
  },
});
postgres.stop();
const screens = run(
  'npx',
  ['playwright', 'test', '--config', 'e2e/playwright.config.ts', '--project=screens'],
  { allowFailure: true, env: { ...process.env, WUNSCH_SCREENS: 'all' } },
);
process.exit(status || screens.status || 0);
