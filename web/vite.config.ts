import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vite'
import vuetify from 'vite-plugin-vuetify'
import { symbolFont } from './symbolFont'

export default defineConfig({
  root: import.meta.dirname,
  plugins: [
    // Words that stand on two lines of a template keep their space.
    vue({ template: { compilerOptions: { whitespace: 'preserve' } } }),
    vuetify({ autoImport: true }),
    symbolFont(),
  ],
  build: {
    outDir: 'dist',
    emptyOutDir: true,
    chunkSizeWarningLimit: 900,
    reportCompressedSize: false,
    rolldownOptions: {
      output: {
        codeSplitting: {
          groups: [
            // What signing in needs, and every page after it: one file.
            { name: 'frame', tags: ['$initial'] },
            // What three pages and more have in common: one more. A page asked for 60 scripts and 30 style sheets without.
            { name: 'shared', minShareCount: 3 },
          ],
        },
      },
    },
  },
  server: { proxy: { '/api': 'http://127.0.0.1:4720' } },
})
