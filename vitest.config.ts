import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: [
      'core/**/*.test.ts',
      'server/**/*.test.ts',
      'cli/**/*.test.ts',
      'web/**/*.test.ts',
      'web/**/*.test.tsx',
      'firmware/**/*.test.ts',
    ],
    // on a machine of two cores the usual number would be one
    maxWorkers: 2,
    testTimeout: 120_000,
    hookTimeout: 120_000,
  },
})
