import {
  cents,
  lineOfProduct,
  NEW_SHOPPER,
  type Cart,
  type Line,
  type Order,
  type PersonData,
} from '../record';
import { counted } from '../words';
import type { Move, MoveGiven } from './move';
import { pickMoves } from './pickMoves';
import { datesFor, listsFor, valuesFor } from './values';

const DAY = 86_400_000;
const COUNTS = [1, 2, 3, 4, 5, 7];
const MOST_PRODUCTS = 24;
/** Fields of a person that are reckoned from orders and events. */
const RECKONED = new Set(
  'orders_count orders_total first_order_at last_order_at last_seen_at rank email'.split(' '),
);

const linesOf = (given: MoveGiven, count: number, from = 0): Line[] =>
  Array.from({ length: count }, (_, i) =>
    lineOfProduct(given.products[(from + i) % Math.max(1, given.products.length)] ?? {}),
  );

function cartOf(given: MoveGiven, lines: Line[]): Cart {
  const at = new Date(given.now.getTime() - 3 * 3_600_000).toISOString();
  return { id: 'made', started_at: at, updated_at: at, currency: given.currency, lines };
}

function orderOf(given: MoveGiven, lines: Line[], number = 1): Order {
  const subtotal = cents(lines.reduce((sum, { total }) => sum + total, 0));
  return {
    number: `made-${number}`,
    placed_at: new Date(given.now.getTime() - number * DAY).toISOString(),
    ...{ status: 'Paid', currency: given.currency, lines, subtotal, total: subtotal },
  };
}

const withPerson =
  (name: string, value: unknown) =>
  (data: PersonData): PersonData => {
    const person: Record<string, unknown> = { ...data.person };
    if (value === undefined) delete person[name];
    else person[name] = value;
    return { ...data, person };
  };
const withCart =
  (change: (cart: Cart | null) => Cart | null) =>
  (data: PersonData): PersonData => ({
    ...data,
    shopper: { ...data.shopper, cart: change(data.shopper.cart) },
  });
const withOrders =
  (change: (orders: Order[]) => Order[]) =>
  (data: PersonData): PersonData => ({
    ...data,
    shopper: { ...data.shopper, orders: change([...data.shopper.orders]) },
  });

/** A line, cart or order with a field of its own put in place; what is reckoned from it follows. */
function putField<T extends object>(owner: T, name: string, value: unknown): T {
  const next = { ...owner } as Record<string, unknown>;
  if (value === undefined) delete next[name];
  else next[name] = value;
  return next as T;
}

function lineMoves(given: MoveGiven, where: 'cart' | 'order'): Move[] {
  const prefix = `${where}.lines.`;
  const moves: Move[] = [];
  const change = (words: string, edit: (lines: Line[]) => Line[]): void => {
    const make =
      where === 'cart'
        ? withCart((cart) => (cart ? { ...cart, lines: edit(cart.lines) } : cart))
        : withOrders((orders) =>
            orders.map((order, i) =>
              i === orders.length - 1 ? { ...order, lines: edit(order.lines) } : order,
            ),
          );
    moves.push({ words, make });
  };
  const fields = new Set(
    [...given.paths]
      .filter((path) => path.startsWith(prefix))
      .map((path) => path.slice(prefix.length)),
  );
  for (const field of fields) {
    const [name = ''] = field.split('.');
    if (name === 'product' || name === 'in_stock' || name === 'category' || name === 'sku') {
      given.products.slice(0, MOST_PRODUCTS).forEach((product) => {
        const made = lineOfProduct(product);
        change(`${where} line of ${made.name}`, (lines) => [made, ...lines.slice(1)]);
        change(`${where} lines of ${made.name}`, (lines) => lines.map(() => made));
      });
      continue;
    }
    if (name === 'properties')
      change(`${where} line with a property`, ([first, ...rest]) =>
        first
          ? [
              { ...first, properties: [{ name: given.texts[0] ?? 'Label', value: 'Made' }] },
              ...rest,
            ]
          : [],
      );
    else
      for (const { words, value } of valuesFor(given, given.now)) {
        const isNumber = ['price', 'quantity', 'total'].includes(name);
        if (isNumber && typeof value !== 'number' && value !== undefined) continue;
        for (const all of [false, true])
          change(`${where} ${all ? 'lines' : 'line'}: ${name} ${words}`, (lines) =>
            lines.map((line, i) => {
              if (!all && i > 0) return line;
              const next = putField(line, name, value);
              return isNumber && name !== 'total'
                ? { ...next, total: cents(next.price * next.quantity) }
                : next;
            }),
          );
      }
  }
  return moves;
}

