import { defineConfig } from '@playwright/test';

const PORT = 4410;

/** An Ojo of its own, on ports and data of its own, with a clock that the flows can set. */
export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.flow.ts',
  workers: 1,
  timeout: 90_000,
  expect: { timeout: 15_000 },
  reporter: [['list']],
  outputDir: 'test-results',
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/Madrid',
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env.CHROMIUM ?? '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--no-first-run',
      ],
    },
  },
  webServer: {
    command: 'node --import tsx server/boot/main.ts --fresh',
    url: `http://localhost:${PORT}/api/demo`,
    timeout: 180_000,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 15_000 },
    stdout: 'pipe',
    env: {
      OJO_DATA: '.data-flows',
      OJO_PORT: String(PORT),
      OJO_DATABASE_PORT: '4411',
      OJO_MAIL_PORT: '4412',
      OJO_TEXT_PORT: '4413',
      OJO_HOOK_PORT: '4414',
      OJO_REPORTS_PORT: '4415',
      OJO_LOGIN_STANDIN_PORT: '4416',
      // Never the machine's own clock: an ordinary Wednesday morning, or whatever strange hour is asked for.
      OJO_TEST_CLOCK: process.env.OJO_TEST_CLOCK ?? '2026-03-04T10:00:00+01:00',
    },
  },
});
