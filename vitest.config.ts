import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      // pure functions, and servers that end with their test, leave nothing behind: loading what they use once for all
      // files saves half of the time of the first and a third of that of the others
      { extends: true, test: { name: 'core', include: ['core/**/*.test.ts'], isolate: false } },
      {
        extends: true,
        test: { name: 'around', include: ['server/**/*.test.ts', 'cli/**/*.test.ts'], isolate: false },
      },
      { extends: true, test: { name: 'pages', include: ['web/**/*.test.ts', 'web/**/*.test.tsx'] } },
      { extends: true, test: { name: 'firmware', include: ['firmware/**/*.test.ts'], isolate: false } },
    ],
    // on a machine of two cores the usual number would be one
    maxWorkers: 2,
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
})
