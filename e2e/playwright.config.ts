import { defineConfig } from '@playwright/test';
import chromium from '../scripts/chromium.json' with { type: 'json' };

/** Walks in the demo. */
const DEMO = ['beans', 'chocolate', 'makers', 'offline', 'plan', 'together'].map((name) => `${name}.spec.ts`);

export default defineConfig({
  testDir: './src',
  globalSetup: './src/servers.ts',
  timeout: 120_000,
  expect: { timeout: 30_000 },
  // Walks through the demo change it and take turns; beside them every screen is looked at, and then walks that have servers of their own.
  // Three for two cores, since walks with servers of their own also wait for them.
  workers: 3,
  projects: [
    { name: 'demo', testMatch: DEMO, workers: 1 },
    { name: 'screens', testMatch: 'screens.spec.ts', workers: 1 },
    { name: 'own', testIgnore: [...DEMO, 'screens.spec.ts', 'foreign.spec.ts'], workers: 3 },
    // Programs that are large to install read what is taken away: in the long script only.
    ...(process.env.WUNSCH_FOREIGN ? [{ name: 'foreign', testMatch: 'foreign.spec.ts', workers: 1 }] : []),
  ],
  // A second try where the machine is shared; what needed it is named as flaky in what is printed.
  retries: process.env.CI ? 1 : 0,
  outputDir: '../test-results',
  use: {
    locale: 'en-GB',
    contextOptions: { reducedMotion: 'reduce' },
    // Each new visitor's page would fetch the whole app once more beside what it shows; where that is what is tried, it is let.
    serviceWorkers: 'block',
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    launchOptions: chromium,
  },
});
