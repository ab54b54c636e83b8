import { z } from 'zod';
import { candidatesOf, defineStep, kept, rankedBy, textOf, type Asked, type Shop } from '../define';
import { dayOf } from '../lines';
import { counted } from '../../words';
import { latestOf } from '../seeds';
import { reasonIn } from '../reasons';

const schema = z.strictObject({
  kind: z.literal('best_sellers'),
  /** The last so many days count. */
  days: z.number().int().min(1).max(3650),
  by: z.enum(['units', 'revenue', 'buyers']),
  /** What was sold so many days ago counts half; all alike where it is left out. */
  half_life: z.number().int().min(1).max(3650).optional(),
  /** Of the whole shop, of the categories that somebody bought from, or among people of their country or of a segment. */
  among: z.enum(['shop', 'own_categories', 'country', 'segment']).optional(),
  /** Of `segment`: its name. */
  segment: z.string().max(100).optional(),
});
type BestSellers = z.infer<typeof schema>;

function reckoned(
  { history }: Shop,
  { days, by, half_life: half }: BestSellers,
  today: number,
  counts: (person: number) => boolean,
): Float64Array {
  const { bought, products } = history;
  const sold = new Float64Array(products.all.length);
  const last = new Int32Array(products.all.length).fill(-1);
  for (let p = 0; p < bought.starts.length - 1; p++) {
    if (!counts(p)) continue;
    for (let i = bought.starts[p] ?? 0; i < (bought.starts[p + 1] ?? 0); i++) {
      const age = today - (bought.day[i] ?? 0);
      if (age < 0 || age >= days) continue;
      const product = bought.product[i] ?? 0;
      const units = bought.quantity[i] ?? 0;
      const isNew = last[product] !== p;
      last[product] = p;
      const amount =
        by === 'units' ? units : by === 'revenue' ? units * (bought.price[i] ?? 0) : isNew ? 1 : 0;
      const weight = half === undefined ? 1 : 0.5 ** (age / half);
      sold[product] = (sold[product] ?? 0) + amount * weight;
    }
  }
  return sold;
}

const segmentOf = ({ among, segment }: BestSellers): string | null =>
  among === 'segment' ? (segment ?? '') : null;

/** What a reckoning is told by among those of its day. */
const keyOf = (step: BestSellers, now: number, country: number | null): string =>
  `${dayOf(now)} ${country ?? ''} ${step.days} ${step.by} ${step.half_life ?? ''} ${segmentOf(step) ?? ''}`;

/** What each product of the history sold, as the step counts it; reckoned once a day for a step. */
export function sales(
  shop: Shop,
  step: BestSellers,
  now: number,
  country: number | null = null,
): Float64Array {
  const { people, country: of } = shop.history;
  const segment = segmentOf(step);
  const members = segment === null ? null : (shop.segments.get(segment) ?? new Set<string>());
  const counts = (person: number) =>
    (country === null || of[person] === country) &&
    (members === null || members.has(people.all[person] ?? ''));
  const key = `sales ${keyOf(step, now, country)}`;
  return kept(shop, key, () => reckoned(shop, step, dayOf(now), counts));
}

/** The country of somebody as the history knows it; null where it does not, and all count. */
function countryOf({ history }: Shop, { country }: Asked): number | null {
  return country === undefined ? null : (history.countries.find(country) ?? null);
}

/** The categories that somebody bought from. */
export function categoriesOf(shop: Shop, skus: readonly string[]): Set<string> {
  const all = new Set(skus.map((sku) => textOf(shop.bySku.get(sku)?.record ?? {}, 'category')));
  all.delete('');
  return all;
}

const WORDS = {
  units: (n: number) => `sold ${counted(n, 'time')}`,
  revenue: (n: number) => `sold for ${n}`,
  buyers: (n: number) => `bought by ${counted(n, 'person', 'people')}`,
};

export const bestSellers = defineStep({
  kind: 'best_sellers',
  name: 'Best sellers',
  description: 'What sold best recently.',
  schema,
  make: () => ({ kind: 'best_sellers' as const, days: 90, by: 'units' as const }),
  fields: [
    {
      control: 'choice',
      path: 'by',
      before: 'by',
      options: [
        { value: 'units', label: 'pieces sold' },
        { value: 'revenue', label: 'money taken' },
        { value: 'buyers', label: 'people who bought' },
      ],
    },
    { control: 'number', path: 'days', before: 'of the last', after: 'days', most: 3650 },
    {
      control: 'number',
      path: 'half_life',
      before: 'half-life of a sale:',
      none: 'none',
      after: 'days',
      most: 3650,
      optional: true,
    },
    {
      control: 'choice',
      path: 'among',
      before: 'in',
      options: [
        { value: 'shop', label: 'the whole shop' },
        { value: 'own_categories', label: 'categories they bought from' },
        { value: 'country', label: 'their country' },
        { value: 'segment', label: 'a segment' },
      ],
    },
    { control: 'segment', path: 'segment', before: '', when: { path: 'among', is: 'segment' } },
  ],
  *candidates(step, shop, asked) {
    const country = step.among === 'country' ? countryOf(shop, asked) : null;
    const sold = sales(shop, step, asked.now, country);
    const key = `best ${keyOf(step, asked.now, country)}`;
    const all = kept(shop, key, () =>
      rankedBy(shop.products, ({ number }) => (number === undefined ? 0 : (sold[number] ?? 0))),
    );
    const own =
      step.among === 'own_categories'
        ? categoriesOf(shop, latestOf(shop, shop.own.bought, asked.person))
        : null;
    const shown =
      own && own.size > 0
        ? all.filter(({ product }) => own.has(textOf(product.record, 'category')))
        : all;
    yield* candidatesOf(shown, ({ score }) => ({
      figure: `${WORDS[step.by](Math.round(score * 10) / 10)} in ${counted(step.days, 'day')}${step.half_life === undefined ? '' : ', counting less what is older'}`,
      reason: reasonIn(shop, 'bestSeller'),
    }));
  },
});
