import { defineConfig } from '@playwright/test'

const sandbox = process.getuid?.() === 0 ? ['--no-sandbox'] : []

export default defineConfig({
  testDir: 'tests',
  globalSetup: './tests/fresh.ts',
  testMatch: '**/*.spec.ts',
  outputDir: '.pw-results',
  workers: 1,
  timeout: 300_000,
  expect: { timeout: 45_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    actionTimeout: 30_000,
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        ...sandbox,
        '--disable-gpu',
        '--disable-dev-shm-usage',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
})
