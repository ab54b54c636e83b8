import {
  ChangeSource,
  CheckImport,
  CreateSource,
  ImportOutcome,
  LookAgain,
  type ImportRow,
  type SourceSummary,
} from '@carafe/contract';
import { parse } from '@carafe/core/formula';
import { Router } from 'express';
import { z } from 'zod';
import type { Services } from '../app';
import type { Source } from '../db/sources';
import { Refusal } from '../errors';
import { addressOf } from '../fetch';
import { rejectedCsv, importRows } from '../imports/rowsofimport';
import { fetchSource, fetchNow, nextFetch } from '../schedule';
import { summaryOf } from '../status';
import { usesOf } from '../uses';

const Paging = z.object({
  offset: z.coerce.number().int().min(0).default(0),
  limit: z.coerce.number().int().min(1).max(500).default(100),
});
const RowsAsked = Paging.extend({
  q: z.string().max(200).default(''),
  filter: z.string().max(4000).default(''),
  sort: z.string().max(200).optional(),
  descending: z.stringbool().default(false),
});
const FileName = z.object({ name: z.string().trim().max(300).default('') });

/** Hours for which a source is fresh, by how its data comes. */
const FRESH_HOURS = { file: 24 * 30, address: 48, events: 24 * 7, typed: 24 * 365 };

