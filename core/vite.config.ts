import { join } from 'node:path'
import { defineConfig } from 'vite'

/** The core in one file for plain Node, its one dependency included. */
export default defineConfig({
  root: import.meta.dirname,
  build: {
    target: 'node20',
    outDir: 'dist',
    emptyOutDir: true,
    minify: false,
    lib: { entry: join(import.meta.dirname, 'src/index.ts'), formats: ['es'], fileName: 'index' },
  },
})
