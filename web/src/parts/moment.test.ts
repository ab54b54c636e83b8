import { momentOf } from './moment';

test('a time of day is never shown without its time zone', () => {
  expect(momentOf('2026-11-24T08:00:00Z')).toMatch(/24 Nov 2026.*\d\d:\d\d (GMT|UTC|[A-Z]{2,5})/);
});