export function sourceRoutes(services: Services): Router {
  const router = Router();
  const { store, imports, rows, now, newId, self, news } = services;
  const found = (id: string): Source => imports.sourceOf(id);
  const summary = (source: Source): SourceSummary => summaryOf(store, source, now());

  router.get('/sources', (_request, response) => {
    response.json({ sources: store.sources.list().map(summary) });
  });
  router.post('/sources', (request, response) => {
    const asked = CreateSource.parse(request.body);
    const { shop, name, kind, target, slot, address = null, every_minutes = null } = asked;
    if (shop !== null && !store.shops.find(shop))
      throw new Refusal(400, `There is no shop “${shop}”.`);
    refuseTaken(asked.target, shop, slot, null);
    if (kind === 'address') addressOf(address ?? '', self());
    const id = newId();
    const at = now();
    const source = {
      ...{ id, shop, name, kind, target, slot, address, every_minutes },
      fresh_hours:
        every_minutes === null ? FRESH_HOURS[kind] : Math.max(1, Math.ceil(every_minutes / 30)),
      // The first file is looked at by somebody: the schedule begins when it was taken.
      next_fetch_at: null,
    };
    store.sources.insert(source, at.toISOString());
    news.tell({ type: 'source', id });
    response.status(201).json(summary(found(id)));
  });

  /** Formulas tell catalogs and feeds of a shop apart by name. */
  function refuseTaken(
    target: string,
    shop: string | null,
    slot: string,
    but: string | null,
  ): void {
    if (target !== 'catalog' && target !== 'feed') return;
    const clash = store.sources
      .list()
      .find(
        (other) =>
          other.id !== but &&
          other.target === target &&
          other.slot === slot &&
          (other.shop === null || shop === null || other.shop === shop),
      );
    if (clash)
      throw new Refusal(
        409,
        `“${clash.name}” is called ${target === 'feed' ? 'feeds' : 'catalog'}.${slot} in formulas already. Choose another name.`,
      );
  }

  router.get('/sources/:id', (request, response) => {
    const source = found(request.params.id);
    response.json({
      source: summary(source),
      imports: store.imports.of(source.id).map((one) => imports.summary(one)),
    });
  });
  router.patch('/sources/:id', (request, response) => {
    const source = found(request.params.id);
    const asked = ChangeSource.parse(request.body);
    if (asked.slot !== undefined) refuseTaken(source.target, source.shop, asked.slot, source.id);
    if (asked.address !== undefined) addressOf(asked.address, self());
    const every = asked.every_minutes === undefined ? source.every_minutes : asked.every_minutes;
    const next = asked.every_minutes === undefined ? source.next_fetch_at : nextFetch(every, now());
    store.sources.change(source.id, asked, source.settings ? next : null);
    if (asked.slot !== undefined) news.tell({ type: 'world', shop: source.shop });
    news.tell({ type: 'source', id: source.id });
    response.json(summary(found(source.id)));
  });
  router.delete('/sources/:id', (request, response) => {
    const source = found(request.params.id);
    store.sources.remove(source.id, now().toISOString());
    changed(source);
    response.status(204).end();
  });
  router.post('/sources/:id/restore', (request, response) => {
    if (!store.sources.restore(request.params.id))
      throw new Refusal(404, 'There is no such source.');
    const source = found(request.params.id);
    changed(source);
    response.json(summary(source));
  });

  /** What a source fed is made anew without it, or with it again. */
  function changed({ id, shop, target }: Source): void {
    services.refreshFor(target, shop);
    news.tell({ type: 'source', id });
    news.tell({ type: 'world', shop });
  }

  router.get('/sources/:id/rows', async (request, response) => {
    const source = found(request.params.id);
    const asked = RowsAsked.parse(request.query);
    if (asked.filter.trim() !== '') {
      const parsed = parse(asked.filter);
      if (!parsed.ok)
        throw new Refusal(400, `${parsed.error.message} (column ${parsed.error.column})`);
    }
    response.json(await rows.page(source, asked));
  });
  router.get('/sources/:id/profile', async (request, response) => {
    const source = found(request.params.id);
    const profile = await rows.profile(source);
    response.json({ ...profile, used_by: usesOf(store, source) });
  });

  /** The file itself is the body; its name stands in the address. */
  router.post('/sources/:id/file', async (request, response) => {
    const source = found(request.params.id);
    const { name } = FileName.parse(request.query);
    const one = await imports.receive(source, name || 'file', request);
    response.status(201).json(imports.look(one.id));
  });
  /** Fetches the address for a first look. */
  router.post('/sources/:id/fetch', async (request, response) => {
    const source = found(request.params.id);
    if (source.kind !== 'address') throw new Refusal(400, 'This source has no address.');
    if (source.settings === null) {
      const one = await fetchSource(services, source);
      response.status(201).json({ look: imports.look(one.id), source: summary(source) });
      return;
    }
    await fetchNow(services, source);
    response.json({ look: null, source: summary(found(source.id)) });
  });
  /** Rows typed in: they come as records and go the way of every file. */
  router.post('/sources/:id/typed', async (request, response) => {
    const source = found(request.params.id);
    const { records } = z
      .strictObject({ records: z.array(z.record(z.string(), z.unknown())).min(1).max(10_000) })
      .parse(request.body);
    const text = records.map((record) => JSON.stringify(record)).join('\n');
    const one = imports.receiveText(source, 'typed in', text);
    store.imports.change(one.id, { mode: 'part' });
    const taken = await imports.takeBySelf(imports.find(one.id), { format: 'ndjson' });
    if (taken.state !== 'applied') {
      const [first] = importRows(services, taken, 'rejected', 1, 0);
      const why = first?.problems.map((p) => `${p.column}: ${p.message}`).join(' ') ?? '';
      imports.discard(taken.id);
      throw new Refusal(422, `Nothing was kept. ${why}`);
    }
    response.json(imports.summary(taken));
  });
  router.delete('/sources/:id/rows/:key', (request, response) => {
    const source = found(request.params.id);
    if (source.kind !== 'typed')
      throw new Refusal(400, 'Only rows that were typed in can be deleted one by one.');
    if (!store.entries.drop(source.id, request.params.key))
      throw new Refusal(404, 'There is no such row.');
    store.sources.touched(source.id, now().toISOString());
    changed(source);
    response.status(204).end();
  });

  router.get('/imports/:id', (request, response) => {
    response.json(imports.summary(imports.find(request.params.id)));
  });
  router.post('/imports/:id/look', (request, response) => {
    const { settings } = LookAgain.parse(request.body);
    response.json(imports.look(request.params.id, settings));
  });
  router.get('/imports/:id/look', (request, response) => {
    response.json(imports.look(request.params.id));
  });
  /** Begins to check; how far it is comes as news. */
  router.post('/imports/:id/check', (request, response) => {
    const asked = CheckImport.parse(request.body);
    void imports.check(request.params.id, asked);
    response.status(202).json(imports.summary(imports.find(request.params.id)));
  });
  router.post('/imports/:id/stop', (request, response) => {
    imports.stop(request.params.id);
    response.status(202).json(imports.summary(imports.find(request.params.id)));
  });
  router.delete('/imports/:id', (request, response) => {
    imports.discard(request.params.id);
    response.status(204).end();
  });
  router.get('/imports/:id/rows', (request, response) => {
    const { offset, limit } = Paging.parse(request.query);
    const outcome = ImportOutcome.parse(request.query['outcome']);
    const one = imports.find(request.params.id);
    const found: ImportRow[] = importRows(services, one, outcome, limit, offset);
    response.json({ rows: found });
  });
  router.get('/imports/:id/rejected.csv', async (request, response) => {
    await rejectedCsv(imports.find(request.params.id), response);
  });
  router.post('/imports/:id/apply', async (request, response) => {
    const one = await imports.apply(request.params.id);
    const source = found(one.source);
    if (source.kind === 'address' && source.next_fetch_at === null)
      store.sources.nextFetch(source.id, nextFetch(source.every_minutes, now()));
    response.json(imports.summary(one));
  });
  router.post('/imports/:id/undo', async (request, response) => {
    response.json(imports.summary(await imports.undo(request.params.id)));
  });
  return router;
}
