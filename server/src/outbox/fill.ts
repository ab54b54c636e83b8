import { sayCut } from '@carafe/core/check';
import type { Fields } from '@carafe/core/formula';
import {
  formulasOf,
  besideLater,
  guardsBefore,
  mailKey,
  mayMail,
  REASONS,
  sendsOf,
  shopperAbout,
  startKind,
  type Occasion,
  type Reason,
} from '@carafe/core/occasion';
import { assembleRecord, reviveRecord, type PersonData } from '@carafe/core/record';
import type { Store } from '../database/store';
import type { Job } from '../jobs/jobs';
import { carriedAddress } from '../mail/address';
import type { PlanParts } from '../occasions/plans';
import { asKnown, shopMoments, type MomentParts, type ShopMoments } from '../occasions/shopMoments';
import type { StatesRepository } from '../occasions/statesRepository';
import type { PeopleRepository } from '../people/repository';
import { picksOfMany } from '../recommend/picks';
import type { ReadyTask } from '../recommend/ready';
import { packsOf } from './kept';
import { messageFor, type FilledMail, type MessageTask } from './message';
import {
  Hold,
  publishedTemplate,
  Stop,
  type PublishedParts,
  type PublishedTemplate,
} from './published';
import type { WentRepository } from './wentRepository';
import { aboutOf, REFUSED_BEFORE, type OutboxRepository, type OutboxRow } from './repository';

export interface FillMailsTask extends MessageTask {
  ids: string[];
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
    people: Pick<PeopleRepository, 'ofEmails' | 'signer'>;
    outbox: Pick<
      OutboxRepository,
      'find' | 'findKey' | 'some' | 'fill' | 'move' | 'refusedAddress' | 'shownTo'
    >;
    went: Pick<WentRepository, 'isOneTooMany'>;
    occasions: PlanParts;
    states: Pick<StatesRepository, 'get'>;
  };

/** Whom a mail goes to. */
type Found = { id: number; data: PersonData };

