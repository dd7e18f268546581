import { defineConfig } from '@playwright/test'
import { LAUNCH } from './browser'

const PORT = Number(process.env.E2E_PORT ?? 4178)

export default defineConfig({
  testDir: './tests',
  timeout: 600_000,
  expect: { timeout: 240_000 },
  workers: 1,
  retries: 1,
  reporter: [['list'], ['json']],
  // Two runs at once do not clear each other's.
  outputDir: `../test-results/${PORT}`,
  use: {
    baseURL: `http://127.0.0.1:${PORT}`,
    viewport: { width: 1280, height: 800 },
    actionTimeout: 240_000,
    launchOptions: LAUNCH,
  },
  webServer: {
    command: 'node dist/server.js',
    cwd: '..',
    env: { PORT: String(PORT) },
    url: `http://127.0.0.1:${PORT}/api/health`,
    reuseExistingServer: false,
    timeout: 60_000,
  },
})
