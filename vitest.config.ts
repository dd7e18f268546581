import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    // The command line and the server's thread are tested as the files they are built into.
    globalSetup: 'scripts/unit-setup.mjs',
    include: ['{core,web,server,cli,demo}/src/**/*.test.ts'],
    // Two at a time, on two cores too, where the default is one.
    maxWorkers: 2,
    testTimeout: 240_000,
    hookTimeout: 240_000,
  },
})
