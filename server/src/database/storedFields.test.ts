import { z } from 'zod';
import { testServer } from '../testing';
import { storedFields } from './storedFields';

const Settings = z.strictObject({
  most: z.number().int().min(1),
  mode: z.enum(['ask', 'send']),
  note: z.string().optional(),
});
const { read, lost } = storedFields(Settings, { most: 3, mode: 'ask' });

test.each([
  ['all of it', { most: 7, mode: 'send', note: 'x' }, { most: 7, mode: 'send', note: 'x' }],
  ['a row of before there was a field', { most: 7 }, { most: 7, mode: 'ask' }],
  ['a value that is no longer one', { most: 7, mode: 'guess' }, { most: 7, mode: 'ask' }],
  ['a number out of its bounds', { most: 0, mode: 'send' }, { most: 3, mode: 'send' }],
  ['a field that there is no longer', { most: 7, gone: true }, { most: 7, mode: 'ask' }],
  ['no object', 7, { most: 3, mode: 'ask' }],
])('%s is read', (_, stored, document) => {
  expect(read(JSON.stringify(stored))).toEqual(document);
});

test('whatever could not be read is named', () => {
  expect(lost('{"most":0,"mode":"ask"}')).toEqual(['most']);
  expect(lost('{"most":7}')).toEqual([]);
  expect(lost('{"most')).toEqual(['most', 'mode', 'note']);
  expect(lost(undefined)).toEqual([]);
});

test('nothing, and what is damaged, is as it is at first', () => {
  expect(read(undefined)).toEqual({ most: 3, mode: 'ask' });
  expect(read('{"most": 7')).toEqual({ most: 3, mode: 'ask' });
});

test('damaged settings of mail let nothing leave this machine', async () => {
  const { tables, store } = await testServer();
  tables.mailSettings.put({ ...tables.mailSettings.get(), test_only: false, per_minute: 9 });
  store.db
    .prepare(`UPDATE mail_settings SET document = json_set(document, '$.test_only', 'no')`)
    .run();
  expect(tables.mailSettings.get()).toMatchObject({ test_only: true, per_minute: 9 });
  store.db.prepare(`INSERT INTO shop_rules VALUES ('s', '{"quiet_minutes":30}')`).run();
  expect(tables.shopRules.get('s')).toMatchObject({ quiet_minutes: 30, most_an_hour: 5_000 });
  store.close();
});
