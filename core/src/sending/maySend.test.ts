import fc from 'fast-check';
import { limitOf, mustRest, type LedgerEntry } from './ledger';
import { maySend, type SendRequest } from './maySend';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;
const NOW = Date.parse('2026-11-24T09:00:00Z');

const entry = (hoursAgo: number, more: Partial<LedgerEntry> = {}): LedgerEntry => ({
  ...{ key: `k${hoursAgo}`, occasion: 'other', cause: 'c', step: 's', marketing: true },
  ...{ at: NOW - hoursAgo * HOUR, ...more },
});
const request = (more: Partial<SendRequest> = {}, email: Partial<SendRequest['email']> = {}) => ({
  ...{ at: NOW, isOn: true, step: { mode: 'on', template: 't' } as const },
  ...{ person: { consent: true, refused: false }, causeStands: () => true },
  sentElsewhere: () => false,
  ...{ failedGuard: () => null, ledger: () => [], limits: { most_a_day: 1, most_a_week: 3 } },
  ...{ overLimit: 'postpone' as const, restDays: 0, recent: () => [], approved: new Set<never>() },
  ...more,
  email: {
    ...{ key: 'own', occasion: 'o', cause: 'c', marketing: true, toOwner: false, priority: 5 },
    ...{ subject: 'Hello', ...email },
  },
});
const answer = (more: Partial<SendRequest> = {}, email: Partial<SendRequest['email']> = {}) =>
  maySend(request(more, email));

test('an email goes where nothing is against it', () => {
  expect(answer()).toEqual({ kind: 'send' });
});

const STOPS: [string, Partial<SendRequest>, string][] = [
  ['its occasion is off', { isOn: false }, 'switched_off'],
  ['the person was deleted', { person: null }, 'unknown_person'],
  ['the address was refused', { person: { consent: true, refused: true } }, 'refused'],
  ['its cause is gone', { causeStands: () => false }, 'gone'],
  ['it went to another address', { sentElsewhere: () => true }, 'elsewhere'],
  ['its step is off', { step: { mode: 'off', template: 't' } }, 'step_off'],
  ['it has no template', { step: { mode: 'on', template: '' } }, 'no_template'],
  ['nobody agreed to marketing', { person: { consent: false, refused: false } }, 'consent'],
  ['a rest', { restDays: 2, ledger: () => [entry(47, { occasion: 'o', cause: 'x' })] }, 'rest'],
  ['a limit of a day', { overLimit: 'drop', ledger: () => [entry(23.9)] }, 'a_day'],
  [
    'a limit of a week',
    { overLimit: 'drop', ledger: () => [entry(30), entry(60), entry(167)] },
    'a_week',
  ],
];
test.each(STOPS)('it stops where %s', (_, more, why) => {
  expect(answer(more)).toEqual({ kind: 'stop', why });
});

test('a guard that fails is named', () => {
  expect(answer({ failedGuard: () => 'g1' })).toEqual({ kind: 'stop', why: 'guard', guard: 'g1' });
});

test('a service email asks for no consent and knows no limit; neither does a copy to the owner', () => {
  const against: Partial<SendRequest> = {
    ...{ person: { consent: false, refused: false }, ledger: () => [entry(1), entry(2)] },
    recent: () => [{ at: NOW, subject: 'Hello', marketing: true }],
  };
  expect(answer(against, { marketing: false })).toEqual({ kind: 'send' });
  expect(answer({ ...against, restDays: 9 }, { toOwner: true })).toEqual({ kind: 'send' });
  expect(answer({ ...against, person: null }, { toOwner: true })).toEqual({
    ...{ kind: 'stop', why: 'unknown_person' },
  });
});

test('an email over a limit is postponed to the first instant that allows it', () => {
  expect(answer({ ledger: () => [entry(20)] })).toEqual({
    ...{ kind: 'postpone', why: 'a_day', until: NOW + 4 * HOUR },
  });
  expect(answer({ ledger: () => [entry(24)] })).toEqual({ kind: 'send' });
  expect(answer({ ledger: () => [entry(30), entry(60), entry(100)] })).toEqual({
    ...{ kind: 'postpone', why: 'a_week', until: NOW - 100 * HOUR + 7 * DAY },
  });
  expect(answer({ ledger: () => [entry(30), entry(60), entry(168)] })).toEqual({ kind: 'send' });
});

test('of two that wait, the one with the higher priority goes first, and the other is not dropped for it', () => {
  const waiting = { isGone: false, at: NOW };
  const higher = () => [entry(0, { ...waiting, priority: 9 })];
  const lower = () => [entry(0, { ...waiting, priority: 1 })];
  expect(answer({ ledger: higher, overLimit: 'drop' })).toEqual({
    ...{ kind: 'postpone', why: 'priority', until: NOW + 60_000 },
  });
  expect(answer({ ledger: lower })).toEqual({ kind: 'send' });
  // What is due only later is in nobody's way.
  const later = () => [entry(0, { isGone: false, at: NOW + 1, priority: 9 })];
  expect(answer({ ledger: later })).toEqual({ kind: 'send' });
});

