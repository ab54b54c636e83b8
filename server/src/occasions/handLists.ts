import type { ListedCart } from '@carafe/contract';
import type { Job } from '../jobs/jobs';
import type { OutboxRepository } from '../outbox/repository';
import type { PeopleRepository } from '../people/repository';

export interface HandListTask {
  shop: string;
  list: 'carts' | 'orders';
  /** What was touched since is not left yet, and what was touched before is given up; ISO 8601. */
  quiet: string;
  oldest: string;
}
/** The latest, and how many there are. */
export interface HandList {
  rows: ListedCart[];
  of: number;
}
export interface HandListJobs {
  handList: Job<HandListTask, HandList>;
}
interface Parts {
  people: Pick<PeopleRepository, 'withCart' | 'withOrder'>;
  outbox: Pick<OutboxRepository, 'list'>;
}

const MOST_LISTED = 500;
const WHAT_LENGTH = 200;
const UNPAID = 'Awaiting payment';

type Row = Omit<ListedCart, 'last_mail'>;
type Person = ReturnType<PeopleRepository['withCart']> extends Iterable<infer T> ? T : never;

function rowOf({ id, data }: Person, list: HandListTask['list']): Row | null {
  const { cart, orders } = data.shopper;
  const person = data.person as Record<string, unknown>;
  const order = orders.findLast(({ status }) => status === UNPAID);
  const about = list === 'carts' ? cart : (order ?? null);
  const since = list === 'carts' ? cart?.updated_at : order?.placed_at;
  if (!about || since === undefined) return null;
  const { lines, currency } = about;
  const names = [person['first_name'], person['last_name']];
  const total =
    list === 'carts' ? lines.reduce((sum, line) => sum + line.total, 0) : (order?.total ?? 0);
  return {
    ...{ person: id, email: String(person['email'] ?? ''), since, currency },
    name: names.filter((n) => typeof n === 'string').join(' '),
    consent: person['consent'] === true,
    what:
      list === 'carts'
        ? lines
            .map(({ name }) => name)
            .join(', ')
            .slice(0, WHAT_LENGTH)
        : (order?.number ?? ''),
    total: Math.round(total * 100) / 100,
  };
}

/** Carts that are left, or orders that nobody paid, the latest first, with what was sent last. */
export function handList(parts: Parts, { shop, list, quiet, oldest }: HandListTask): HandList {
  const [from, until] = [Date.parse(oldest), Date.parse(quiet)];
  const rows: Row[] = [];
  const people =
    list === 'carts' ? parts.people.withCart(shop) : parts.people.withOrder(shop, UNPAID);
  for (const person of people) {
    const row = rowOf(person, list);
    if (!row) continue;
    const at = Date.parse(row.since);
    if (at <= until && at >= from) rows.push(row);
  }
  const listed = rows
    .sort((a, b) => (a.since < b.since ? 1 : -1))
    .slice(0, MOST_LISTED)
    .map((row) => ({
      ...row,
      last_mail:
        parts.outbox.list({ shop, email: row.email.toLowerCase() }, 1, 0)[0]?.made_at ?? null,
    }));
  return { rows: listed, of: rows.length };
}
