import type { ShopEvent } from '../record';
import type { Happening, Moment } from './define';
import type { Effect } from './effects';
import { advance } from './engine';
import type { World } from './plan';
import { replayPerson } from './replay';
import { NEW_STATE, nextDue, type PersonState } from './state';
import {
  added,
  at,
  became,
  guard,
  momentsFor,
  occasion,
  ordered,
  person,
  send,
  viewed,
  wait,
  worldOf,
} from './testing';

/** Plays a story of one person; gives what was told, in short. */
function play(
  events: ShopEvent[],
  world: World,
  {
    until = at('30T00:00'),
    from = at('01T00:00'),
    rules = {},
    fields = {},
    segments = [] as { name: string; formula: string }[],
    dated = [] as { at: number; happening: Happening }[],
  } = {},
) {
  const data = person(events, fields);
  const moments = momentsFor(rules, segments);
  const { effects, state } = replayPerson({ data, events }, { world, moments, dated, from, until });
  return { effects, state, said: effects.map(inShort) };
}

const when = (time: number) => new Date(time).toISOString().slice(8, 16);
function inShort(effect: Effect): string {
  const time = when(effect.at);
  switch (effect.kind) {
    case 'entered':
      return `${time} in`;
    case 'mail':
      return `${time} mail ${effect.step.id}`;
    case 'asked':
      return `${time} ${effect.step} ${effect.held ? 'yes' : 'no'}`;
    case 'waits':
      return `${time} waits until ${when(effect.until)}`;
    case 'postponed':
      return `${time} ${effect.step} postponed until ${when(effect.until)}: ${effect.why}`;
    case 'not_entered':
      return `${time} not in: ${effect.why}`;
    case 'not_made':
      return `${time} no ${effect.step}: ${effect.why}`;
    case 'ended':
      return `${time} ended${effect.why ? `: ${effect.why}` : ''}`;
  }
}

const CART = occasion({
  whom: { guests: true, where: 'cart.count >= 2', rest_days: 14 },
  steps: [
    wait('w1', 3),
    guard('g1', 'not occasion.ordered_since'),
    send('first'),
    wait('w2', 1, 'days'),
    guard('g2', 'cart is filled'),
    send('second'),
  ],
});

test('the quiet time is one thing and the wait another: the first mail goes four hours after the last touch', () => {
  const { said } = play([added(at('10T10:00'), 'A'), added(at('10T10:20'), 'B')], worldOf(CART));
  expect(said).toEqual([
    ...['10T11:20 in', '10T11:20 waits until 10T14:20'],
    ...['10T14:20 g1 yes', '10T14:20 mail first', '10T14:20 waits until 11T14:20'],
    ...['11T14:20 g2 yes', '11T14:20 mail second', '11T14:20 ended'],
  ]);
});

test('who orders during the quiet time never comes in; who orders while waiting gets nothing more', () => {
  const two = [added(at('10T10:00'), 'A'), added(at('10T10:01'), 'B')];
  expect(play([...two, ordered(at('10T10:30'))], worldOf(CART)).said).toEqual([]);
  expect(play([...two, ordered(at('10T12:00'))], worldOf(CART)).said).toEqual([
    ...['10T11:01 in', '10T11:01 waits until 10T14:01', '10T12:00 ended: gone'],
  ]);
  expect(play([...two, ordered(at('11T10:00'))], worldOf(CART)).said.slice(-2)).toEqual([
    ...['10T14:01 waits until 11T14:01', '11T10:00 ended: gone'],
  ]);
});

test('a cart that is touched again before a mail waits anew, and is not counted twice', () => {
  const events = [added(at('10T10:00')), added(at('10T10:01'), 'B'), added(at('10T13:00'), 'C')];
  const { said } = play(events, worldOf(CART));
  expect(said.filter((one) => / in$|mail first|touched/.test(one))).toEqual([
    ...['10T11:01 in', '10T13:00 ended: touched', '10T14:00 in', '10T17:00 mail first'],
  ]);
});

test('who came in twice before anything went gets one of the two mails', () => {
  const later = occasion({
    start: { kind: 'order_placed', which: 'any' },
    whom: { guests: true, rest_days: 5 },
    steps: [wait('w', 3, 'days'), send('first'), wait('again', 1, 'days'), send('second')],
  });
  const { said } = play(
    [
      ...[added(at('01T10:00')), ordered(at('01T11:00'), 'N1')],
      ...[added(at('02T10:00')), ordered(at('02T11:00'), 'N2')],
    ],
    worldOf(later),
  );
  expect(said.filter((one) => !one.includes('waits'))).toEqual([
    ...['01T11:00 in', '02T11:00 in', '04T11:00 mail first'],
    ...['05T11:00 mail second', '05T11:00 ended', '05T11:00 ended: rest'],
  ]);
});

