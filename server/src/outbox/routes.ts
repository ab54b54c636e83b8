import { ENDPOINTS, type OutboxItem, type OutboxQuery } from '@carafe/contract';
import { stringify } from 'csv-stringify';
import { Router, type Request, type Response } from 'express';
import { Zip, ZipPassThrough } from 'fflate';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setImmediate } from 'node:timers/promises';
import { mount } from '../http/mount';
import { Refusal } from '../http/errors';
import type { ShopsService } from '../shops/service';
import type { OutboxService } from './service';

const queryOf = (request: Request): OutboxQuery => {
  const read = ENDPOINTS.listOutbox.query?.safeParse(request.query);
  if (!read?.success) throw new Refusal(400, 'These outbox filters cannot be read.');
  const { limit: _l, offset: _o, ...query } = read.data;
  return query;
};

/** What begins like a formula of a spreadsheet is text there. */
const safeCell = (value: unknown): string => {
  const text = value === null || value === undefined ? '' : String(value as string | number);
  return /^[=+\-@\t\r]/.test(text) ? `'${text}` : text;
};
const COLUMNS = [
  ...([
    'id',
    'email',
    'to',
    'state',
    'reason',
    'subject',
    'occasion_name',
    'step',
    'mail',
  ] as const),
  ...([
    'template_name',
    'made_at',
    'next_at',
    'sent_at',
    'opened_at',
    'clicked_at',
    'attempts',
  ] as const),
] satisfies (keyof OutboxItem)[];

const FILES_MOST = 5_000;

export function outboxRoutes(outbox: OutboxService, shops: ShopsService): Router {
  const router = Router();
  mount(router, ENDPOINTS.listOutbox, ({ params, query }) =>
    outbox.list(shops.known(params.shop), query),
  );
  mount(router, ENDPOINTS.failedAddresses, ({ query: { q, limit, offset } }) =>
    outbox.failedAddresses(q, limit, offset),
  );
  mount(router, ENDPOINTS.allowAddress, async ({ body }) => {
    await outbox.allowAddress(body.email);
    return null as never;
  });
  mount(router, ENDPOINTS.outboxSummary, ({ params }) => outbox.summary(shops.known(params.shop)));
  mount(router, ENDPOINTS.changeOutbox, async ({ params, body: { to, ...which } }) => ({
    changed: await outbox.change(shops.known(params.shop), to, which),
  }));
  router.get('/outbox/:id.eml', (request, response) => {
    const { id = '' } = request.params;
    response.type('message/rfc822').attachment(`${id}.eml`).send(outbox.source(id));
  });
  mount(router, ENDPOINTS.readOutbox, ({ params }) => outbox.read(params.id));
  mount(router, ENDPOINTS.settleOutbox, async ({ params, body }) => {
    await outbox.settle(params.id, body.as);
    return null as never;
  });
  const rows = (request: Request) =>
    outbox.each(shops.known(String(request.params['shop'])), queryOf(request));
  router.get('/shops/:shop/outbox.csv', async (request, response) => {
    const all = rows(request);
    response.type('text/csv').attachment('outbox.csv');
    const cells = async function* () {
      for await (const row of all) yield COLUMNS.map((name) => safeCell(row[name]));
    };
    const csv = stringify({ header: true, columns: [...COLUMNS], record_delimiter: '\r\n' });
    await pipeline(Readable.from(cells()), csv, response);
  });
  router.get('/shops/:shop/outbox.ndjson', async (request, response) => {
    const all = rows(request);
    response.type('application/x-ndjson').attachment('outbox.ndjson');
    const lines = async function* () {
      for await (const row of all) yield `${JSON.stringify(row)}\n`;
    };
    await pipeline(Readable.from(lines()), response);
  });
  router.get('/shops/:shop/outbox.zip', (request, response) =>
    sendZip(rows(request), outbox, response),
  );
  return router;
}

/** The files of many mails, packed one after the other. */
async function sendZip(
  rows: AsyncGenerator<OutboxItem>,
  outbox: OutboxService,
  response: Response,
): Promise<void> {
  response.type('application/zip').attachment('mails.zip');
  const packed = async function* () {
    const chunks: Uint8Array[] = [];
    const zip = new Zip((error, chunk) => {
      if (error) throw error;
      chunks.push(chunk);
    });
    let count = 0;
    for await (const { id, state } of rows) {
      if (state === 'held' || state === 'waiting') continue;
      let source: Buffer;
      try {
        source = outbox.source(id);
      } catch (error) {
        if (error instanceof Refusal) continue; // stopped before it was filled, or not kept any more
        throw error;
      }
      const file = new ZipPassThrough(`${id}.eml`);
      zip.add(file);
      file.push(source, true);
      yield* chunks.splice(0);
      // A mail is unpacked and written in a moment: whoever else asks for something has their turn.
      await setImmediate();
      if (++count >= FILES_MOST) break;
    }
    zip.end();
    yield* chunks.splice(0);
  };
  await pipeline(Readable.from(packed()), response);
}
