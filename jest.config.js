/** Unit tests of core, contract, server, demo, and what of the web needs no browser. Browser tests live in e2e/ and run under Playwright. */
export default {
  testEnvironment: 'node',
  testMatch: ['<rootDir>/{core,contract,server,web,demo,standins}/src/**/*.test.{ts,tsx}'],
  extensionsToTreatAsEsm: ['.ts', '.tsx'],
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
  testSequencer: '<rootDir>/scripts/longestFirst.mjs',
  maxWorkers: 2,
  testTimeout: 60000,
};