test('whom it is for, guests, rest: each says why not', () => {
  const one = [added(at('10T10:00'))];
  expect(play(one, worldOf(CART)).said).toEqual(['10T11:00 not in: segment']);
  const members = occasion({ whom: { guests: false }, steps: [send('a')] });
  expect(play(one, worldOf(members), { fields: { guest: true } }).said).toEqual([
    '10T11:00 not in: guest',
  ]);
  const again = [
    ...[added(at('01T10:00')), added(at('01T10:01'), 'B'), ordered(at('03T10:00'))],
    ...[added(at('05T10:00')), added(at('05T10:01'), 'B')],
  ];
  expect(play(again, worldOf(CART)).said.at(-1)).toBe('05T11:01 not in: rest');
  const listed = occasion({
    ...{ whom: { guests: true, addresses: ['Someone@s.example'] }, steps: [send('a')] },
  });
  expect(play(one, worldOf(listed)).said).toEqual(['10T11:00 not in: segment']);
});

test('marketing only with consent, asked when the mail is made; service always', () => {
  const steps = [send('ad'), send('service', { mail: 'service' })];
  const { said } = play([added(at('10T10:00'))], worldOf(occasion({ steps })), {
    fields: { consent: false },
  });
  expect(said).toEqual([
    ...['10T11:00 in', '10T11:00 no ad: consent', '10T11:00 mail service', '10T11:00 ended'],
  ]);
  const left = { ...added(at('10T12:00')), kind: 'consent_changed', consent: false };
  const later = occasion({ steps: [wait('w', 3), send('ad')] });
  expect(play([added(at('10T10:00')), left as ShopEvent], worldOf(later)).said).toContain(
    '10T14:00 no ad: consent',
  );
});

test('mails a day and a week over all occasions; the higher priority goes first', () => {
  const low = occasion({ priority: 1, steps: [send('low')] });
  const high = occasion({ priority: 9, steps: [send('high')] });
  const { said } = play([added(at('10T10:00'))], worldOf(low, high), { rules: { most_a_day: 1 } });
  expect(said).toEqual([
    ...['10T11:00 in', '10T11:00 mail high', '10T11:00 ended'],
    ...['10T11:00 in', '10T11:00 low postponed until 11T11:00: a_day'],
    ...['11T11:00 mail low', '11T11:00 ended'],
  ]);
  const drops = occasion({ priority: 1, over_limit: 'drop', steps: [send('low')] });
  expect(
    play([added(at('10T10:00'))], worldOf(drops, high), { rules: { most_a_day: 1 } }).said.slice(3),
  ).toEqual(['10T11:00 in', '10T11:00 no low: a_day', '10T11:00 ended']);
  const first = play([added(at('10T10:00'))], worldOf(low, high), {
    rules: { one_cause: 'first' },
  });
  expect(first.said.at(-1)).toBe('10T11:00 not in: answered');
});

test('an email that was postponed is asked for its guards and its cause once more', () => {
  const high = occasion({ priority: 9, steps: [send('high')] });
  const row = (otherwise: 'stop' | 'skip') =>
    occasion({
      ...{ start: { kind: 'order_placed', which: 'any' }, priority: 1 },
      steps: [
        guard('g', '(cart.count otherwise 0) < 2', otherwise),
        send('low'),
        send('bill', { mail: 'service' }),
      ],
    });
  const story = [
    ...[added(at('09T10:00')), ordered(at('09T20:00')), added(at('10T10:00'))],
    ...[ordered(at('10T12:00'), 'O2'), added(at('10T13:00')), added(at('10T14:00'), 'B')],
  ];
  const rules = { most_a_day: 1 };
  const low = (otherwise: 'stop' | 'skip') =>
    play(story, worldOf(high, row(otherwise)), { rules, from: at('10T00:00') })
      .said.filter((one) => one >= '10T12:00' && /low|bill|g no|ended: guard/.test(one))
      .slice(0, 4);
  expect(low('stop')).toEqual([
    '10T12:00 low postponed until 11T00:00: a_day',
    ...['11T00:00 g no', '11T00:00 ended: guard'],
  ]);
  expect(low('skip')).toEqual([
    '10T12:00 low postponed until 11T00:00: a_day',
    ...['11T00:00 g no', '11T00:00 no low: guard', '11T00:00 mail bill'],
  ]);
});

