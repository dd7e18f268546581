import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['{core,web,server,cli,demo}/src/**/*.test.ts'],
    testTimeout: 60_000,
    hookTimeout: 60_000,
  },
})
