import { createHash } from 'node:crypto';
import type { MailSettings } from '@carafe/contract';
import type { Fields } from '@carafe/core/formula';
import {
  guardsBefore,
  mayMail,
  REASONS,
  sendsOf,
  shopperAbout,
  startKind,
  type Occasion,
  type Reason,
} from '@carafe/core/occasion';
import { assembleRecord, reviveRecord, type PersonData } from '@carafe/core/record';
import type { Mail } from '@carafe/core/render';
import type { Store } from '../database/store';
import type { Job } from '../jobs/jobs';
import { formulasOf, type PlanParts } from '../occasions/plans';
import { asKnown, shopMoments, type MomentParts, type ShopMoments } from '../occasions/shopMoments';
import type { StatesRepository } from '../occasions/statesRepository';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany } from '../recommend/picks';
import type { ReadyTask } from '../recommend/ready';
import { rewriteLinks, standInOf, withPixel } from './links';
import { mimeOf } from './mime';
import {
  Hold,
  publishedTemplate,
  Stop,
  type PublishedParts,
  type PublishedTemplate,
} from './published';
import { aboutOf, type OutboxRepository, type OutboxRow } from './repository';

export interface FillMailsTask {
  ids: string[];
  /** Milliseconds. */
  now: number;
  settings: MailSettings;
  /** Where links in mails lead to Carafe. */
  base: string;
  /** By shop: what picks count until. */
  picks: Record<string, ReadyTask>;
}
export interface OutboxJobs {
  /** Gives how many are ready to be sent. */
  fillMails: Job<FillMailsTask, number>;
  /** A mail as it would be filled now; or why it would not go. */
  peekMail: Job<FillMailsTask, PeekedMail | null>;
}
export interface PeekedMail {
  subject: string;
  html: string;
  text: string;
  trail: unknown;
  /** Why it would be stopped. */
  stopped: string | null;
}

export type FillMailsParts = PublishedParts &
  MomentParts &
  Parameters<typeof picksOfMany>[0] & {
    people: Pick<PeopleRepository, 'data' | 'idOf' | 'signer'>;
    outbox: Pick<OutboxRepository, 'find' | 'fill' | 'move' | 'refusedAddress' | 'shownTo'>;
    occasions: PlanParts;
    states: Pick<StatesRepository, 'get'>;
  };

const ADDRESS = /^[^\s@<>(),;:"\\]+@[^\s@<>(),;:"\\]+$/;
/** So many mails are written to the database at a time. */
const SLICE = 50;

/** A value that is worked out when it is first asked for. */
function once<T>(work: () => T): () => T {
  let done: { value: T } | null = null;
  return () => (done ??= { value: work() }).value;
}

const withThose = (data: PersonData, picks: PersonData['picks']): PersonData =>
  picks ? { ...data, picks } : data;

/** Fills mails of the outbox: with what is true now, from what is published now. */
class Filler {
  private readonly templates = new Map<string, Promise<PublishedTemplate>>();
  private readonly shops = new Map<string, ShopMoments | null>();

  constructor(
    private readonly parts: FillMailsParts,
    private readonly task: FillMailsTask,
  ) {}

  private ready(id: string): Promise<PublishedTemplate> {
    const known = this.templates.get(id);
    if (known) return known;
    const made = publishedTemplate(this.parts, id, new Date(this.task.now));
    this.templates.set(id, made);
    return made;
  }

  /** Why a mail may not go any more, though it was made; null where it may. */
  private lost(
    row: OutboxRow,
    occasion: Occasion | null,
    bare: PersonData,
    picks: () => PersonData['picks'],
    beside: Fields,
  ): Reason | null {
    const { parts, task } = this;
    const step = occasion && sendsOf(occasion).find(({ id }) => id === row.step);
    if (!occasion || !step) return null;
    let shop = this.shops.get(row.shop);
    if (shop === undefined) {
      shop = shopMoments(parts, row.shop, new Date(task.now), { formulas: formulasOf(occasion) });
      this.shops.set(row.shop, shop);
    }
    if (!shop) return null;
    const data = shop.asksPicks ? withThose(bare, picks()) : bare;
    const moment = shop.moments.moment({ data, at: task.now });
    const about = aboutOf(row);
    const { stands } = startKind(occasion.start.kind);
    if (stands && !stands(occasion.start, moment, about)) return 'gone';
    const guards = guardsBefore(occasion.steps, row.step) ?? [];
    if (guards.some(({ when, otherwise }) => otherwise === 'stop' && !moment.holds(when, beside)))
      return 'guard';
    // Its own making is among the mails of the day already.
    const asked = { ...step, mode: 'on' as const };
    return mayMail(asked, { mails: [] }, moment);
  }

