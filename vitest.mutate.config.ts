import { defineConfig } from 'vitest/config'

/** The tests that a mutation run may use: those of the folders named in MUTATE_TESTS. */
const folders = (process.env['MUTATE_TESTS'] ?? 'core/src').split(',')

export default defineConfig({
  test: { include: folders.map((folder) => `${folder}/**/*.test.ts`), testTimeout: 60_000, hookTimeout: 60_000 },
})
