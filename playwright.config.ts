import { defineConfig } from '@playwright/test';

const PORT = 3210;

/** Flows that record and play against the clock mostly wait for it: they come first, beside others. */
const IN_TIME = ['**/takes.spec.ts', '**/recording.spec.ts', '**/playback.spec.ts', '**/song.spec.ts'];

/** The real interface in Debian's Chromium, against the production build. */
export default defineConfig({
  testDir: 'e2e',
  projects: [
    { name: 'in-time', testMatch: IN_TIME },
    { name: 'flows', testMatch: '**/*.spec.ts', testIgnore: IN_TIME },
  ],
  // Limits against hanging alone: beside other work of the machine a flow may take five times as long as by itself.
  timeout: 240_000,
  expect: { timeout: 60_000 },
  fullyParallel: true,
  workers: 2,
  retries: 0,
  forbidOnly: !!process.env.CI,
  reporter: [['list'], ['json', { outputFile: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ?? 'test-results/playwright.json' }]],
  outputDir: 'test-results/playwright',
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    // The legend that the first visit shows was read.
    storageState: {
      cookies: [],
      origins: [{ origin: `http://127.0.0.1:${PORT}`, localStorage: [{ name: 'nod-sway:legend', value: 'read' }] }],
    },
    // What keeps the application offline fetches all of it: one file of flows is about that.
    serviceWorkers: 'block',
    actionTimeout: 60_000,
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
        // No process for a page that is still to come: it took a tenth of the flows' computing.
        '--renderer-process-limit=1',
        '--disable-site-isolation-trials',
        '--autoplay-policy=no-user-gesture-required',
      ],
    },
  },
  webServer: {
    command: `node server/serve.mjs ${PORT}`,
    url: `http://127.0.0.1:${PORT}`,
    reuseExistingServer: !process.env.CI,
    timeout: 60_000,
  },
});