function cartMoves(given: MoveGiven): Move[] {
  const moves: Move[] = [{ words: 'no cart', make: withCart(() => null) }];
  for (const count of new Set([
    ...COUNTS,
    ...given.numbers
      .filter((n) => Number.isInteger(n) && n > 0 && n < 60)
      .flatMap((n) => [n, n + 1]),
  ]))
    moves.push({
      words: `a cart of ${count}`,
      make: withCart((cart) => ({ ...cartOf(given, []), ...cart, lines: linesOf(given, count) })),
    });
  for (const name of [
    'total',
    'discount',
    'currency',
    'updated_at',
    'started_at',
    'id',
    'recover_url',
  ] as const)
    if (given.paths.has(`cart.${name}`))
      for (const { words, value } of valuesFor(given, given.now))
        moves.push({
          words: `cart ${name} ${words}`,
          make: withCart((cart) => putField(cart ?? cartOf(given, linesOf(given, 1)), name, value)),
        });
  if (
    given.paths.has('cart.subtotal') ||
    given.paths.has('cart.total') ||
    given.paths.has('cart.quantity')
  )
    for (const number of given.numbers.flatMap((n) => [n, n + 1, n - 1]).filter((n) => n >= 0)) {
      moves.push({
        words: `a cart worth ${number}`,
        make: withCart((cart) => {
          const { total: _t, discount: _d, ...base } = cart ?? cartOf(given, []);
          const [line] = linesOf(given, 1);
          return { ...base, lines: line ? [{ ...line, price: number, total: number }] : [] };
        }),
      });
      moves.push({
        words: `${number} of one thing`,
        make: withCart((cart) => {
          const [line] = linesOf(given, 1);
          const lines = line
            ? [{ ...line, quantity: number, total: cents(line.price * number) }]
            : [];
          return { ...(cart ?? cartOf(given, [])), lines };
        }),
      });
    }
  return [...moves, ...lineMoves(given, 'cart')];
}

function orderMoves(given: MoveGiven): Move[] {
  const counts = new Set([
    0,
    ...COUNTS,
    ...given.numbers
      .filter((n) => Number.isInteger(n) && n >= 0 && n < 40)
      .flatMap((n) => [n, n + 1]),
  ]);
  const moves: Move[] = [...counts].map((count) => ({
    words: counted(count, 'order'),
    make: withOrders((orders) =>
      Array.from(
        { length: count },
        (_, i) => orders[i] ?? orderOf(given, linesOf(given, 1, i), count - i),
      ),
    ),
  }));
  for (const count of COUNTS)
    moves.push({
      words: `an order of ${count}`,
      make: withOrders(() => [orderOf(given, linesOf(given, count))]),
    });
  const asked = new Set(
    [...given.paths]
      .filter((path) => path.startsWith('order.'))
      .map((path) => path.split('.')[1] ?? ''),
  );
  if ([...given.paths].some((path) => /person\.(?:first|last)_order_at/.test(path)))
    asked.add('placed_at');
  if (given.paths.has('person.orders_total')) asked.add('total');
  for (const name of asked)
    if (name !== 'lines' && name !== 'count')
      for (const { words, value } of valuesFor(given, given.now))
        moves.push({
          words: `order ${name} ${words}`,
          make: withOrders((orders) => {
            const some = orders.length > 0 ? orders : [orderOf(given, linesOf(given, 1))];
            return some.map((order, i) =>
              i === some.length - 1 ? putField(order, name, value) : order,
            );
          }),
        });
  // Of several orders, the first is another than the last.
  if (given.paths.has('person.first_order_at'))
    for (const { words, value } of datesFor(given, given.now))
      moves.push({
        words: `first order placed ${words}`,
        make: withOrders(([first, ...rest]) => [
          { ...(first ?? orderOf(given, linesOf(given, 1))), placed_at: String(value) },
          ...(rest.length > 0 ? rest : [orderOf(given, linesOf(given, 1))]),
        ]),
      });
  return [...moves, ...lineMoves(given, 'order')];
}

/** Every change that may bring a condition about: of the fields that are asked, with values near those compared with. */
export function movesFor(given: MoveGiven): Move[] {
  const moves: Move[] = [];
  const roots = new Set([...given.paths].map((path) => path.split('.')[0]));
  const person = [...given.paths].flatMap((path) => {
    const [root, name] = path.split('.');
    return root === 'person' && name !== undefined ? [name] : [];
  });
  for (const name of new Set(person))
    if (!RECKONED.has(name))
      for (const { words, value } of name === 'tags'
        ? listsFor(given)
        : valuesFor(given, given.now))
        moves.push({ words: `${name} ${words}`, make: withPerson(name, value) });
  if (person.includes('email'))
    for (const text of given.texts) {
      const email = text.includes('@')
        ? text.replace(/^@/, 'made-up@')
        : `${text}@recipient.example`;
      moves.push({ words: `address ${email}`, make: withPerson('email', email) });
    }
  if (person.includes('rank'))
    for (const rank of [1, 2, 3, 4, 5])
      moves.push({ words: `rank ${rank}`, make: (data) => ({ ...data, rank }) });
  if (person.includes('last_seen_at'))
    for (const { words, value } of valuesFor(given, given.now))
      if (typeof value === 'string' || value === undefined)
        moves.push({
          words: `seen ${words}`,
          make: (data) => ({ ...data, shopper: { ...data.shopper, last_seen_at: value ?? null } }),
        });
  if (roots.has('cart')) moves.push(...cartMoves(given));
  if (roots.has('order') || person.some((name) => /order/.test(name)))
    moves.push(...orderMoves(given));
  if (roots.has('picks')) moves.push(...pickMoves(given));
  return moves;
}

/** A person nothing is known about but an address. */
export const NOBODY: PersonData = {
  person: { email: 'made-up@recipient.example' },
  shopper: NEW_SHOPPER,
};
