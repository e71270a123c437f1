import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    projects: [
      // pure functions leave nothing behind: loading them once for all files saves half of their time
      { extends: true, test: { name: 'core', include: ['core/**/*.test.ts'], isolate: false } },
      {
        extends: true,
        test: {
          name: 'around',
          include: [
            'server/**/*.test.ts',
            'cli/**/*.test.ts',
            'web/**/*.test.ts',
            'web/**/*.test.tsx',
            'firmware/**/*.test.ts',
          ],
        },
      },
    ],
    // on a machine of two cores the usual number would be one; a third has the machine while others wait for boards
    maxWorkers: 3,
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
})
