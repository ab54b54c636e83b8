import { createHash } from 'node:crypto';
import type { MailSettings } from '@carafe/contract';
import type { Mail, Rendered } from '@carafe/core/render';
import type { PeopleRepository } from '../people/repository';
import { rewriteLinks, standInOf, withPixel } from './links';
import { messageOf } from './mime';
import type { PublishedTemplate } from './published';
import type { OutboxRow } from './row';

/** What messages are made with. */
export interface MessageTask {
  /** Milliseconds. */
  now: number;
  settings: MailSettings;
  /** Where links in mails lead to Carafe. */
  base: string;
}

/** A mail that was filled for somebody, and where it goes. */
export interface FilledMail {
  rendered: Rendered;
  to: string;
  ready: PublishedTemplate;
  /** Whether what becomes of it may be counted. */
  tracked: boolean;
}

/** The message of a filled mail, its links led through Carafe where they are counted or lead to a stand-in. */
export function messageFor(
  signer: PeopleRepository['signer'],
  { settings, base, now }: MessageTask,
  row: OutboxRow,
  { rendered, to, ready, tracked }: FilledMail,
) {
  const { mail } = rendered;
  const counts = tracked && settings.count_clicks;
  const followed = `${base}/go/${signer.make('go', row.id)}`;
  const isOwn = (address: string) => address.startsWith(`${base}/`);
  const { html, text, links } = rewriteLinks(
    mail.html,
    mail.text,
    (address) => !isOwn(address) && (counts || standInOf(address) !== null),
    (number) => `${followed}/${number}`,
  );
  const opens = tracked && settings.count_opens;
  const pixel = () => `${base}/mail/open/${signer.make('open', row.id)}.gif`;
  const domain = ready.fromEmail.split('@')[1] ?? 'carafe.example';
  const name = createHash('sha256').update(row.key).digest('hex').slice(0, 32);
  const messageId = `<${name}@${domain}>`;
  const message = messageOf({
    ...{ from: { name: mail.from, address: ready.fromEmail }, subject: mail.subject },
    to: { name: (row.recipient === 'owner' ? undefined : mail.to_name) ?? '', address: to },
    ...{ date: new Date(now), messageId, text },
    html: opens ? withPixel(html, pixel()) : html,
    headers: headersOf(mail, row, base),
  });
  return {
    ...{ id: row.id, subject: mail.subject, to, messageId, links },
    kept: { message, trail: rendered.trail ?? [] },
    shown: rendered.products ?? [],
    tracked: counts || opens,
    published: ready.number,
  };
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
