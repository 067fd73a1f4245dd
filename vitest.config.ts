import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    reporters: process.env['CI'] ? ['dot', './scripts/closingLine.ts'] : ['default', './scripts/closingLine.ts'],
    projects: [
      {
        test: {
          name: 'unit',
          include: [
            'core/src/**/*.test.ts',
            'contract/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'web/src/**/*.test.ts',
            'demo/src/**/*.test.ts',
            'scripts/**/*.test.ts',
          ],
          testTimeout: 20_000,
        },
      },
      {
        test: { name: 'e2e', include: ['e2e/**/*.test.ts'], testTimeout: 120_000, hookTimeout: 120_000, fileParallelism: false },
      },
    ],
  },
})
