/**
 * Unit tests of core, contract, server, stand-ins, and what of the web needs no browser. Browser tests live in e2e/ and run
 * under Playwright. WUNSCH_UNITS says which of the kinds; `npm run unit` runs all of them.
 *
 * All run in bare Node, many files in one process: Jest's module sandbox makes numerical code several times slower and loads the whole server,
 * or the whole page, anew for each file. A file must leave nothing behind that the next one could see; what pages leave is taken away for them.
 */
const ROOMS = {
  core: '{core,contract,standins}/src/**/*.test.ts',
  server: '{server,demo}/src/**/*.test.ts',
  page: 'web/src/**/*.test.{ts,tsx}',
};
const kind = process.env.WUNSCH_UNITS;

export default {
  // In Jest's own process: the runner's pool of processes races for its settings and may wait for ever.
  runner: ['jest-light-runner', { runtime: 'main_thread' }],
  testMatch: Object.keys(ROOMS)
    .filter((room) => !kind || room === kind)
    .map((room) => `<rootDir>/${ROOMS[room]}`),
  setupFiles: kind === 'page' ? ['<rootDir>/scripts/pageGlobals.mjs'] : [],
  testSequencer: '<rootDir>/scripts/longestFirst.mjs',
  maxWorkers: 1,
};
