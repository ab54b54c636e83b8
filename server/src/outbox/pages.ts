import type { MailSettings } from '@carafe/contract';
import type { Cart, Order, ShopEvent } from '@carafe/core/record';
import express, { Router, type Request, type Response } from 'express';
import { simpleParser } from 'mailparser';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { errorHandler } from '../http/errors';
import type { PeopleRepository } from '../people/repository';
import type { ShopsRepository } from '../shops/repository';
import type { TemplatesRepository } from '../templates/repository';
import { linkMeant, standInOf } from './links';
import { PAGE_POLICY, pagesInStyle } from './page';
import { aboutOf, type OutboxRepository, type OutboxRow } from './repository';

interface Given {
  store: Pick<Store, 'write'>;
  outbox: OutboxRepository;
  people: Pick<PeopleRepository, 'tokens' | 'signer' | 'idOf' | 'data'>;
  shops: Pick<ShopsRepository, 'find'>;
  templates: Pick<TemplatesRepository, 'styleOf'>;
  settings: () => MailSettings;
  take: (events: ShopEvent[]) => Promise<unknown>;
  now: () => Date;
  newId: () => string;
  log: Logger;
}

const DAY = 86_400_000;
/** A transparent picture of one pixel. */
const PIXEL = Buffer.from('R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7', 'base64');
/** What recipients see when they follow a link of a mail. All links are signed; none holds an address. */
export function homeRoutes(given: Given): Router {
  const { store, outbox, people, shops, templates, settings, take, now, newId, log } = given;
  const { page, cutOff } = pagesInStyle((shop) => templates.styleOf(shop));
  const router = Router();
  const form = express.urlencoded({ extended: false, limit: 10_000 });

  /** Whom a link is for; answers by itself where it is none of ours. */
  const personOf = (request: Request, response: Response) => {
    const of = people.tokens.read(String(request.params['token'] ?? ''));
    if (of) return { ...of, shop: shops.find(of.shop), id: of.shop };
    cutOff(response);
    return null;
  };
  /** The mail that a link stands in; answers by itself where the link is made up, or too old. */
  const mailOf = (text: string | null, response: Response): OutboxRow | null => {
    const row = text === null ? null : outbox.find(text);
    if (!row) {
      cutOff(response);
      return null;
    }
    const made = Date.parse(row.sent_at ?? row.made_at);
    if (now().getTime() - made <= settings().links_days * DAY) return row;
    page(
      response,
      'This link is too old',
      shops.find(row.shop),
      '<p>Links of mails work for a while only. You find the shop at its own address.</p>',
      410,
    );
    return null;
  };
  const consent = (shop: string, email: string, agrees: boolean, how: string) =>
    take([
      {
        ...{ id: newId(), at: now().toISOString(), shop, email },
        ...{ kind: 'consent_changed', consent: agrees, how },
      },
    ]);
  const agreesNow = (shop: string, email: string): boolean => {
    const id = people.idOf(shop, email);
    const [found] = id === null ? [] : people.data(shop, [id]);
    return (found?.data.person as { consent?: unknown } | undefined)?.consent === true;
  };
  const LEFT =
    '<p>You get no more letters from us. Mails about your orders still come: they are part of the order.</p>';

  router.get('/mail/unsubscribe/:token', (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    if (!agreesNow(of.id, of.email)) page(response, 'You are unsubscribed', of.shop, LEFT);
    else
      page(
        response,
        'No more letters?',
        of.shop,
        '<p>One click, and no more letters come to you.</p><form method="post"><button>Unsubscribe</button></form>',
      );
  });
  router.post('/mail/unsubscribe/:token', form, async (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    const oneClick = (request.body as Record<string, unknown> | undefined)?.['List-Unsubscribe'];
    await consent(
      of.id,
      of.email,
      false,
      oneClick ? 'unsubscribed in one click' : 'unsubscribe link',
    );
    page(response, 'You are unsubscribed', of.shop, LEFT);
  });
  router.get('/mail/preferences/:token', (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    const agrees = agreesNow(of.id, of.email);
    const choice = (value: string, label: string, is: boolean) =>
      `<label><input type="radio" name="letters" value="${value}"${is ? ' checked' : ''}> ${label}</label>`;
    page(
      response,
      'What may we write to you?',
      of.shop,
      `<form method="post">${choice('yes', 'Letters and mails about my orders', agrees)}${choice('no', 'Only mails about my orders', !agrees)}<button>Save</button></form>`,
    );
  });
  router.post('/mail/preferences/:token', form, async (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    const { letters } = (request.body ?? {}) as Record<string, unknown>;
    if (letters === 'yes' || letters === 'no')
      await consent(of.id, of.email, letters === 'yes', 'preferences page');
    page(
      response,
      'Saved',
      of.shop,
      letters === 'yes' ? '<p>Letters come to you, and mails about your orders.</p>' : LEFT,
    );
  });
  router.get('/mail/view/:signed', async (request, response) => {
    const row = mailOf(people.signer.read(request.params.signed), response);
    if (!row) return;
    const kept = outbox.source(row.id);
    if (!kept) {
      page(response, 'This mail is not kept any more', shops.find(row.shop), '');
      return;
    }
    const { html } = await simpleParser(kept.source, { skipImageLinks: true });
    response.set('content-security-policy', PAGE_POLICY).set('cache-control', 'no-store');
    response.type('html').send(html || '');
  });
  router.get('/mail/open/:signed.gif', async (request, response) => {
    const id = people.signer.read(request.params.signed);
    if (id !== null && settings().count_opens)
      await store.write(() => outbox.opened(id, now().toISOString()));
    response.set('cache-control', 'no-store').type('gif').send(PIXEL);
  });
  router.get('/go/:signed{/:number}', async (request, response) => {
    const link = linkMeant(people.signer.read(request.params.signed), request.params.number);
    const row = mailOf(link?.mail ?? null, response);
    if (!row || !link) return;
    // Only what stood in that very mail is followed.
    const address = outbox.links(row.id)?.[Number(link.number)];
    if (address === undefined) {
      page(
        response,
        'This link does not work',
        shops.find(row.shop),
        '<p>It is not of this mail.</p>',
        404,
      );
      return;
    }
    if (settings().count_clicks)
      await store.write(() => outbox.clicked(row.id, now().toISOString()));
    response.set('cache-control', 'no-store').redirect(302, homeOf(address, row) ?? address);
  });
  /** The way into the stand-in shop, where the address is of one. */
  const homeOf = (address: string, row: OutboxRow): string | null => {
    const standIn = standInOf(address);
    if (!standIn) return null;
    const kept = people.signer.make(row.id);
    const query = new URLSearchParams({ shop: standIn.shop });
    if (standIn.path.startsWith('/cart')) query.set('cart', kept);
    else if (standIn.path.startsWith('/orders')) query.set('order', kept);
    else query.set('at', address);
    return `/shop?${query.toString()}`;
  };
  router.get('/shop/kept/:signed.json', (request, response) => {
    const id = people.signer.read(request.params.signed);
    const mail = id === null ? null : outbox.find(id);
    // Only what the stand-in shops would know of their own: of real shops nothing is told to whoever holds a mail.
    const row = mail && standInOf(shops.find(mail.shop)?.url ?? '') ? mail : null;
    const person = row && people.idOf(row.shop, row.email);
    const [found] = row && person !== null ? people.data(row.shop, [person]) : [];
    if (!row || !found) {
      response.status(404).json({ error: { message: 'The shop does not know this link.' } });
      return;
    }
    const { shopper, person: fields } = found.data;
    const about = aboutOf(row);
    const cart: Cart | null = shopper.cart;
    const order: Order | undefined =
      shopper.orders.find(({ number }) => number === about.order) ?? shopper.orders.at(-1);
    const { first_name } = fields as { first_name?: string };
    response.set('cache-control', 'no-store').json({
      ...{ email: row.email, first_name: first_name ?? '', cart: cart?.lines ?? [] },
      order: order ?? null,
    });
  });
  // Whoever comes from a mail sees a page, never the tool and never what a program would read.
  router.use(['/mail', '/go'], (_request, response) => cutOff(response));
  router.use(
    ['/mail', '/go'],
    errorHandler(log, (response, status) => {
      if (status < 500) cutOff(response, status);
      else
        page(
          response,
          'This did not work just now',
          null,
          '<p>Nothing was changed. Try it again in a few minutes.</p>',
          status,
        );
    }),
  );
  return router;
}
