import { defineConfig } from 'vite'

/** Left where they are installed: each finds a file of its own beside itself. */
const OUTSIDE = ['replicad-opencascadejs', 'manifold-3d', 'piscina']

/** The command line, the server and its threads as plain files in `dist/`, packages taken in. */
export default defineConfig({
  publicDir: false,
  build: {
    ssr: true,
    outDir: 'dist',
    emptyOutDir: true,
    target: 'node20',
    rollupOptions: {
      input: {
        ivory: 'cli/src/main.ts',
        'ivory-thread': 'cli/src/thread.ts',
        server: 'server/src/main.ts',
        'measure-thread': 'server/src/measure-thread.ts',
      },
      external: OUTSIDE,
      output: { entryFileNames: '[name].js', chunkFileNames: 'part-[hash].js' },
    },
  },
  // The font reader's other build has no default export.
  resolve: { alias: { 'opentype.js': 'opentype.js/dist/opentype.js' } },
  ssr: { noExternal: true, external: OUTSIDE },
})
