import { staysHere, type MailSettings, type Received, type ReceivedMail } from '@carafe/contract';
import { readDate } from '@carafe/core/formula';
import { simpleParser } from 'mailparser';
import type { Store } from '../database/store';
import { Refusal } from '../http/errors';
import { refuseStale, versionOf } from '../http/version';
import type { Job, Jobs } from '../jobs/jobs';
import type { FilledMail, FillTask } from '../render/fillFor';
import type { RulesService } from '../recommend/service';
import type { ClockRepository } from '../schedule/clockRepository';
import { templateOrRefuse } from '../templates/service';
import { carriedAddress } from './address';
import type { Door } from './door';
import type { MailboxRepository, Taken } from './mailboxRepository';
import { messageOf } from './message';
import type { MailSettingsRepository } from './settingsRepository';

export interface MailJobs {
  /** Null where there is no such person. */
  fill: Job<FillTask, FilledMail | null>;
}

interface Given {
  store: Pick<Store, 'write'>;
  mailSettings: MailSettingsRepository;
  mailbox: MailboxRepository;
  door: Door;
  rules: Pick<RulesService, 'task'>;
  jobs: Jobs<MailJobs>;
  password: () => string | null;
  hasDkimKey: boolean;
  self: () => string;
  movedClock: Pick<ClockRepository, 'moved'>;
  /** Is told of other settings: what kept mails from leaving may be mended. */
  onChanged: () => void;
  now: () => Date;
  newId: () => string;
}

/** An address without a name. */

interface TestAsked {
  template?: unknown;
  person: number;
  to: string;
  as_of?: string | undefined;
  marked?: boolean | undefined;
}

/** Emails to oneself, how mails leave, and what the stand-in mailbox took in. */
export class MailService {
  /** Of the mails that the mailbox listed last, by their id. */
  private subjects = new Map<string, string>();

  constructor(private readonly given: Given) {}

  settings() {
    const { mailSettings, password, hasDkimKey, self } = this.given;
    const settings = mailSettings.get();
    return {
      ...{ settings, version: versionOf(settings) },
      ...{ password: password() !== null, dkim_key: hasDkimKey, self: self() },
    };
  }

  async changeSettings(version: string, settings: MailSettings): Promise<MailSettings> {
    const { store, mailSettings, movedClock, onChanged } = this.given;
    if (mailSettings.get().test_only && !settings.test_only && movedClock.moved() !== 0)
      throw new Refusal(
        409,
        'The clock is ahead of the real time, so people would get emails too early. Return to the real time first: Ctrl K, “Move the clock”.',
      );
    await store.write(() => {
      refuseStale(mailSettings.get(), version, 'Email settings');
      mailSettings.put(settings);
    });
    onChanged();
    return settings;
  }

  tryOut(settings: MailSettings) {
    return this.given.door.tryOut(settings);
  }

  /** Sends a template, as it is now, to oneself, filled for somebody: what would be posted, and nothing else. */
  async sendTest({ template: document, person, to, as_of, marked = false }: TestAsked) {
    const { mailSettings, door, jobs, rules, now, newId } = this.given;
    const settings = mailSettings.get();
    if (!settings.test_addresses.some((one) => one.toLowerCase() === to.toLowerCase()))
      throw new Refusal(
        403,
        `Tests are only sent to the addresses in the email settings, and ${to} is not one of them. Add it there first.`,
      );
    const template = templateOrRefuse(document);
    const asOf = as_of === undefined ? now() : readDate(as_of);
    if (!asOf) throw new Refusal(400, `“${as_of ?? ''}” is not a date.`);
    const filled = await jobs.run('fill', {
      ...{ template, person, asOf: asOf.toISOString() },
      picks: rules.task(template.shop),
    });
    if (!filled) throw new Refusal(404, 'This recipient no longer exists. Choose another.');
    const { mail, held, cut } = filled;
    const fromEmail = carriedAddress(filled.fromEmail);
    if (fromEmail === null)
      throw new Refusal(
        422,
        filled.fromEmail === ''
          ? 'This template has no sender’s address. Write one in the envelope: post@shop.example.'
          : `“${filled.fromEmail}” is not a valid sender address. Write one in the envelope: post@shop.example.`,
      );
    if (held)
      throw new Refusal(
        409,
        'This recipient gets no email: the condition under “Send only if” is not met. Choose another.',
      );
    if (cut !== null) throw new Refusal(422, cut);
    const domain = fromEmail.split('@')[1] ?? 'carafe.example';
    const messageId = `<test.${newId()}@${domain}>`;
    await door.send(
      messageOf({
        ...{ mail, fromEmail, to, messageId, date: now() },
        ...(marked && { mark: 'Test: ' }),
      }),
    );
    return {
      message_id: messageId,
      to,
      mailbox: staysHere(settings),
    };
  }

  /** The latest; headers are read once, not whenever another mail has come. */
  async mailbox(): Promise<Received[]> {
    const { mailbox } = this.given;
    const latest = mailbox.latest();
    const known = new Map<string, string>();
    for (const { id } of latest)
      known.set(id, this.subjects.get(id) ?? (await subjectOf(mailbox.head(id))));
    this.subjects = known;
    return latest.map((taken) => ({ ...taken, subject: known.get(taken.id) ?? '' }));
  }

  async read(id: string): Promise<ReceivedMail> {
    const taken = this.taken(id);
    const { html, text, subject, headerLines } = await simpleParser(taken.source, {
      skipImageLinks: true,
    });
    return {
      ...{ id, received_at: taken.received_at, from: taken.from, to: taken.to },
      subject: subject ?? '',
      html: html || '',
      text: text ?? '',
      headers: headerLines.map(({ line }) => line).join('\n'),
      source: taken.source.toString('latin1'),
    };
  }

  /** A mail of the mailbox, to the byte. */
  taken(id: string): Taken {
    const taken = this.given.mailbox.find(id);
    if (!taken)
      throw new Refusal(404, 'This email is not in the mailbox. Perhaps the mailbox was emptied.');
    return taken;
  }

  async empty(): Promise<void> {
    await this.given.store.write(() => this.given.mailbox.empty());
  }
}

async function subjectOf(head: Buffer | null): Promise<string> {
  if (head === null) return '';
  const end = head.indexOf('\r\n\r\n');
  const { subject = '' } = await simpleParser(end < 0 ? head : head.subarray(0, end + 4));
  return subject;
}
