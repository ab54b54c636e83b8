import { MailSettings } from '@carafe/contract';
import { zodValidate } from '../../parts/zodValidate';

/** What the form of settings holds: what is not chosen now is kept while it is open. */
export interface MailForm extends Omit<MailSettings, 'server' | 'dkim' | 'public_url'> {
  server: { kind: 'mailbox' | 'smtp'; host: string; port: number; tls: boolean; user: string };
  public_url: string;
  isSigned: boolean;
  dkim: { domain: string; selector: string };
}

export function formOf({ server, dkim, public_url = '', ...rest }: MailSettings): MailForm {
  const first = { host: '', port: 587, tls: false, user: '' };
  return {
    ...{ ...rest, public_url, isSigned: dkim !== undefined },
    server: { ...first, ...server },
    dkim: dkim ?? { domain: '', selector: '' },
  };
}

export function settingsOf({
  server,
  dkim,
  isSigned,
  public_url,
  ...rest
}: MailForm): MailSettings {
  const { kind, ...own } = server;
  return {
    ...rest,
    server: kind === 'smtp' ? { kind, ...own } : { kind },
    ...(public_url.trim() !== '' && { public_url: public_url.trim() }),
    ...(isSigned && { dkim }),
  };
}

/** What is wrong, by the field that it stands at. */
export function problemsOf(values: MailForm): Record<string, string> {
  const found = zodValidate(MailSettings)(settingsOf(values)) as Record<string, string>;
  return Object.fromEntries(
    // Of addresses in one field the first that is none is told.
    Object.entries(found).map(([path, message]) => [path.replace(/\.\d+$/, ''), message]),
  );
}

/** Whether saving this lets mails go to people that stayed here before. */
export const goesLive = (before: MailSettings, values: MailForm): boolean =>
  (before.test_only || before.server.kind === 'mailbox') &&
  !values.test_only &&
  values.server.kind === 'smtp';
