import type { Having, Recipient, RecipientFacets, RecipientList } from '@carafe/contract';
import type { Buying, PersonData, Shopper } from '@carafe/core/record';
import type { Fields } from '@carafe/core/formula';
import { asLongAsSame } from '../database/asLong';
import type { Db } from '../database/open';
import { walk } from '../database/walk';
import { listing, type Wanted } from './listing';
import { personRow, type KeptPerson } from './personRow';
import { testRecipientsRepository } from './testRecipientsRepository';
import { linkSigner, linksByKindSince, mailSecret, mailTokens } from './mailToken';

interface PersonRow {
  id: number;
  email: string;
  record: string;
  lines: number;
  orders: number;
  rank: number | null;
  shopper: string;
}

function nameOf(record: Record<string, unknown>): string {
  return [record['first_name'], record['last_name']].filter((n) => typeof n === 'string').join(' ');
}

/** What a person is to templates, as it is stored. */
function data(row: PersonRow): PersonData {
  return {
    person: JSON.parse(row.record) as Fields,
    shopper: JSON.parse(row.shopper) as Shopper,
    ...(row.rank !== null && { rank: row.rank }),
  };
}

function recipient({ id, email, record, lines, orders, rank }: PersonRow): Recipient {
  const person = JSON.parse(record) as Record<string, unknown>;
  return {
    ...{ id, email, name: nameOf(person), lines, orders, consent: person['consent'] === true },
    ...(rank !== null && { rank }),
    ...(person['guest'] === true && { guest: true as const }),
  };
}

/** So many people of a shop are many. */
const MANY = 20_000;

