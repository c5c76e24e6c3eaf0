import { defineConfig } from '@playwright/test';
export default defineConfig({ testDir: '.', timeout: 180_000, expect: { timeout: 8_000 }, workers: 1, reporter: 'list', outputDir: '/tmp/trial-results',
  use: { baseURL: 'http://127.0.0.1:8490', actionTimeout: 8_000, viewport: { width: 1280, height: 800 }, screenshot: 'only-on-failure', launchOptions: { executablePath: '/usr/bin/chromium', args: ['--no-sandbox','--disable-gpu'] } } });
