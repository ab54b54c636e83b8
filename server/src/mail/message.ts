import type { Mail } from '@carafe/core/render';
import type { SendMailOptions } from 'nodemailer';
import { harmless } from '../outbox/mime';

/** A mail that is to leave, with whom it is from and to. */
export interface Outgoing {
  mail: Mail;
  fromEmail: string;
  to: string;
  messageId: string;
  date: Date;
  /** Before the subject. */
  mark?: string;
}

/** The message as nodemailer takes it: what was filled, to the letter, as text and as HTML (RFC 2046, alternative). */
export function messageOf({
  mail,
  fromEmail,
  to,
  messageId,
  date,
  mark = '',
}: Outgoing): SendMailOptions {
  const { from, to_name = '', subject, html, text, headers } = mail;
  return {
    from: { name: harmless(from), address: fromEmail },
    to: { name: harmless(to_name), address: to },
    subject: harmless(`${mark}${subject}`),
    ...{ html, text, date, messageId },
    headers: { ...headers },
    // Nothing of a mail is ever read from this machine or fetched from elsewhere.
    disableFileAccess: true,
    disableUrlAccess: true,
  };
}
