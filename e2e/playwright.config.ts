import { defineConfig } from '@playwright/test';
import { databaseUrl, PORT, serverEnvironment, sql } from './server';

// The configuration is read by every worker: only the first reader finds no database and makes it.
if (sql(`select count(*) from pg_database where datname = 'woodruff_e2e'`) === '0') sql('create database woodruff_e2e');

export default defineConfig({
  testDir: '.',
  // Generous: a small machine with a cold browser is slow, and nothing here measures speed.
  timeout: 180_000,
  expect: { timeout: 20_000 },
  workers: 1,
  fullyParallel: false,
  reporter: 'list',
  outputDir: 'test-results',
  use: {
    actionTimeout: 20_000,
    baseURL: `http://127.0.0.1:${PORT}`,
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
  webServer: {
    // The demo is played through the real services first.
    command: 'node ../packages/server/dist/load-demo.js && node ../packages/server/dist/main.js',
    env: serverEnvironment(databaseUrl('woodruff_e2e'), PORT),
    url: `http://127.0.0.1:${PORT}/health`,
    timeout: 120_000,
    reuseExistingServer: false,
    gracefulShutdown: { signal: 'SIGTERM', timeout: 5000 },
  },
});
