import type { Services } from './app';
import type { Import } from './db/imports';
import type { Source } from './db/sources';
import { Refusal } from './errors';
import { fetchAddress, FETCH_LIMITS } from './fetch';
import { FormatError } from '@carafe/core/formats';

const MINUTE = 60_000;

/** When a source is to be fetched next; null where it is fetched by hand. */
export function nextFetch(every: number | null, from: Date): string | null {
  return every === null ? null : new Date(from.getTime() + every * MINUTE).toISOString();
}

/** Fetches a source's address into a new import, not yet looked at. */
export async function fetchSource(services: Services, source: Source): Promise<Import> {
  const { imports, self, token } = services;
  if (!source.address) throw new Refusal(422, 'This source has no address to fetch.');
  const { url, body } = await fetchAddress(source.address, {
    self: self(),
    token,
    ...FETCH_LIMITS,
  });
  const name = url.pathname.split('/').filter(Boolean).at(-1) ?? url.host;
  return imports.receive(source, name, body);
}

/** Fetches a source and takes what came; a failure is kept with the source, and what was there stands. */
export async function fetchNow(services: Services, source: Source): Promise<void> {
  const { store, now, news, imports, log, gate } = services;
  const at = now();
  await gate.free();
  store.sources.nextFetch(source.id, nextFetch(source.every_minutes, at));
  try {
    await imports.takeBySelf(await fetchSource(services, source));
  } catch (error) {
    if (!(error instanceof Refusal) && !(error instanceof FormatError)) log.error(error);
    const isKnown = error instanceof Refusal || error instanceof FormatError;
    const message = isKnown ? error.message : 'It could not be taken in; the log says more.';
    await gate.free();
    store.sources.failed(source.id, message, at.toISOString());
  }
  news.tell({ type: 'source', id: source.id });
}

/** Fetches every source whose time has come, one after the other. */
export async function fetchDue(services: Services): Promise<void> {
  for (const source of services.store.sources.due(services.now().toISOString()))
    await fetchNow(services, source);
}
