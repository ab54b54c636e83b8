import { build } from '../build';
import { prepare, Tally } from '../render';
import { blankTemplate, composer, countedIds } from '../template';
import { isReached, reachOf } from '../variant';
import { NOBODY, solve } from '.';
import { now, products, record } from './testing';

// Somebody can be made for each of these conditions. The filled mail is the judge, not what the search says of it.

const c = composer(countedIds());

test.each([
  'any(cart.lines, category = "Seeds")',
  'every(cart.lines, category = "Tools")',
  'every(cart.lines, category = "Tools") and count(cart.lines) = 3',
  'any(cart.lines, category = "Seeds") and any(cart.lines, category = "Tools")',
  'not any(cart.lines, category = "Seeds") and cart is filled',
  'any(cart.lines, category = "Seeds") and not every(cart.lines, category = "Seeds")',
  'count(cart.lines where (category = "Seeds")) >= 2',
  'count(cart.lines where (price > 10)) = 3',
  'count(cart.lines where (price > 10)) = 2 and count(cart.lines) = 5',
  'sum(cart.lines, quantity) > 10',
  'sum(cart.lines, total) > 100 and count(cart.lines) = 2',
  'max(cart.lines, price) > 100',
  'min(cart.lines, price) < 2',
  'average(cart.lines, price) > 50',
  'cart.lines[1].name = "Spade"',
  'cart.lines[2].name = "Bean"',
  'cart.lines[-1].category = "Tools"',
  'cart.lines.category contains "Tools"',
  '"Tools" in cart.lines.category',
  'not ("Tools" in cart.lines.category) and count(cart.lines) > 1',
  'any(picks.for_you, category = "Tools")',
  'count(picks.for_you) >= 3',
  'count(picks.for_you where (in_stock)) = 2',
  'every(picks.for_you, category = "Seeds") and count(picks.for_you) = 2',
  'picks.for_you is empty',
  'picks.for_you[1].name = "Spade"',
  'any(picks.for_you, price > 30)',
  'not any(picks.for_you, in_stock) and picks.for_you is filled',
  'month(person.joined_at) = 5',
  'weekday_number(person.joined_at) = 3',
  'day(person.joined_at) = 29',
  'year(person.joined_at) = 2019',
  'month(person.birthday) = 2 and day(person.birthday) = 29',
  'days_between(person.joined_at, now) > 1000',
  'days_between(person.birthday, today) < 0',
  'person.joined_at < "2001-01-01"',
  'person.birthday > "1980-01-01" and person.birthday < "1981-01-01"',
  'person.birthday < "1950-06-01"',
  'order.placed_at < "2010-01-01"',
  'month(order.placed_at) = 12',
  'date(order.placed_at, "yyyy") = "2015"',
  'date(person.birthday, "d MMMM") = "26 November"',
  'date(person.birthday, "MM-dd") = date(today, "MM-dd")',
  'month(person.birthday) = month(today)',
  'month(person.birthday) = month(today) and day(person.birthday) = day(today)',
  'days_between(order.placed_at, now) >= 30 and days_between(order.placed_at, now) < 31',
  'person.tags contains "vip"',
  '"vip" in person.tags',
  'person.tags contains "vip" and person.tags contains "gardener"',
  'person.tags contains "vip" and not (person.tags contains "gardener")',
  'count(person.tags) >= 3',
  'person.tags is empty',
  'person.tags is filled and not ("vip" in person.tags)',
  'count(person.tags) = 2 and person.tags contains "vip"',
  'any(person.tags, it starts with "x")',
  'person.country = "France"',
  'person.country != "France"',
  'person.country not in ["France","Germany"]',
  'person.first_name starts with "Al"',
  'person.first_name contains "zz"',
  'lower(person.country) = "france"',
  'length(person.first_name) > 20',
  'length(person.first_name) = 3',
  'upper(person.postcode) starts with "NE"',
  'person.email ends with "@quill.example"',
  'person.consent = false',
  'not person.consent',
  'person.points > 100 and person.points < 102',
  'person.points * 2 = 50',
  'person.points / 3 > 40',
  'person.points + 5 = 12',
  'person.orders_count > 3',
  'person.orders_count = 0',
  'person.orders_total > 500',
  'person.orders_total > 500 and person.orders_count = 2',
  'person.last_order_at < "2020-01-01"',
  'days_between(person.last_order_at, now) > 365',
  'days_between(person.last_order_at, now) > 30 and days_between(person.last_order_at, now) < 60',
  'days_between(person.first_order_at, person.last_order_at) > 100',
  'person.last_seen_at is empty',
  'days_between(person.last_seen_at, now) > 90',
  'person.rank = 1',
  'person.rank <= 3 and person.orders_count >= 2',
  'order.total > 200',
  'order.status = "Shipped"',
  'any(order.lines, category = "Seeds")',
  'every(order.lines, in_stock)',
  'order is empty',
  'count(order.lines) > 4 and order.total < 30',
  'order.lines[1].quantity = 7',
  'any(cart.lines, quantity > 5)',
  'any(cart.lines, price < was_price)',
  'any(cart.lines, not in_stock)',
  'cart.total > order.total and order is filled',
  'cart.total >= 50 and cart.total < 51',
  'cart.discount > 0',
  'cart.quantity = 12',
  'cart.quantity > count(cart.lines) * 2',
  'count(cart.lines) > count(order.lines) and order is filled',
  'count(distinct(cart.lines, category)) = 3',
  'cart.lines where (category = "Seeds" and quantity > 3) is filled',
  'count(cart.lines where (name contains "ea")) > 1',
  'any(cart.lines, product.in_stock = false)',
  'any(cart.lines, properties is filled)',
  'cart.updated_at < "2026-11-01"',
  'days_between(cart.updated_at, now) >= 2',
  'if(person.consent, person.points, 0) > 10',
  'one_of(person.rank, 1, "top", "low") = "top"',
  '(person.points otherwise 0) > 5',
  'cart.currency = "EUR"',
])('somebody is made for whom %s', async (when) => {
  const template = blankTemplate('T', 's', [
    c.section('S', [{ ...c.text('yes', { id: 'yes', when }), else: c.text('no') }]),
  ]);
  const { program } = await build(template);
  const given = { template, program, products, now, currency: 'GBP', starts: [NOBODY], record };
  const solved = solve(given, { node: 'yes' });
  if (!solved.ok) throw new Error(solved.why);
  const tally = new Tally();
  prepare((await build(template)).program, { tally })(record(solved.data), { asOf: now });
  const needed = reachOf(template, tally.decisions).find(({ node }) => node.id === 'yes')?.needed;
  expect(needed && isReached(needed, tally.bits)).toBe(true);
});

test.each([
  ['cart.total > 5 and cart.total < 3', 'This condition never holds, whatever the data is.'],
  [
    'shop.name = "Other"',
    'It would need other shop data (shop.name), which is the same for everybody.',
  ],
])('why nobody can be made for %s is said', async (when, why) => {
  const template = blankTemplate('T', 's', [c.section('S', [c.text('yes', { id: 'yes', when })])]);
  const { program } = await build(template);
  const given = { template, program, products, now, currency: 'GBP', starts: [NOBODY], record };
  const solved = solve(given, { node: 'yes' });
  expect(solved.ok ? '' : solved.why).toContain(why);
});
