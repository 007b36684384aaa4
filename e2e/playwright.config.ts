import { defineConfig } from '@playwright/test';
import { BASE, CHROMIUM, PORT, VIEWPORT } from './chromium';
import { LONG, SHORT } from './runs';

export default defineConfig({
  testDir: '.',
  testMatch: '*.spec.ts',
  ...(SHORT && { grepInvert: new RegExp(LONG.tag) }),
  fullyParallel: true,
  workers: 2,
  retries: process.env.CI ? 1 : 0,
  timeout: 120_000,
  expect: { timeout: 30_000 },
  reporter: 'list',
  outputDir: 'test-results',
  use: {
    baseURL: BASE,
    viewport: VIEWPORT,
    launchOptions: CHROMIUM,
    trace: 'off',
  },
  webServer: {
    command: `node ../server/bin/nematos.js serve --port ${PORT}`,
    url: `${BASE}/api/health`,
    reuseExistingServer: false,
    timeout: 60_000,
  },
});