test('of two with the same priority that wait, the one that was created first goes first', () => {
  const waiting = { isGone: false, at: NOW, priority: 5 };
  expect(answer({ ledger: () => [entry(0, { ...waiting, key: 'a' })] })).toMatchObject({
    why: 'priority',
  });
  expect(answer({ ledger: () => [entry(0, { ...waiting, key: 'z' })] })).toEqual({ kind: 'send' });
});

test('an email is not in its own way', () => {
  expect(answer({ ledger: () => [entry(0, { key: 'own' })] })).toEqual({ kind: 'send' });
});

test('the ledger is read only where a limit or a rest asks for it', () => {
  const unread = () => {
    throw new Error('The ledger was read.');
  };
  const none = { most_a_day: 0, most_a_week: 0 };
  expect(answer({ ledger: unread, limits: none })).toEqual({ kind: 'send' });
  for (const limits of [
    { most_a_day: 1, most_a_week: 0 },
    { most_a_day: 0, most_a_week: 1 },
  ])
    expect(answer({ limits, ledger: () => [entry(1)] })).toMatchObject({ kind: 'postpone' });
  expect(answer({ ledger: unread, limits: none, restDays: 3 }, { toOwner: true })).toEqual({
    kind: 'send',
  });
  // A rest that is over, or of another occasion, stops nothing.
  expect(answer({ limits: none, restDays: 3, ledger: () => [entry(1)] })).toEqual({ kind: 'send' });
});

test('an email without a subject of its own repeats no subject', () => {
  const recent = () => [{ at: NOW - DAY / 2, subject: '', marketing: true }];
  expect(answer({ recent }, { subject: null })).toEqual({ kind: 'send' });
});

test('a second marketing email within a minute, or with the same subject within a day, is held until it is approved', () => {
  const just = { at: NOW - 59_999, subject: 'Other', marketing: true };
  const same = { at: NOW - DAY + 1, subject: 'Hello', marketing: true };
  expect(answer({ recent: () => [just] })).toEqual({ kind: 'hold', why: 'twice_a_minute' });
  expect(answer({ recent: () => [{ ...just, at: NOW - 60_000 }] })).toEqual({ kind: 'send' });
  expect(answer({ recent: () => [same] })).toEqual({ kind: 'hold', why: 'same_subject' });
  expect(answer({ recent: () => [{ ...same, at: NOW - DAY }] })).toEqual({ kind: 'send' });
  expect(answer({ recent: () => [{ ...same, marketing: false }] })).toEqual({ kind: 'send' });
  const approved = new Set(['same_subject'] as const);
  expect(answer({ recent: () => [same], approved })).toEqual({ kind: 'send' });
  expect(answer({ recent: () => [just], approved })).toEqual({
    ...{ kind: 'hold', why: 'twice_a_minute' },
  });
});

test('what stops an email for good comes before what holds or postpones it', () => {
  const recent = () => [{ at: NOW, subject: 'Hello', marketing: true }];
  const more = { recent, ledger: () => [entry(1)], person: { consent: false, refused: false } };
  expect(answer(more)).toEqual({ kind: 'stop', why: 'consent' });
});

const hours = fc.integer({ min: 0, max: 400 });
const ledgers = fc
  .array(fc.record({ ago: hours, marketing: fc.boolean() }), { maxLength: 20 })
  .map((all) =>
    all.map(({ ago, marketing }, i) => entry(ago, { key: `k${i}`, marketing, isGone: true })),
  );

test('an email that is postponed may go at that instant and not a moment earlier', () => {
  const most = fc.integer({ min: 0, max: 4 });
  fc.assert(
    fc.property(ledgers, most, most, (ledger, most_a_day, most_a_week) => {
      const limits = { most_a_day, most_a_week };
      const question = { key: 'own', occasion: 'o', cause: 'c', at: NOW, priority: 5 };
      const limit = limitOf(ledger, question, limits);
      const counted = (at: number, days: number) =>
        ledger.filter((one) => one.marketing && at - one.at < days * DAY).length;
      const allows = (at: number) =>
        (most_a_day === 0 || counted(at, 1) < most_a_day) &&
        (most_a_week === 0 || counted(at, 7) < most_a_week);
      expect(limit === null).toBe(allows(NOW));
      if (limit === null) return;
      expect(limit.until).toBeGreaterThan(NOW);
      expect(limitOf(ledger, { ...question, at: limit.until }, limits)).toBeNull();
      expect(limitOf(ledger, { ...question, at: limit.until - 1 }, limits)).not.toBeNull();
    }),
  );
});

test('a rest counts the emails of the same occasion for other causes, and none of its own way', () => {
  const question = { key: 'own', occasion: 'o', cause: 'c', at: NOW, priority: 5 };
  const other = entry(24, { occasion: 'o', cause: 'x' });
  expect(mustRest([other], question, 1)).toBe(false);
  expect(mustRest([{ ...other, at: other.at + 1 }], question, 1)).toBe(true);
  expect(mustRest([{ ...other, at: other.at + 1 }], question, 0)).toBe(false);
  expect(mustRest([{ ...other, occasion: 'p' }], question, 9)).toBe(false);
  const own = entry(2, { occasion: 'o', cause: 'c', key: 'first' });
  expect(mustRest([other, own], question, 9)).toBe(false);
});