test('a guard that does not hold stops, passes over the next mail, or is asked again', () => {
  const steps = [guard('g', 'cart.count >= 2', 'skip'), send('over'), send('after')];
  expect(play([added(at('10T10:00'))], worldOf(occasion({ steps }))).said).toEqual([
    ...['10T11:00 in', '10T11:00 g no', '10T11:00 mail after', '10T11:00 ended'],
  ]);
  const asks = occasion({
    start: { kind: 'order_placed', which: 'any' },
    steps: [
      {
        ...{ id: 'g', kind: 'guard', when: 'order.status = "Paid"', otherwise: 'ask_again' },
        ...{ every: { n: 6, unit: 'hours' }, up_to: { n: 1, unit: 'days' } },
      },
      send('paid', { mail: 'service' }),
    ],
  });
  const order = [added(at('10T09:00')), ordered(at('10T10:00'))];
  expect(play([...order, became(at('10T20:00'), 'Paid')], worldOf(asks)).said.slice(-3)).toEqual([
    ...['10T22:00 g yes', '10T22:00 mail paid', '10T22:00 ended'],
  ]);
  expect(play(order, worldOf(asks)).said.at(-1)).toBe('11T10:00 ended: waited');
});

test('a branch goes one way; what follows it is for both', () => {
  const steps = [
    {
      ...{ id: 'b', kind: 'branch' as const, otherwise: [send('small')] },
      ways: [{ when: 'cart.count >= 2', steps: [send('large')] }],
    },
    send('both', { mail: 'service' }),
  ];
  const mails = (events: ShopEvent[]) =>
    play(events, worldOf(occasion({ steps }))).effects.flatMap((one) =>
      one.kind === 'mail' ? [one.step.id] : [],
    );
  expect(mails([added(at('10T10:00'))])).toEqual(['small', 'both']);
  expect(mails([added(at('10T10:00')), added(at('10T10:01'), 'B')])).toEqual(['large', 'both']);
});

test('orders: any, first, n-th, of a product, over a sum; a status, and one that is held too long', () => {
  const story = [
    ...[added(at('05T09:00')), ordered(at('05T10:00'), 'O1')],
    ...[added(at('06T09:00'), 'B'), added(at('06T09:01'), 'C'), ordered(at('06T10:00'), 'O2')],
    became(at('07T10:00'), 'Sent', 'O1'),
  ];
  const causes = (start: object) =>
    play(story, worldOf(occasion({ start: start as never, steps: [] }))).effects.flatMap((one) =>
      one.kind === 'entered' ? [`${when(one.at)} ${one.about.order ?? ''}`] : [],
    );
  const placed = { kind: 'order_placed' };
  expect(causes({ ...placed, which: 'any' })).toEqual(['05T10:00 O1', '06T10:00 O2']);
  expect(causes({ ...placed, which: 'first' })).toEqual(['05T10:00 O1']);
  expect(causes({ ...placed, which: 'nth', n: 2 })).toEqual(['06T10:00 O2']);
  expect(causes({ ...placed, which: 'product', skus: ['C'] })).toEqual(['06T10:00 O2']);
  expect(causes({ ...placed, which: 'over', amount: 15 })).toEqual(['06T10:00 O2']);
  const status = { kind: 'order_status', held: { n: 0, unit: 'hours' } };
  expect(causes({ ...status, status: 'sent' })).toEqual(['07T10:00 O1']);
  const held = { ...status, status: 'Received', held: { n: 1, unit: 'days' } };
  expect(causes(held)).toEqual(['06T10:00 O1', '07T10:00 O2']);
});

test('looked at and not bought; cheaper than before; a post; a date of the person', () => {
  const looked = occasion({
    start: { kind: 'looked_at', after: { n: 1, unit: 'days' } },
    steps: [send('a')],
  });
  const seen = [viewed(at('10T10:00'), 'A'), viewed(at('10T11:00'), 'B')];
  expect(play(seen, worldOf(looked), { rules: { most_a_day: 0 } }).said).toEqual([
    ...['11T10:00 in', '11T10:00 mail a', '11T10:00 ended'],
    ...['11T11:00 in', '11T11:00 mail a', '11T11:00 ended'],
  ]);
  const bought = [...seen, added(at('10T12:00'), 'A'), ordered(at('10T13:00'))];
  expect(play(bought, worldOf(looked)).said.filter((one) => one.endsWith('in'))).toEqual([
    '11T11:00 in',
  ]);
  const cheaper = occasion({
    start: { kind: 'product_changed', change: 'cheaper', among: 'either' },
    steps: [send('a')],
  });
  const change = (sku: string, time: number) => ({
    ...{ at: time, happening: { kind: 'product' as const, change: 'cheaper' as const, sku } },
  });
  const dated = [
    change('A', at('12T10:00')),
    change('A', at('12T18:00')),
    change('Z', at('13T10:00')),
  ];
  expect(play(seen, worldOf(cheaper), { dated }).said).toEqual([
    ...['12T10:00 in', '12T10:00 mail a', '12T10:00 ended'],
  ]);
  const post = occasion({ start: { kind: 'post_published', feed: 'f' }, steps: [send('a')] });
  const posted = { kind: 'post' as const, feed: 'f', post: 'p1' };
  const twice = [
    { at: at('12T10:00'), happening: posted },
    { at: at('12T11:00'), happening: posted },
  ];
  expect(play([], worldOf(post), { dated: twice }).said).toHaveLength(3);
  const birthday = occasion({
    start: { kind: 'date_of_person', field: 'birthday', days: -1, yearly: true, time: '09:00' },
    steps: [send('a')],
  });
  const born = { birthday: '1987-11-15', timezone: 'America/New_York' };
  expect(play([], worldOf(birthday), { fields: born }).said[0]).toBe('14T14:00 in');
});

