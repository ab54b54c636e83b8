import {
  staysHere,
  type OutboxItem,
  type OutboxMail,
  type OutboxQuery,
  type OutboxSummary,
  type OutboxStory,
} from '@carafe/contract';
import type { Occasion } from '@carafe/core/occasion';
import { figure } from '@carafe/core/words';
import { simpleParser } from 'mailparser';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import type { Jobs } from '../jobs/jobs';
import type { LiveUpdates } from '../live/liveUpdates';
import type { MailSettingsRepository } from '../mail/settingsRepository';
import { sayEffect, sayerOf, valuesOf } from '../occasions/lines';
import type { OccasionsRepository } from '../occasions/repository';
import type { StatesRepository } from '../occasions/statesRepository';
import type { PeopleRepository } from '../people/repository';
import type { RulesService } from '../recommend/service';
import type { TemplatesRepository } from '../templates/repository';
import type { OutboxJobs } from './fill';
import { isRowOn } from './judge';
import type { OutboxPlace, OutboxWanted, PlacedRow } from './lists';
import { forgetOld, forgetTold } from './forget';
import type { OutboxLookJobs } from './looks';
import { endedByServer, STOPPED_BY_HAND, STOPPED_HELD, type OutboxRepository } from './repository';
import { type OutboxRow } from './row';
import type { Sender } from './sender';
import { unlessDamaged } from '../database/storedDocument';

interface Given {
  store: Pick<Store, 'write'>;
  outbox: OutboxRepository;
  occasions: OccasionsRepository;
  states: StatesRepository;
  templates: Pick<TemplatesRepository, 'find'>;
  people: Pick<PeopleRepository, 'idOf' | 'signer'>;
  mailSettings: MailSettingsRepository;
  rules: Pick<RulesService, 'task'>;
  jobs: Jobs<OutboxJobs & OutboxLookJobs>;
  sender: Sender;
  updates: LiveUpdates;
  now: () => Date;
  newId: () => string;
  self: () => string;
}

/** What can be approved or resumed stands in one state. */
const FROM = {
  approve: 'held',
  go_on: 'stopped',
  stop: undefined,
  try_again: 'bounced',
  count_as_sent: 'in_doubt',
  send_again: 'in_doubt',
  repeat: 'sent',
} as const;
type To = keyof typeof FROM;

/** Which mails are changed. */
interface Chosen {
  ids?: string[] | undefined;
  query?: OutboxQuery | undefined;
  even_off: boolean;
}

/** Whether a mail is filled only when it goes. */
const isToFill = ({ state }: OutboxRow): boolean => state === 'held' || state === 'waiting';

/** What is approved or stopped at once is read, and written, so many at a time; what is exported is read so. */
const SLICE = 500;

/** Every mail that was made: what it is, why, and what becomes of it. */
export class OutboxService {
  constructor(private readonly given: Given) {}

  /** Addresses that a mail server refused. */
  failedAddresses(search: string, limit: number, offset: number) {
    return this.given.outbox.failedAddresses(search, limit, offset);
  }

  /** Lets a refused address be written to again. What was not sent to it so far stays so. */
  async allowAddress(email: string): Promise<void> {
    const { store, outbox, updates } = this.given;
    await store.write(() => {
      if (!outbox.forgiveAddress(email.toLowerCase()))
        throw new Refusal(404, `“${email}” is not among the failed addresses.`);
    });
    updates.publish({ type: 'outbox' });
  }

  private found(id: string): OutboxRow {
    const row = this.given.outbox.find(id);
    if (!row) throw new Refusal(404, 'There is no such email in the outbox.');
    return row;
  }

  private occasion({ occasion, version }: OutboxRow): Occasion | null {
    return unlessDamaged(() => this.given.occasions.document(occasion, version));
  }

  /** Tells of mails; what occasions and templates are called is asked once for all of them. */
  private teller(): (row: OutboxRow) => OutboxItem {
    const occasions = new Map<string, string>();
    const templates = new Map<string, string>();
    const once = (known: Map<string, string>, key: string, find: () => string) => {
      const name = known.get(key) ?? find();
      known.set(key, name);
      return name;
    };
    return (row) => ({
      ...this.told(row),
      occasion_name: once(
        occasions,
        `${row.occasion} ${row.version}`,
        () => this.occasion(row)?.name ?? 'A deleted occasion',
      ),
      template_name: once(templates, row.template, () => this.templateName(row.template)),
    });
  }

  private item(row: OutboxRow): OutboxItem {
    return this.teller()(row);
  }

