import type { Having, RankStanding, RecipientFacets, RecipientFilter } from '@carafe/contract';
import { fifthOf } from '@carafe/core/record';
import type { Db } from '../database/open';

/** Which recipients. */
export interface Wanted {
  having: Having;
  /** Words of the address, the name or any other field. */
  search: string;
  filter: RecipientFilter;
}

/** Everybody who has what is needed. */
export const everyone = (having: Having = 'all'): Wanted => ({ having, search: '', filter: {} });

const HAVING: Record<Having, string> = {
  all: '1',
  cart: 'lines > 0',
  order: 'orders > 0',
};
/** All of a shop, from indexes alone. */
const COUNTED: Record<Having, string> = {
  all: 'people WHERE shop = @shop',
  cart: 'shoppers INDEXED BY shoppers_with_cart CROSS JOIN people ON id = person WHERE +shop = @shop AND lines > 0',
  order:
    'shoppers INDEXED BY shoppers_with_order CROSS JOIN people ON id = person WHERE +shop = @shop AND orders > 0',
};
const field = (name: string) => `coalesce(json_extract(record, '$.${name}'), '')`;
/** What each part of a filter asks; a part that is not given asks nothing. */
const FILTER = `
  AND (@language IS NULL OR lower(${field('locale')}) = lower(@language)
    OR lower(${field('locale')}) LIKE lower(@language) || '-%')
  AND (@country IS NULL OR lower(${field('country')}) = lower(@country))
  AND (@name IS NULL OR trim(${field('first_name')} || ${field('last_name')}) = '')
  AND (@lines IS NULL OR lines >= @lines)
  AND (@orders IS NULL OR (orders > 0) = (@orders = 'some'))
  AND (@consent IS NULL OR (coalesce(json_extract(record, '$.consent'), 0) = 1) = (@consent = 'yes'))`;
const OPEN = {
  language: null,
  country: null,
  name: null,
  lines: null,
  orders: null,
  consent: null,
};
const MOST_FACETS = 60;

interface StandingRow extends Omit<RankStanding, 'recency' | 'frequency' | 'spend'> {
  earlier: number;
  fewer: number;
  less: number;
}

/** Lists the people of a shop by what is asked. */
export function listing<Row>(db: Db, columns: string) {
  const joined = 'people JOIN shoppers ON shoppers.person = people.id';
  const by = Object.fromEntries(
    (Object.keys(HAVING) as Having[]).map((having) => {
      const has = HAVING[having];
      // Records are looked into only where something is asked of them.
      const asked = `(@q = '' OR instr(lower(email || ' ' || record), @q) > 0) ${FILTER}`;
      const count = (from: string) =>
        db.prepare<object, number>(`SELECT COUNT(*) FROM ${from}`).pluck();
      return [
        having,
        {
          // In the order of ids, of which a page is enough; by the index of addresses all would be read and sorted.
          rows: db.prepare<object, Row>(
            `SELECT ${columns} FROM ${joined} WHERE +shop = @shop AND ${has} AND ${asked}
             ORDER BY people.id LIMIT @limit OFFSET @offset`,
          ),
          count: count(`${joined} WHERE shop = @shop AND ${has} AND ${asked}`),
          all: count(COUNTED[having]),
        },
      ];
    }),
  );
  const facet = (name: string) =>
    db.prepare<[string], { value: string; people: number }>(
      `SELECT json_extract(record, '$.${name}') AS value, COUNT(*) AS people FROM people
       WHERE shop = ? AND typeof(value) = 'text' AND value <> ''
       GROUP BY value ORDER BY people DESC, value LIMIT ${MOST_FACETS}`,
    );
  const standing = db.prepare<{ shop: string; email: string }, StandingRow>(
    `SELECT mine.rank, mine.last_order_at, mine.bought AS orders, mine.spent, COUNT(*) AS buyers,
       SUM(theirs.last_order_at < mine.last_order_at) AS earlier, SUM(theirs.bought < mine.bought) AS fewer,
       SUM(theirs.spent < mine.spent) AS less
     FROM (SELECT shoppers.* FROM ${joined} WHERE shop = @shop AND email = @email AND bought > 0) AS mine
     CROSS JOIN (SELECT shoppers.* FROM ${joined} WHERE +shop = @shop AND bought > 0) AS theirs
     GROUP BY mine.person`,
  );
  const languages = facet('locale');
  const countries = facet('country');
  return {
    find(shop: string, { having, search, filter }: Wanted, limit: number, offset: number) {
      const given = { ...OPEN, ...filter, shop, q: search.trim().toLowerCase(), limit, offset };
      const found = by[having];
      const isOpen = given.q === '' && Object.values(filter).every((one) => one === undefined);
      const total = isOpen ? found?.all.get({ shop }) : found?.count.get(given);
      return { total: total ?? 0, rows: found?.rows.all(given) ?? [] };
    },
    /** What the rank of a person is made of; null for who never ordered. */
    standing(shop: string, email: string): RankStanding | null {
      const row = standing.get({ shop, email });
      if (!row) return null;
      const { rank, last_order_at, orders, spent, buyers, earlier, fewer, less } = row;
      return {
        ...{ rank, last_order_at, orders, spent, buyers },
        recency: fifthOf(earlier, buyers),
        frequency: fifthOf(fewer, buyers),
        spend: fifthOf(less, buyers),
      };
    },
    facets: (shop: string): RecipientFacets => ({
      languages: languages.all(shop),
      countries: countries.all(shop),
    }),
  };
}
