import type { MailSettings } from '@carafe/contract';
import type { Cart, Order, ShopEvent } from '@carafe/core/record';
import express, { Router, type Request, type Response } from 'express';
import { simpleParser } from 'mailparser';
import type { Logger } from 'pino';
import type { Store } from '../database/store';
import { errorHandler } from '../http/errors';
import type { LinkKind } from '../people/mailToken';
import type { PeopleRepository } from '../people/repository';
import type { ShopsRepository } from '../shops/repository';
import type { TemplatesRepository } from '../templates/repository';
import { linkMeant, standInOf } from './links';
import { PAGE_POLICY, pagesInStyle } from './page';
import type { PageSentence } from './pageWords';
import { type OutboxRepository } from './repository';
import { aboutOf, type OutboxRow } from './row';

interface Given {
  store: Pick<Store, 'write'>;
  outbox: OutboxRepository;
  people: Pick<PeopleRepository, 'tokens' | 'signer' | 'linksByKindSince' | 'idOf' | 'data'>;
  shops: Pick<ShopsRepository, 'find'>;
  templates: Pick<TemplatesRepository, 'styleOf'>;
  settings: () => MailSettings;
  take: (events: ShopEvent[]) => Promise<unknown>;
  now: () => Date;
  newId: () => string;
  log: Logger;
}

const DAY = 86_400_000;
/** An opening says something for so long; the way back to a cart leads there for so long. */
const PIXEL_DAYS = 90;
const KEPT_DAYS = 60;
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
  const isFresh = ({ sent_at, made_at }: OutboxRow, days: number): boolean =>
    now().getTime() - Date.parse(sent_at ?? made_at) <= days * DAY;
  /** The mail that is signed for a kind of link; the one signature of old mails is that of old mails alone. */
  const signedFor = (kind: LinkKind, text: string): string | null => {
    const signed = people.signer.read(kind, text);
    if (!signed) return null;
    if (!signed.isOld) return signed.text;
    const made = outbox.find(signed.text)?.made_at;
    return made !== undefined && made < people.linksByKindSince ? signed.text : null;
  };
  /** The mail that a link stands in; answers by itself where the link is made up, or too old. */
  const mailOf = (id: string | null, response: Response): OutboxRow | null => {
    const row = id === null ? null : outbox.find(id);
    if (!row) {
      cutOff(response);
      return null;
    }
    if (isFresh(row, settings().links_days)) return row;
    page(
      response,
      'linkIsTooOld',
      shops.find(row.shop),
      (say) => `<p>${say('linksWorkForALimitedTime')}</p>`,
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
  const left = (say: (sentence: PageSentence) => string) => `<p>${say('noMoreNewsletters')}</p>`;

  router.get('/mail/unsubscribe/:token', (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    if (!agreesNow(of.id, of.email)) page(response, 'unsubscribed', of.shop, left);
    else
      page(
        response,
        'askUnsubscribe',
        of.shop,
        (say) =>
          `<p>${say('clickToStop')}</p><form method="post"><button>${say('unsubscribe')}</button></form>`,
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
    page(response, 'unsubscribed', of.shop, left);
  });
  router.get('/mail/preferences/:token', (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    const agrees = agreesNow(of.id, of.email);
    const choice = (value: string, label: string, is: boolean) =>
      `<label><input type="radio" name="letters" value="${value}"${is ? ' checked' : ''}> ${label}</label>`;
    page(
      response,
      'whichEmails',
      of.shop,
      (say) =>
        `<form method="post">${choice('yes', say('newslettersAndOrders'), agrees)}${choice('no', say('onlyOrders'), !agrees)}<button>${say('save')}</button></form>`,
    );
  });
  router.post('/mail/preferences/:token', form, async (request, response) => {
    const of = personOf(request, response);
    if (!of) return;
    const { letters } = (request.body ?? {}) as Record<string, unknown>;
    if (letters !== 'yes' && letters !== 'no') {
      page(response, 'nothingWasChanged', of.shop, (say) => `<p>${say('chooseOneOfTwo')}</p>`, 400);
      return;
    }
    await consent(of.id, of.email, letters === 'yes', 'preferences page');
    page(
      response,
      'saved',
      of.shop,
      letters === 'yes' ? (say) => `<p>${say('newslettersFromNowOn')}</p>` : left,
    );
  });
  router.get('/mail/view/:signed', async (request, response) => {
    const row = mailOf(signedFor('view', request.params.signed), response);
    if (!row) return;
    const kept = outbox.source(row.id);
    if (!kept) {
      page(response, 'emailIsGone', shops.find(row.shop), () => '');
      return;
    }
    const { html } = await simpleParser(kept.source, { skipImageLinks: true });
    response.set('content-security-policy', PAGE_POLICY).set('cache-control', 'no-store');
    response.type('html').send(html || '');
  });
  router.get('/mail/open/:signed.gif', async (request, response) => {
    const id = signedFor('open', request.params.signed);
    const row = id === null ? null : outbox.find(id);
    // Who only asks whether it is there has not opened anything.
    const isMeant = row !== null && request.method === 'GET' && isFresh(row, PIXEL_DAYS);
    if (isMeant && settings().count_opens)
      await store.write(() => outbox.opened(row.id, now().toISOString()));
    response
      .set('cross-origin-resource-policy', 'cross-origin')
      .set('cache-control', 'no-store')
      .type('gif')
      .send(PIXEL);
  });
  router.get('/go/:signed{/:number}', async (request, response) => {
    const link = linkMeant(people.signer.read('go', request.params.signed), request.params.number);
    const row = mailOf(link?.mail ?? null, response);
    if (!row || !link) return;
    // Only what stood in that very mail is followed.
    const address = outbox.links(row.id)?.[Number(link.number)];
    if (address === undefined) {
      page(
        response,
        'linkDoesNotWork',
        shops.find(row.shop),
        (say) => `<p>${say('linkIsNotOfThisEmail')}</p>`,
        404,
      );
      return;
    }
    if (settings().count_clicks && request.method === 'GET')
      await store.write(() => outbox.followed(row.id, Number(link.number), now().getTime()));
    response.set('cache-control', 'no-store').redirect(302, homeOf(address, row) ?? address);
  });
  /** The way into the stand-in shop, where the address is of one. */
  const homeOf = (address: string, row: OutboxRow): string | null => {
    const standIn = standInOf(address);
    if (!standIn) return null;
    const kept = people.signer.make('kept', row.id);
    const query = new URLSearchParams({ shop: standIn.shop });
    if (standIn.path.startsWith('/cart')) query.set('cart', kept);
    else if (standIn.path.startsWith('/orders')) query.set('order', kept);
    else query.set('at', address);
    return `/shop?${query.toString()}`;
  };
  router.get('/shop/kept/:signed.json', (request, response) => {
    const id = signedFor('kept', request.params.signed);
    const signed = id === null ? null : outbox.find(id);
    const mail = signed && isFresh(signed, KEPT_DAYS) ? signed : null;
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
          'somethingWentWrong',
          null,
          (say) => `<p>${say('tryAgainLater')}</p>`,
          status,
        );
    }),
  );
  return router;
}
