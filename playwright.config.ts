import { defineConfig } from '@playwright/test'

export default defineConfig({
  testDir: 'e2e',
  timeout: 120_000,
  workers: 2,
  reporter: [['list'], ['json', { outputFile: process.env['PLAYWRIGHT_JSON_OUTPUT_NAME'] ?? 'test-results/e2e.json' }]],
  projects: [
    { name: 'views', testIgnore: /timing.*\.spec/ },
    // what is timed has the machine to itself
    { name: 'timing', testMatch: /timing.*\.spec/, dependencies: ['views'] },
  ],
  use: {
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
})
