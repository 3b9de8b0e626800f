import { defineConfig } from '@playwright/test';

const PORT = 4399;

/** End-to-end tests: one worker, Debian's Chromium, the built application on a data folder of its own. */
export default defineConfig({
  testDir: 'e2e',
  outputDir: 'test-results/e2e',
  workers: 1,
  fullyParallel: false,
  timeout: 90_000,
  expect: { timeout: 20_000 },
  // What passes only the second time is named at the end of `npm test`: it is a fault of the test or of the application that is looked into.
  retries: 1,
  reporter: process.env.PLAYWRIGHT_JSON_OUTPUT_NAME ? [['list'], ['json']] : [['list']],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    trace: 'on-first-retry',
    launchOptions: {
      executablePath: '/usr/bin/chromium',
      args: [
        '--no-sandbox',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
        '--use-gl=angle',
        '--use-angle=swiftshader',
        '--enable-unsafe-swiftshader',
        // Only the model is drawn by the simulated graphics card: pages put together by it too take twice the time.
        '--disable-gpu-compositing',
      ],
    },
  },
  webServer: {
    command: `node e2e/start-server.mjs ${PORT}`,
    url: `http://localhost:${PORT}/api/health`,
    timeout: 120_000,
    reuseExistingServer: false,
  },
});
