import { defineConfig } from 'vitest/config'

/** The tests that a mutation run may use: those of the packages named in MUTATE_TESTS, by folder. */
const folders = (process.env['MUTATE_TESTS'] ?? 'core').split(',')

export default defineConfig({
  test: { include: folders.map((folder) => `${folder}/src/**/*.test.ts`), testTimeout: 60_000, hookTimeout: 60_000 },
})
