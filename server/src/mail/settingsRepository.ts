import { MailSettings } from '@carafe/contract';
import type { Db } from '../database/open';
import { storedFields } from '../database/storedFields';

/** What holds until somebody says otherwise: nothing leaves this machine. */
const FIRST: MailSettings = {
  server: { kind: 'mailbox' },
  test_addresses: ['designer@quillmoss.example'],
  ...{ test_only: true, per_minute: 0, count_clicks: true, count_opens: true, links_days: 180 },
  ...{ in_doubt: 'ask', keep_days: 365 },
};

/** The mail_settings table: one row. */
export function mailSettingsRepository(db: Db) {
  const one = db.prepare<[], string>('SELECT document FROM mail_settings').pluck();
  const put = db.prepare(
    'INSERT INTO mail_settings (one, document) VALUES (1, ?) ON CONFLICT (one) DO UPDATE SET document = excluded.document',
  );
  const { read, lost } = storedFields(MailSettings, FIRST);
  return {
    get: (): MailSettings => read(one.get()),
    /** The fields whose stored value cannot be read. */
    lost: () => lost(one.get()),
    put: (settings: MailSettings): void => void put.run(JSON.stringify(settings)),
  };
}
export type MailSettingsRepository = ReturnType<typeof mailSettingsRepository>;