/** So many mails are read from the database, packed, and written to it, at a time. */
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
  private readonly documents = new Map<string, Occasion | null>();

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
    const asked = { ...step, mode: 'on' as const };
    return (
      mayMail(asked, { mails: [] }, moment) ??
      parts.went.isOneTooMany(row, parts.shopRules.get(row.shop), task.now)
    );
  }

  /** Whether the person opened another mail of this way, or followed one of its links. */
  private reactedTo(
    { shop, email, cause, occasion: id, step }: OutboxRow,
    occasion: Occasion | null,
  ) {
    const others = occasion ? sendsOf(occasion).filter((one) => one.id !== step) : [];
    const rows = others.map((one) =>
      this.parts.outbox.findKey(shop, email, mailKey(id, cause, one.id)),
    );
    return {
      opened: rows.some((row) => Boolean(row?.opened_at)),
      clicked: rows.some((row) => Boolean(row?.clicked_at)),
    };
  }

  private picksTask(shop: string): ReadyTask {
    return this.task.picks[shop] ?? asKnown(shop, this.task.now);
  }

  private addressOf(row: OutboxRow, data: PersonData, fromEmail: string): string {
    if (fromEmail === '')
      throw new Stop('Its template has no sender’s address that a mail can be from.');
    const meant =
      row.recipient === 'owner'
        ? fromEmail
        : String((data.person as Fields & { email?: unknown }).email ?? row.email);
    const to = carriedAddress(meant);
    if (to === null) throw new Stop(`“${meant.slice(0, 80)}” is no address that a mail can go to.`);
    const refused = this.parts.outbox.refusedAddress(to.toLowerCase());
    if (refused !== null) throw new Stop(`${REFUSED_BEFORE}: ${refused}`);
    return to;
  }

  /** Those whom mails go to, by shop and address. */
  whom(rows: readonly OutboxRow[]): (row: OutboxRow) => Found | undefined {
    const shops = new Map<string, ReturnType<FillMailsParts['people']['ofEmails']>>();
    for (const shop of new Set(rows.map((row) => row.shop))) {
      const emails = rows.flatMap((row) => (row.shop === shop ? row.email : []));
      shops.set(shop, this.parts.people.ofEmails(shop, emails));
    }
    return ({ shop, email }) => shops.get(shop)?.get(email);
  }

  private occasionOf({ occasion, version }: OutboxRow): Occasion | null {
    const key = `${occasion} ${version}`;
    let known = this.documents.get(key);
    if (known === undefined) {
      known = this.parts.occasions.document(occasion, version);
      this.documents.set(key, known);
    }
    return known;
  }

  /** Fills one mail for whom it goes to; throws a Stop that says why it does not go. */
  async fill(row: OutboxRow, found: Found | undefined): Promise<FilledMail> {
    const { parts, task } = this;
    if (!found) throw new Stop('This person is not known any more.');
    const { id } = found;
    const ready = await this.ready(row.template);
    if (!ready.shared) throw new Stop('Its shop is not there any more.');
    const about = aboutOf(row);
    const data: PersonData = { ...found.data, shopper: shopperAbout(found.data.shopper, about) };
    const occasion = this.occasionOf(row);
    const beside = besideLater(
      reviveRecord(JSON.parse(row.beside)) as Fields,
      { about, made: Date.parse(row.made_at), shopper: found.data.shopper },
      () => this.reactedTo(row, occasion),
    );
    // Guards and the mail may both ask what rules pick: they are asked once.
    const asked = { ...this.picksTask(row.shop), ids: [id] };
    const picks = once(() => picksOfMany(parts, asked)[id]);
    const why = this.lost(row, occasion, data, picks, beside);
    if (why) throw new Stop(`${REASONS[why]}.`);
    const to = this.addressOf(row, data, ready.fromEmail);
    const filledFor = ready.picks ? withThose(data, picks()) : data;
    const { products, reads } = ready;
    const product = about.sku === undefined ? undefined : products.get(about.sku);
    const record = {
      ...assembleRecord(filledFor, ready.shared, products, { reads }),
      ...beside,
      ...(product && { product }),
      links: this.linksOf(row, data),
    };
    const asOf = new Date(task.now);
    const rendered = ready.render(record, { asOf });
    if (rendered.held)
      throw new Stop('The envelope of the template says that this person gets none.');
    if (rendered.cut) throw new Stop(sayCut(ready.template, rendered.cut));
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
}

/** Fills what waits; a mail that may not go is stopped with its reason. Gives how many are ready. */
export async function fillMails(
  store: Store,
  parts: FillMailsParts,
  task: FillMailsTask,
): Promise<number> {
  const filler = new Filler(parts, task);
  let ready = 0;
  for (let from = 0; from < task.ids.length; from += SLICE) {
    const rows = parts.outbox.some(task.ids.slice(from, from + SLICE));
    const whom = filler.whom(rows);
    const filled: ReturnType<typeof messageFor>[] = [];
    const ended: { id: string; reason: string; state: 'stopped' | 'held' }[] = [];
    for (const row of rows) {
      if (row.state !== 'waiting') continue;
      try {
        filled.push(messageFor(parts.people.signer, task, row, await filler.fill(row, whom(row))));
      } catch (error) {
        if (!(error instanceof Stop) && !(error instanceof Hold)) throw error;
        const state = error instanceof Hold ? 'held' : 'stopped';
        ended.push({ id: row.id, state, reason: error.message });
      }
    }
    if (filled.length + ended.length === 0) continue;
    const packs = packsOf(filled);
    await store.write(() => {
      for (const { id, state, reason } of ended) parts.outbox.move(id, 'waiting', state, reason);
      for (const pack of packs) ready += parts.outbox.fill(pack, task.now);
    });
  }
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
    const { rendered } = await filler.fill(row, filler.whom([row])(row));
    const { subject, html, text } = rendered.mail;
    return { subject, html, text, trail: rendered.trail ?? [], stopped: null };
  } catch (error) {
    if (!(error instanceof Stop) && !(error instanceof Hold)) throw error;
    return { subject: '', html: '', text: '', trail: [], stopped: error.message };
  }
}