  private picksTask(shop: string): ReadyTask {
    return this.task.picks[shop] ?? asKnown(shop, this.task.now);
  }

  private addressOf(row: OutboxRow, data: PersonData, fromEmail: string): string {
    if (!ADDRESS.test(fromEmail))
      throw new Stop('Its template has no sender’s address that a mail can be from.');
    const to =
      row.recipient === 'owner'
        ? fromEmail
        : String((data.person as Fields & { email?: unknown }).email ?? row.email);
    if (!ADDRESS.test(to) || to.length > 254)
      throw new Stop(`“${to.slice(0, 80)}” is no address that a mail can go to.`);
    const refused = this.parts.outbox.refusedAddress(to.toLowerCase());
    if (refused !== null) throw new Stop(`The address was refused before: ${refused}`);
    return to;
  }

  /** Fills one mail; throws a Stop that says why it does not go. */
  async fill(row: OutboxRow) {
    const { parts, task } = this;
    const id = parts.people.idOf(row.shop, row.email);
    const [found] = id === null ? [] : parts.people.data(row.shop, [id]);
    if (id === null || !found) throw new Stop('This person is not known any more.');
    const ready = await this.ready(row.template);
    if (!ready.shared) throw new Stop('Its shop is not there any more.');
    const about = aboutOf(row);
    const data: PersonData = { ...found.data, shopper: shopperAbout(found.data.shopper, about) };
    const beside = reviveRecord(JSON.parse(row.beside)) as Fields;
    const occasion = parts.occasions.document(row.occasion, row.version);
    // Guards and the mail may both ask what rules pick: they are asked once.
    const asked = { ...this.picksTask(row.shop), ids: [id] };
    const picks = once(() => picksOfMany(parts, asked)[id]);
    const why = this.lost(row, occasion, data, picks, beside);
    if (why) throw new Stop(`${REASONS[why]}.`);
    const to = this.addressOf(row, data, ready.fromEmail);
    const filledFor = ready.picks ? withThose(data, picks()) : data;
    const { products } = ready;
    const product = about.sku === undefined ? undefined : products.get(about.sku);
    const record = {
      ...assembleRecord(filledFor, ready.shared, products),
      ...beside,
      ...(product && { product }),
      links: this.linksOf(row, data),
    };
    const asOf = new Date(task.now);
    const rendered = ready.render(record, { asOf });
    if (rendered.held)
      throw new Stop('The envelope of the template says that this person gets none.');
    const consent = (data.person as { consent?: unknown }).consent === true;
    return { rendered, to, ready, tracked: consent && row.recipient === 'person' };
  }

  /** Links to Carafe’s own pages, signed and without an address. */
  private linksOf(row: OutboxRow, data: PersonData): Fields {
    const { base } = this.task;
    const token = encodeURIComponent(data.token ?? '');
    const own = encodeURIComponent(this.parts.people.signer.make(row.id));
    return {
      unsubscribe: `${base}/mail/unsubscribe/${token}`,
      preferences: `${base}/mail/preferences/${token}`,
      view_in_browser: `${base}/mail/view/${own}`,
    } as Fields;
  }

