import { defineConfig } from '@playwright/test';
import { copyOfDemo, databaseUrl, HOUSES, isThere, serverEnvironment } from './server';

// The configuration is read by every worker: only the first reader finds no databases and makes them.
for (const { database } of HOUSES) if (!isThere(database)) copyOfDemo(database);

export default defineConfig({
  testDir: '.',
  // Generous: a small machine with a cold browser is slow, and nothing here measures speed.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  // Two lanes beside each other, each with a server and data of its own; within one, files go one after the other.
  workers: HOUSES.length,
  fullyParallel: false,
  projects: HOUSES.map(({ name, files, port }) => ({
    name,
    testMatch: files,
    workers: 1,
    use: { baseURL: `http://127.0.0.1:${port}` },
  })),
  reporter: 'list',
  outputDir: 'test-results',
  use: {
    actionTimeout: 20_000,
    viewport: { width: 1280, height: 800 },
    browserName: 'chromium',
    acceptDownloads: true,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: process.env['CHROME_BIN'] ?? '/usr/bin/chromium',
      // Scroll bars take room as they do on a desk.
      ignoreDefaultArgs: ['--hide-scrollbars'],
      args: [
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
  },
  webServer: HOUSES.map(({ database, port }) => ({
    command: 'node ../packages/server/dist/main.js',
    env: serverEnvironment(databaseUrl(database), port),
    url: `http://127.0.0.1:${port}/health`,
    timeout: 120_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM' as const, timeout: 5000 },
  })),
});
