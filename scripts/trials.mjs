// npm run trials: the kills and torn copies of `npm test`, many times over, and with them damage, full disks and clocks.
import { build } from './build.mjs';
import { ensurePackages, run } from './setup.mjs';

ensurePackages();
await build();
const { status } = run('npm', ['run', '-s', 'unit', '--', 'server/src/journal', 'server/src/store'], {
  allowFailure: true,
  env: { WUNSCH_KILLS: '100', WUNSCH_TORN: '20', ...process.env },
});
process.exit(status ?? 1);