  /** The message of a filled mail, its links led through Carafe where they are counted or lead to a stand-in. */
  message(row: OutboxRow, filled: Awaited<ReturnType<Filler['fill']>>) {
    const { task, parts } = this;
    const { rendered, to, ready, tracked } = filled;
    const { mail } = rendered;
    const { settings, base } = task;
    const counts = tracked && settings.count_clicks;
    const isOwn = (address: string) => address.startsWith(`${base}/`);
    const { html, text, links } = rewriteLinks(
      mail.html,
      mail.text,
      (address) => !isOwn(address) && (counts || standInOf(address) !== null),
      (number) => `${base}/go/${parts.people.signer.make(`${row.id}.${number}`)}`,
    );
    const opens = tracked && settings.count_opens;
    const pixel = `${base}/mail/open/${parts.people.signer.make(row.id)}.gif`;
    const domain = ready.fromEmail.split('@')[1] ?? 'carafe.example';
    const name = createHash('sha256').update(row.key).digest('hex').slice(0, 32);
    const messageId = `<${name}@${domain}>`;
    const source = mimeOf({
      ...{ from: { name: mail.from, address: ready.fromEmail }, to, subject: mail.subject },
      ...{ date: new Date(task.now), messageId, text },
      html: opens ? withPixel(html, pixel) : html,
      headers: headersOf(mail, row, base),
    });
    return {
      ...{ id: row.id, subject: mail.subject, to, messageId, source, links },
      trail: rendered.trail ?? [],
      shown: rendered.products ?? [],
      tracked: counts || opens,
      published: ready.number,
    };
  }
}

/** A marketing mail says how to leave, and mail programs do it with one click (RFC 8058). */
function headersOf(mail: Mail, row: OutboxRow, base: string): Record<string, string> {
  if (row.mail !== 'marketing' || row.recipient === 'owner') return {};
  const link = /<(https?:[^>]+)>/.exec(mail.headers['List-Unsubscribe'] ?? '')?.[1] ?? null;
  const own = new RegExp(
    `${base.replace(/[.*+?^${}()|[\]\\]/g, '\\$&')}/mail/unsubscribe/[A-Za-z0-9_%-]+`,
  );
  const address = link ?? own.exec(mail.html)?.[0];
  return address
    ? {
        'List-Unsubscribe': `<${address}>`,
        'List-Unsubscribe-Post': 'List-Unsubscribe=One-Click',
      }
    : {};
}

/** Fills what waits; a mail that may not go is stopped with its reason. Gives how many are ready. */
export async function fillMails(
  store: Store,
  parts: FillMailsParts,
  task: FillMailsTask,
): Promise<number> {
  const filler = new Filler(parts, task);
  type Ended = { id: string; reason: string; state: 'stopped' | 'held' };
  type Outcome = Ended | ReturnType<Filler['message']>;
  let done: Outcome[] = [];
  let ready = 0;
  const write = async () => {
    const some = done;
    done = [];
    await store.write(() => {
      for (const one of some)
        if ('reason' in one) parts.outbox.move(one.id, 'waiting', one.state, one.reason);
        else if (parts.outbox.fill(one)) ready++;
    });
  };
  for (const id of task.ids) {
    const row = parts.outbox.find(id);
    if (!row || row.state !== 'waiting') continue;
    try {
      done.push(filler.message(row, await filler.fill(row)));
    } catch (error) {
      if (!(error instanceof Stop) && !(error instanceof Hold)) throw error;
      const state = error instanceof Hold ? 'held' : 'stopped';
      done.push({ id, state, reason: error.message });
    }
    if (done.length >= SLICE) await write();
  }
  await write();
  return ready;
}

/** How a mail that is not filled yet would be, were it to go now. */
export async function peekMail(
  parts: FillMailsParts,
  task: FillMailsTask,
): Promise<PeekedMail | null> {
  const row = parts.outbox.find(task.ids[0] ?? '');
  if (!row) return null;
  const filler = new Filler(parts, task);
  try {
    const { rendered } = await filler.fill(row);
    const { subject, html, text } = rendered.mail;
    return { subject, html, text, trail: rendered.trail ?? [], stopped: null };
  } catch (error) {
    if (!(error instanceof Stop) && !(error instanceof Hold)) throw error;
    return { subject: '', html: '', text: '', trail: [], stopped: error.message };
  }
}