/** People as templates see them: put together from sources and events, and made again at any time. */
export function peopleRepository(db: Db) {
  const keepPerson = db.prepare<object, { id: number }>(
    `INSERT INTO people (shop, email, record) VALUES (@shop, @email, @record)
     ON CONFLICT (shop, email) DO UPDATE SET record = excluded.record RETURNING id`,
  );
  const keepShopper = db.prepare(
    `INSERT INTO shoppers (person, lines, orders, bought, last_order_at, spent, shopper)
     VALUES (@person, @lines, @orders, @bought, @last_order_at, @spent, @shopper)
     ON CONFLICT (person) DO UPDATE SET lines = excluded.lines, orders = excluded.orders, bought = excluded.bought,
       last_order_at = excluded.last_order_at, spent = excluded.spent, shopper = excluded.shopper`,
  );
  const keepRow = (shop: string, { email, record, ...shopper }: KeptPerson): number => {
    const row = keepPerson.get({ shop, email, record });
    if (!row) throw new Error('SQLite gave no id for a person.');
    keepShopper.run({ person: row.id, ...shopper });
    return row.id;
  };
  const dropShopper = db.prepare('DELETE FROM shoppers WHERE person = ?');
  const dropPerson = db.prepare('DELETE FROM people WHERE id = ?');
  const byEmail = db.prepare<[string, string], { id: number }>(
    'SELECT id FROM people WHERE shop = ? AND email = ?',
  );
  const emails = db.prepare<[string], { email: string }>('SELECT email FROM people WHERE shop = ?');
  const boughtBy = db
    .prepare<[string, string], string>(
      `SELECT json_array(bought, last_order_at, spent) FROM people JOIN shoppers ON shoppers.person = people.id
     WHERE shop = ? AND email = ? AND bought > 0`,
    )
    .pluck();
  const buying = db.prepare<[string], Buying & { id: number; rank: number | null }>(
    `SELECT people.id, rank, last_order_at, bought AS orders, spent FROM people JOIN shoppers ON shoppers.person = people.id
     WHERE shop = ?`,
  );
  const setRank = db.prepare('UPDATE shoppers SET rank = ? WHERE person = ?');
  const secret = mailSecret(db);
  const tokens = mailTokens(secret);
  const withToken = (shop: string, row: PersonRow): { id: number; data: PersonData } => ({
    id: row.id,
    data: { ...data(row), token: tokens.make({ shop, email: row.email }) },
  });
  // `+shop` keeps the index of addresses out of it: by it all people of a shop would be read and sorted, for a few.
  const joined = 'people JOIN shoppers ON shoppers.person = people.id';
  const columns = 'people.id, email, record, lines, orders, rank, shopper';
  const every = walk<[string], PersonRow>(
    db,
    `SELECT ${columns} FROM ${joined} WHERE +shop = ? ORDER BY people.id`,
  );
  const some = db.prepare<{ wanted: string; shop: string; having: Having }, PersonRow>(
    `SELECT ${columns} FROM (SELECT DISTINCT value FROM json_each(@wanted)) AS wanted
     CROSS JOIN people ON people.id = wanted.value JOIN shoppers ON shoppers.person = people.id
     WHERE +shop = @shop AND (@having <> 'cart' OR lines > 0) AND (@having <> 'order' OR orders > 0)
     ORDER BY people.id`,
  );
  const allOf = (shop: string, wanted: readonly number[]) =>
    some.all({ wanted: JSON.stringify(wanted), shop, having: 'all' });
  const ofEmails = db.prepare<[string, string], PersonRow>(
    `SELECT ${columns} FROM json_each(?) AS wanted CROSS JOIN people ON people.shop = ? AND people.email = wanted.value
     JOIN shoppers ON shoppers.person = people.id`,
  );
  const idsAfter = db
    .prepare<[string, number, number], number>(
      'SELECT id FROM people WHERE +shop = ? AND id > ? ORDER BY id LIMIT ?',
    )
    .pluck();
  const count = db.prepare<[string], number>('SELECT COUNT(*) FROM people WHERE shop = ?').pluck();
  const upTo = db
    .prepare<[string, number], number>(
      'SELECT COUNT(*) FROM (SELECT 1 FROM people WHERE shop = ? LIMIT ?)',
    )
    .pluck();
  const withInCart = db.prepare<[string, string], { id: number; sku: string }>(
    `SELECT DISTINCT people.id, line.value ->> '$.sku' AS sku FROM ${joined}, json_each(shopper, '$.cart.lines') AS line
     WHERE shop = ? AND lines > 0 AND line.value ->> '$.sku' IN (SELECT value FROM json_each(?))`,
  );
  const carts = walk<[string], PersonRow>(
    db,
    `SELECT ${columns} FROM shoppers INDEXED BY shoppers_with_cart CROSS JOIN people ON people.id = person
     WHERE +shop = ? AND lines > 0`,
  );
  const orders = walk<[string, string], PersonRow>(
    db,
    `SELECT ${columns} FROM shoppers INDEXED BY shoppers_with_order CROSS JOIN people ON people.id = person
     WHERE +shop = ? AND orders > 0 AND instr(shopper, ?) > 0`,
  );
  const spread = walk<[{ shop: string; every: number }], PersonRow>(
    db,
    `SELECT ${columns} FROM ${joined} WHERE +shop = @shop AND people.id % @every = 0 ORDER BY people.id`,
  );
  const lists = listing<PersonRow>(db, columns);
  const tests = testRecipientsRepository(db);
  return {
    idOf: (shop: string, email: string): number | null => byEmail.get(shop, email)?.id ?? null,
    /** Ids of the people of a shop that come after one, so many at most. */
    idsAfter: (shop: string, id: number, most: number): number[] => idsAfter.all(shop, id, most),
    /** Ids of people whose cart holds one of some products, and which. */
    withInCart: (shop: string, skus: readonly string[]) =>
      withInCart.all(shop, JSON.stringify(skus)),
    count: asLongAsSame(db, (shop: string): number => count.get(shop) ?? 0),
    /** Whether a shop has more people than are looked through in a moment. */
    areMany: (shop: string): boolean => (upTo.get(shop, MANY) ?? 0) === MANY,
    emails: (shop: string): string[] => emails.all(shop).map((row) => row.email),
    keep: (shop: string, email: string, person: Fields, shopper: Shopper): number =>
      keepRow(shop, personRow(email, person, shopper)),
    keepRow,
    drop(id: number): void {
      dropShopper.run(id);
      dropPerson.run(id);
    },
    /** Tells whether somebody is known without consent; asked for every row of a file, so by the index. */
    saidNo(shop: string | null): (email: string) => boolean {
      const where = shop === null ? 'shop IN (SELECT id FROM shops)' : 'shop = @shop';
      const find = db.prepare<object, { no: number }>(
        `SELECT 1 AS no FROM people WHERE ${where} AND email = @email
         AND NOT coalesce(json_extract(record, '$.consent'), 0) LIMIT 1`,
      );
      return (email) => find.get(shop === null ? { email } : { email, shop }) !== undefined;
    },
    /** What ranking looks at of one person, to be compared; undefined for somebody who bought nothing. */
    boughtBy: (shop: string, email: string): string | undefined => boughtBy.get(shop, email),
    /** What ranking looks at, with the ranks that people have now. */
    buying: (shop: string) => buying.all(shop),
    setRank: (id: number, rank: number | null): void => void setRank.run(rank, id),
    /** People who fit; test recipients that fit come last. */
    list(shop: string, wanted: Wanted, limit: number, offset: number): RecipientList {
      const { total, rows } = lists.find(shop, wanted, limit, offset);
      const made = tests.list(shop, wanted);
      const from = Math.max(0, offset - total);
      const room = Math.max(0, limit - rows.length);
      return {
        total: total + made.length,
        recipients: [...rows.map(recipient), ...made.slice(from, from + room)],
      };
    },
    facets: (shop: string): RecipientFacets => lists.facets(shop),
    standing: (shop: string, email: string) => lists.standing(shop, email),
    some: (shop: string, wanted: readonly number[]): Recipient[] => [
      ...allOf(shop, wanted).map(recipient),
      ...tests.some(shop, wanted),
    ],
    /** People of a shop by their addresses, with what stands for them in links. */
    ofEmails: (shop: string, emails: readonly string[]) =>
      new Map(
        ofEmails.all(JSON.stringify(emails), shop).map((row) => [row.email, withToken(shop, row)]),
      ),
    data: (shop: string, wanted: readonly number[]): { id: number; data: PersonData }[] => [
      ...allOf(shop, wanted).map((row) => withToken(shop, row)),
      ...tests.data(shop, wanted),
    ],
    /**
     * The same for many who get no mail by it: what stands for them in links is their id. Those who have nothing in
     * the cart, or no order, where that is asked for, are not even read.
     */
    bare: (
      shop: string,
      wanted: readonly number[],
      having: Having = 'all',
    ): { id: number; data: PersonData }[] =>
      some.all({ wanted: JSON.stringify(wanted), shop, having }).map((row) => ({
        id: row.id,
        data: { ...data(row), token: `of-${row.id}` },
      })),
    tokens,
    signer: linkSigner(secret),
    /** Since when each kind of link has a signature of its own, ISO 8601. */
    linksByKindSince: linksByKindSince(db),
    /** Those who have something in the cart. */
    *withCart(shop: string): Generator<{ id: number; data: PersonData }> {
      for (const row of carts(shop)) yield { id: row.id, data: data(row) };
    },
    /** Those who have an order of a status, and few others. */
    *withOrder(shop: string, status: string): Generator<{ id: number; data: PersonData }> {
      for (const row of orders(shop, JSON.stringify(status))) yield { id: row.id, data: data(row) };
    },
    /** Everybody with their ids. */
    *each(shop: string): Generator<{ id: number; data: PersonData }> {
      for (const row of every(shop)) yield { id: row.id, data: data(row) };
    },
    /** About so many people of a shop, from all of it: always the same as long as nobody comes or goes. */
    *spread(shop: string, most: number): Generator<PersonData> {
      const every = Math.max(1, Math.ceil((count.get(shop) ?? 0) / most));
      for (const row of spread({ shop, every })) yield data(row);
    },
    /** Everybody, without what stands for them in links. */
    *all(shop: string): Generator<PersonData> {
      for (const row of every(shop)) yield data(row);
    },
  };
}
export type PeopleRepository = ReturnType<typeof peopleRepository>;