  private told(row: OutboxRow): Omit<OutboxItem, 'occasion_name' | 'template_name'> {
    const { id, email, recipient, mail, occasion, step, state, reason, subject, version } = row;
    const { made_at, next_at, sent_at, opened_at, clicked_at, to_address, attempts, template } =
      row;
    return {
      ...{ id, email, recipient, mail, occasion, step, state, reason, subject, version, template },
      ...{ made_at, sent_at, opened_at, clicked_at, to: to_address, attempts },
      next_at: new Date(next_at).toISOString(),
      name: row.name || null,
      test_only: row.test_only === 1,
      ended_by_server: endedByServer(row),
    };
  }

  private templateName(id: string): string {
    const found = unlessDamaged(() => this.given.templates.find(id))?.template as
      { name?: string } | undefined;
    return found?.name ?? 'A template that was deleted';
  }

  async list(
    shop: string,
    { limit, offset, ...query }: OutboxQuery & { limit: number; offset: number },
  ) {
    const wanted = { shop, ...query };
    const { total, rows } = await this.given.jobs.run('outboxPage', { wanted, limit, offset });
    return { total, mails: rows.map(this.teller()) };
  }

  /** Rows that are wanted, in the order of the list, some at a time. */
  private async *slices(wanted: OutboxWanted): AsyncGenerator<OutboxRow[]> {
    for (let last: OutboxPlace | null = null; ;) {
      const rows: PlacedRow[] = await this.given.jobs.run('outboxAfter', {
        ...{ wanted, last, most: SLICE },
      });
      if (rows.length > 0) yield rows;
      if (rows.length < SLICE) return;
      last = rows.at(-1) ?? null;
    }
  }

  /** All mails that are wanted, one after the other. */
  async *each(shop: string, query: OutboxQuery): AsyncGenerator<OutboxItem> {
    const tell = this.teller();
    for await (const rows of this.slices({ shop, ...query }))
      for (const row of rows) yield tell(row);
  }

  async summary(shop: string): Promise<OutboxSummary> {
    const { jobs, sender, mailSettings } = this.given;
    const { paused, until } = sender.state();
    return {
      ...(await jobs.run('outboxStates', { shop })),
      paused,
      paused_until: until === null ? null : new Date(until).toISOString(),
      stays_here: staysHere(mailSettings.get()),
    };
  }

  /** A mail: as it was sent, to the byte; one that is not filled yet, as it would be now. */
  async read(id: string): Promise<OutboxMail> {
    const row = this.found(id);
    const isOpen = isToFill(row);
    // What was filled before it was held is filled anew when it goes.
    const kept = isOpen ? null : this.given.outbox.source(id);
    const story = this.story(row);
    if (kept) {
      const { html, text, headerLines } = await simpleParser(kept.source, { skipImageLinks: true });
      return {
        ...{ item: this.item(row), story, html: html || '', text: text ?? '' },
        headers: headerLines.map(({ line }) => line).join('\n'),
        ...{ trail: kept.trail, filled: true, stopped: null, links: kept.links },
      };
    }
    const peeked = isOpen ? await this.peek(row) : null;
    return {
      ...{ item: { ...this.item(row), subject: peeked?.subject ?? row.subject }, story },
      ...{ html: peeked?.html ?? '', text: peeked?.text ?? '', headers: '', links: [] },
      ...{ trail: peeked?.trail ?? [], filled: false, stopped: peeked?.stopped ?? null },
    };
  }

  private peek(row: OutboxRow) {
    const { jobs, now, mailSettings, self, rules } = this.given;
    const settings = mailSettings.get();
    return jobs.run('peekMail', {
      ...{ ids: [row.id], now: now().getTime(), moved: null, settings },
      base: settings.public_url ?? self(),
      picks: { [row.shop]: rules.task(row.shop) },
    });
  }

  /** The bytes of a mail that was filled. */
  source(id: string): Buffer {
    const row = this.found(id);
    const kept = isToFill(row) ? null : this.given.outbox.source(id);
    if (!kept)
      throw new Refusal(
        409,
        isToFill(row)
          ? 'This email is filled when it is sent, so there is no file of it yet.'
          : 'The contents of this email are no longer kept.',
      );
    return kept.source;
  }

