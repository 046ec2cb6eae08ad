import { defineConfig } from '@playwright/test';

export default defineConfig({
  testDir: './src',
  globalSetup: './src/servers.ts',
  timeout: 120_000,
  expect: { timeout: 30_000 },
  // The walks change the demo and take turns; looking at every screen goes on beside them.
  workers: 2,
  projects: [
    { name: 'walks', testIgnore: 'screens.spec.ts', workers: 1 },
    { name: 'screens', testMatch: 'screens.spec.ts', workers: 1 },
  ],
  // A second try where the machine is shared; what needed it is named as flaky in what is printed.
  retries: process.env.CI ? 1 : 0,
  outputDir: '../test-results',
  use: {
    locale: 'en-GB',
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