test('a segment that is entered; who was in it from the start has not entered', () => {
  const entered = occasion({
    start: { kind: 'segment_changed', segment: 'Regulars', change: 'entered' },
    steps: [send('a')],
  });
  const segments = [{ name: 'Regulars', formula: 'person.orders_count >= 1' }];
  const events = [added(at('10T09:00')), ordered(at('10T10:00')), viewed(at('11T10:00'))];
  expect(play(events, worldOf(entered), { segments }).said).toEqual([
    ...['10T10:00 in', '10T10:00 mail a', '10T10:00 ended'],
  ]);
  expect(play(events, worldOf(entered), { segments, from: at('10T12:00') }).said).toEqual([]);
});

const hold = (data: ReturnType<typeof person>, moments = momentsFor()) => ({
  moment: (time: number): Moment => moments.moment({ data, at: time }),
});

test('by hand: once for each name that it is given', () => {
  const world = worldOf(occasion({ start: { kind: 'by_hand' }, steps: [send('a')] }));
  const moments = momentsFor();
  const asked = (name: string, state: PersonState) =>
    advance(
      state,
      {
        kind: 'happening',
        moment: moments.moment({
          ...{ data: person(), at: at('10T10:00') },
          happening: { kind: 'hand', occasion: 'o1', name },
        }),
      },
      world,
    );
  const first = asked('monday', NEW_STATE);
  expect(first.effects.map(inShort)).toEqual(['10T10:00 in', '10T10:00 mail a', '10T10:00 ended']);
  expect(asked('monday', first.state).effects).toEqual([]);
});

test('after a stop, what is overdue is looked at now, and waits count from now', () => {
  const events = [added(at('10T10:00')), added(at('10T10:01'), 'B')];
  const world = worldOf(CART);
  const data = person(events);
  const { moment } = hold(data);
  const known = advance(
    NEW_STATE,
    { kind: 'happening', moment: momentsFor().moment({ data, at: at('10T10:01') }) },
    world,
  );
  const late = advance(
    known.state,
    { kind: 'time', until: at('20T08:00'), late: true, moment },
    world,
  );
  expect(late.effects.map(inShort)).toEqual(['20T08:00 in', '20T08:00 waits until 20T11:00']);
  expect(nextDue(late.state)).toBe(at('20T11:00'));
  // A clock that was put back changes nothing.
  const back = advance(late.state, { kind: 'time', until: at('15T00:00'), moment }, world);
  expect(back).toEqual({ state: late.state, effects: [] });
});

test('an occasion that was switched off lets nobody on; an older version is walked to its end', () => {
  const events = [added(at('10T10:00')), added(at('10T10:01'), 'B')];
  const data = person(events);
  const { moment } = hold(data);
  const start = advance(
    NEW_STATE,
    { kind: 'happening', moment: momentsFor().moment({ data, at: at('10T10:01') }) },
    worldOf(CART),
  );
  const inside = advance(
    start.state,
    { kind: 'time', until: at('10T12:00'), moment },
    worldOf(CART),
  );
  const off = advance(
    inside.state,
    { kind: 'time', until: at('12T00:00'), moment },
    { plans: [], plan: () => null },
  );
  expect(off.effects.map(inShort)).toEqual(['10T14:01 ended: switched_off']);
  expect(off.state.runs).toEqual([]);
});

test('what was due before an occasion was on, or is learned of a day late, starts nothing', () => {
  const data = person([added(at('01T10:00')), added(at('01T10:01'), 'B')]);
  const world = worldOf(CART);
  const learned = (time: number) =>
    advance(
      NEW_STATE,
      { kind: 'happening', moment: momentsFor().moment({ data, at: time }) },
      world,
    ).state.runs.length +
    advance(
      NEW_STATE,
      { kind: 'happening', moment: momentsFor().moment({ data, at: time }) },
      world,
    ).effects.length;
  expect(learned(at('05T10:00'))).toBe(0);
  expect(learned(at('01T10:30'))).toBe(1);
});
