import { defineConfig } from '@playwright/test'
import { launchOptions } from './scripts/browser.mjs'

export default defineConfig({
  testDir: 'tests/e2e',
  outputDir: 'var/test-results',
  globalSetup: './tests/e2e/setup.ts',
  timeout: 180_000,
  expect: { timeout: 25_000 },
  workers: 1,
  forbidOnly: true,
  // One more try where nobody watches; a test that needs it is named at the end.
  retries: process.env['CI'] === undefined ? 0 : 1,
  reporter: [['list'], ['json', { outputFile: 'var/test-results/e2e.json' }]],
  use: { viewport: { width: 1280, height: 800 }, launchOptions, screenshot: 'only-on-failure', acceptDownloads: true, actionTimeout: 30_000 },
})
