/**
 * Unit tests of core, contract, server, stand-ins, and what of the web needs no browser. Browser tests live in e2e/ and run
 * under Playwright. WUNSCH_UNITS says which of the two kinds; `npm run unit` runs both.
 *
 * All run in bare Node, many files in one process: Jest's module sandbox makes numerical code several times slower and loads the whole server,
 * or the whole page, anew for each file. A file must leave nothing behind that the next one could see; what pages leave is taken away for them.
 */
const isPage = process.env.WUNSCH_UNITS === 'page';

export default {
  // In Jest's own process: the runner's pool of processes races for its settings and may wait for ever.
  runner: ['jest-light-runner', { runtime: 'main_thread' }],
  testMatch: isPage
    ? ['<rootDir>/web/src/**/*.test.{ts,tsx}']
    : ['<rootDir>/{core,contract,server,demo,standins}/src/**/*.test.ts'],
  setupFiles: isPage ? ['<rootDir>/scripts/pageGlobals.mjs'] : [],
  testSequencer: '<rootDir>/scripts/longestFirst.mjs',
  maxWorkers: 1,
};
