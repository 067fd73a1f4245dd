import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

/** Web tests mount: what one has mounted goes with it. */
const setupFiles = ['web/src/testing/unmount.ts']
const interfaceParts = () => vue({ template: { compilerOptions: { whitespace: 'preserve' } } })

/** Limits are for what hangs; how long something may take is the benches' affair. */
const unit = (name: string, include: string[]) => ({ name, include, testTimeout: 60_000, hookTimeout: 60_000 })

export default defineConfig({
  test: {
    // By default one processor is left to whoever watches.
    maxWorkers: 2,
    reporters: process.env['CI'] ? ['dot', './scripts/closingLine.ts'] : ['default', './scripts/closingLine.ts'],
    projects: [
      {
        test: {
          ...unit('unit', [
            'core/src/**/*.test.ts',
            'contract/src/**/*.test.ts',
            'server/src/**/*.test.ts',
            'demo/src/**/*.test.ts',
            'scripts/**/*.test.ts',
          ]),
          globalSetup: 'server/src/testing/template.ts',
          // Each keeps to itself by what it makes: loading everything anew for each file took longer than the tests.
          isolate: false,
        },
      },
      {
        plugins: [interfaceParts()],
        // Loading the interface for each file anew took four fifths of the time.
        test: {
          ...unit('web', ['web/src/**/*.test.ts']),
          exclude: ['web/src/**/*.mocked.test.ts'],
          environment: 'happy-dom',
          setupFiles,
          isolate: false,
        },
      },
      {
        plugins: [interfaceParts()],
        // A module that another stands in for has to be loaded with its stand-in: each of these is alone.
        test: { ...unit('web, mocked', ['web/src/**/*.mocked.test.ts']), environment: 'happy-dom', setupFiles },
      },
      {
        test: {
          name: 'e2e',
          include: ['e2e/**/*.test.ts'],
          globalSetup: 'e2e/firstStart.ts',
          // Each has a plant and a browser of its own.
          isolate: false,
          testTimeout: 300_000,
          hookTimeout: 300_000,
        },
      },
    ],
  },
})
