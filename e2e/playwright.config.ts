import { defineConfig } from '@playwright/test';
import { LAUNCH } from './server';

/** The real interface, built; every worker has a server and a demo database of its own (carafe.ts). */
export default defineConfig({
  testDir: '.',
  outputDir: '../test-results',
  fullyParallel: false,
  workers: 2,
  // A machine that other things run on may be late once. What needed a second try is named in the run's output.
  retries: 1,
  timeout: 180_000,
  expect: { timeout: 30_000 },
  use: {
    viewport: { width: 1280, height: 800 },
    locale: 'en-GB',
    timezoneId: 'Europe/London',
    colorScheme: 'light',
    contextOptions: { reducedMotion: 'reduce' },
    launchOptions: LAUNCH,
  },
});
