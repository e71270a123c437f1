import { defineConfig } from '@playwright/test'
import { BROWSER } from './e2e/browser'

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  workers: 2,
  reporter: [['list'], ['json', { outputFile: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ?? 'test-results/e2e.json' }]],
  projects: [
    { name: 'views', testIgnore: /timing.*\.spec/ },
    // what is timed has the machine to itself
    { name: 'timing', testMatch: /timing.*\.spec/, dependencies: ['views'], workers: 1 },
  ],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: BROWSER,
  },
})
