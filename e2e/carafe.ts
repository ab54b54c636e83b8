import { test as base } from '@playwright/test';
import { startServer } from './server';

/** Where everybody's tests begin: a Tuesday in November, nine o'clock in the shop. */
export const NOW = '2026-11-24T09:00:00Z';
/** The first port of the tests; each worker takes its own from there on. */
export const FIRST_PORT = Number(process.env['E2E_PORT'] ?? 4610);

interface Carafe {
  origin: string;
  /** The folder of its database. */
  data: string;
}

/** Every worker has a Carafe of its own, over a demo database of its own. */
export const test = base.extend<object, { home: Carafe }>({
  home: [
    async ({}, use, { parallelIndex }) => {
      const { origin, data, stop } = await startServer(FIRST_PORT + parallelIndex, NOW);
      await use({ origin, data });
      await stop();
    },
    { scope: 'worker', timeout: 120_000 },
  ],
  baseURL: ({ home }, use) => use(home.origin),
});
export { expect } from '@playwright/test';
export type { APIRequestContext, Page } from '@playwright/test';
