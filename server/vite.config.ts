import { join } from 'node:path'
import { defineConfig } from 'vite'

/** Builds the server, its command line and the demo's seeding for plain Node; our own packages go in, libraries stay in node_modules. */
export default defineConfig({
  root: import.meta.dirname,
  build: {
    ssr: true,
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        main: join(import.meta.dirname, 'src/main.ts'),
        workbookWorker: join(import.meta.dirname, 'src/define/library/workbookWorker.ts'),
        readerWorker: join(import.meta.dirname, 'src/kernel/database/sqlite/readerWorker.ts'),
        taskWorker: join(import.meta.dirname, 'src/app/taskWorker.ts'),
        cli: join(import.meta.dirname, 'src/cli.ts'),
        seed: join(import.meta.dirname, '../demo/src/main.ts'),
      },
      output: { chunkFileNames: '[name].js', entryFileNames: '[name].js' },
    },
  },
  ssr: { noExternal: [/^@nemawashi\//] },
})
