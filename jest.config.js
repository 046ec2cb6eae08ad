/**
 * Unit tests of core, contract, server, stand-ins, and what of the web needs no browser. Browser tests live in e2e/ and run
 * under Playwright. WUNSCH_UNITS says which of the two kinds; `npm run unit` runs both, one after the other.
 *
 * What needs no page runs in bare Node: Jest's module sandbox makes numerical code several times slower and loads the whole
 * server anew for each file. Such a file must leave nothing behind that the next one could see.
 */
const bare = {
  // In Jest's own process: the runner's pool of processes races for its settings and may wait for ever.
  runner: ['jest-light-runner', { runtime: 'main_thread' }],
  testMatch: ['<rootDir>/{core,contract,server,demo,standins}/src/**/*.test.ts'],
};

const page = {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/web/src/**/*.test.{ts,tsx}'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
  setupFilesAfterEnv: process.env.CI ? ['<rootDir>/scripts/retryPages.mjs'] : [],
  // Charts are drawn by a browser only; what they are given is read here.
  moduleNameMapper: { '/charts/apex\\.ts$|^\\./apex\\.ts$': '<rootDir>/web/src/testing/apex.tsx' },
  transform: {
    '^.+\\.tsx?$': [
      '@swc/jest',
      {
        jsc: {
          parser: { syntax: 'typescript', tsx: true },
          transform: { react: { runtime: 'automatic' } },
          target: 'es2022',
        },
        module: { type: 'es6' },
      },
    ],
  },
};

export default {
  ...(process.env.WUNSCH_UNITS === 'page' ? page : bare),
  testSequencer: '<rootDir>/scripts/longestFirst.mjs',
  maxWorkers: process.env.WUNSCH_UNITS === 'page' ? 2 : 1,
  testTimeout: 60000,
};
