import { mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { defineConfig } from '@playwright/test';
import { LAUNCH } from './server';

const port = Number(process.env['E2E_PORT'] ?? 4610);
// Workers load this file again: the folder is made once and handed on.
process.env['E2E_DATA'] ??= mkdtempSync(join(tmpdir(), 'carafe-e2e-'));

/** The real interface, built, over a database of its own with the demo data. */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  fullyParallel: false,
  workers: 1,
  retries: 0,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  use: {
    baseURL: `http://127.0.0.1:${port}`,
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    colorScheme: 'light',
    launchOptions: LAUNCH,
  },
  webServer: {
    command: 'node server/dist/main.js',
    cwd: join(import.meta.dirname, '..'),
    url: `http://127.0.0.1:${port}/api/templates`,
    timeout: 120_000,
    env: {
      PORT: String(port),
      CARAFE_DATA: process.env['E2E_DATA'],
      CARAFE_NOW: '2026-11-24T09:00:00Z',
    },
  },
});
