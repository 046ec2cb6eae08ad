import { defineConfig } from '@playwright/test';

/** Walks in the demo, or in the one empty workshop. */
const DEMO = ['beans', 'chocolate', 'line', 'makers', 'offline', 'plan', 'together'].map(
  (name) => `${name}.spec.ts`,
);

export default defineConfig({
  testDir: './src',
  globalSetup: './src/servers.ts',
  timeout: 120_000,
  expect: { timeout: 30_000 },
  // Walks through the demo change it and take turns; beside them every screen is looked at, and then walks that have servers of their own.
  workers: 2,
  projects: [
    { name: 'demo', testMatch: DEMO, workers: 1 },
    { name: 'screens', testMatch: 'screens.spec.ts', workers: 1 },
    { name: 'own', testIgnore: [...DEMO, 'screens.spec.ts', 'foreign.spec.ts'], workers: 2 },
    // Programs that are large to install read what is taken away: in the long script only.
    ...(process.env.WUNSCH_FOREIGN ? [{ name: 'foreign', testMatch: 'foreign.spec.ts', workers: 1 }] : []),
  ],
  // A second try where the machine is shared; what needed it is named as flaky in what is printed.
  retries: process.env.CI ? 1 : 0,
  outputDir: '../test-results',
  use: {
    locale: 'en-GB',
    contextOptions: { reducedMotion: 'reduce' },
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
});