  /** From the cause to what came of it, in sentences. */
  private story(row: OutboxRow): OutboxStory {
    const { states } = this.given;
    const document = this.occasion(row);
    const names = { template: (id: string) => this.templateName(id) };
    const sayOf = sayerOf(document, names);
    const told = states.trailOfCause(row.shop, row.email, row.occasion, row.cause);
    const lines = told.map((effect): OutboxStory[number] => ({
      at: new Date(effect.at).toISOString(),
      text: sayEffect(effect, sayOf),
      parts: valuesOf(effect),
    }));
    const more: [string | null, string][] = [
      [row.sent_at, row.test_only === 1 ? 'Sent to the stand-in mailbox.' : 'Sent.'],
      [row.opened_at, 'Opened for the first time.'],
      [row.clicked_at, 'A link was clicked for the first time.'],
    ];
    for (const [at, text] of more) if (at !== null) lines.push({ at, text, parts: [] });
    return lines.sort((a, b) => (a.at < b.at ? -1 : a.at > b.at ? 1 : 0));
  }

  /**
   * Approves or stops mails, or goes on with what was stopped by hand, or by the mail server: some by id, or all that are
   * wanted. Gives how many. Those whose occasion was switched off go only where that is confirmed.
   */
  async change(shop: string, to: To, { ids, query, even_off: evenOff }: Chosen): Promise<number> {
    const { store, outbox, now, sender, updates } = this.given;
    const at = now().getTime();
    const changeSome = (some: readonly string[]) =>
      store.write(() => {
        const own = some.flatMap((id) => outbox.find(id) ?? []).filter((row) => row.shop === shop);
        const sends = to !== 'stop' && to !== 'count_as_sent';
        const off = sends ? own.filter((row) => this.isOff(row)) : [];
        if (!evenOff) this.refuseOff(off);
        if (to === 'repeat') {
          const isOff = new Set(off.map(({ id }) => id));
          return own.filter(({ id }) => this.repeat(id, at, isOff.has(id))).length;
        }
        for (const { id } of off) outbox.allowOff(id);
        return own.filter(({ id }) => this.changeOne(id, to, at)).length;
      });
    let changed = 0;
    if (ids)
      for (let from = 0; from < ids.length; from += SLICE)
        changed += await changeSome(ids.slice(from, from + SLICE));
    else
      for await (const rows of this.slices({
        shop,
        ...query,
        ...(FROM[to] && { state: FROM[to] }),
      }))
        changed += await changeSome(rows.map(({ id }) => id));
    updates.publish({ type: 'outbox' });
    if (to !== 'stop') void sender.kick();
    return changed;
  }

  private isOff(row: OutboxRow): boolean {
    return !isRowOn(this.given.occasions.find(row.occasion), row);
  }

  /** Refuses to send emails of an occasion that was switched off since, unless that is what is meant. */
  private refuseOff(off: readonly OutboxRow[]): void {
    const [first] = off;
    if (!first) return;
    const name = this.occasion(first)?.name ?? 'An occasion';
    throw new Refusal(
      409,
      `“${name}” was switched off after ${off.length === 1 ? 'this email was' : `${figure(off.length)} of these emails were`} created. Nothing was sent. Confirm that ${off.length === 1 ? 'it is' : 'they are'} to be sent anyway.`,
      [{ path: 'even_off', message: 'Set it to send them anyway.' }],
    );
  }

  /** Makes a new email of one that was sent; `isOff`: it goes though its occasion is switched off. */
  private repeat(id: string, at: number, isOff: boolean): boolean {
    const { outbox, newId } = this.given;
    const repeated = newId();
    if (!outbox.repeat(id, repeated, at)) return false;
    if (isOff) outbox.allowOff(repeated);
    return true;
  }

  private changeOne(id: string, to: Exclude<To, 'repeat'>, at: number): boolean {
    const { outbox, sender } = this.given;
    if (to === 'approve') return outbox.approve(id, at);
    if (to === 'go_on') return outbox.goOn(id, at);
    if (to === 'try_again') return outbox.tryAgain(id, at);
    if (to === 'count_as_sent') return sender.settleNow(id, 'sent');
    if (to === 'send_again') return sender.settleNow(id, 'again');
    return (['waiting', 'held', 'ready'] as const).some((state) =>
      outbox.move(id, state, 'stopped', state === 'held' ? STOPPED_HELD : STOPPED_BY_HAND),
    );
  }

  async settle(id: string, as: 'sent' | 'again'): Promise<void> {
    this.found(id);
    const done = await this.given.sender.settle(id, as);
    if (!done) throw new Refusal(409, 'This email is no longer in doubt.');
    this.given.updates.publish({ type: 'outbox' });
    void this.given.sender.kick();
  }

  /** Forgets the bytes of mails, and what occasions did, older than the settings say. */
  async clean(): Promise<void> {
    const { store, outbox, states, mailSettings, now } = this.given;
    const before = new Date(now().getTime() - mailSettings.get().keep_days * 86_400_000);
    await forgetOld(store, outbox, before.toISOString());
    await forgetTold(store, states, before.getTime());
  }
}
