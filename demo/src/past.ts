import type { DemoProduct } from './catalog';

/** What a catalog of the house changed before it was loaded: what a product cost, and whether there were some. */
export interface DemoChange {
  sku: string;
  at: Date;
  before: DemoState;
  after: DemoState;
}
interface DemoState {
  price: number;
  was_price: number | null;
  stock: number;
}

const DAY = 86_400_000;

const stateOf = ({ price, was_price, stock }: DemoProduct): DemoState => ({
  ...{ price, stock, was_price: was_price === '' ? null : was_price },
});

/**
 * The past of a catalog: what is lowered was lowered on one of the last 60 mornings, and every ninth of the rest was sold
 * out for a week. In the order of time.
 */
export function makePast(catalog: readonly DemoProduct[], asOf: Date): DemoChange[] {
  const morning = new Date(asOf.getTime()).setUTCHours(5, 30, 0, 0);
  const daysAgo = (days: number) => new Date(morning - days * DAY);
  const changes = catalog.flatMap((product, i): DemoChange[] => {
    const { sku } = product;
    const now = stateOf(product);
    if (now.was_price !== null)
      return [
        {
          ...{ sku, at: daysAgo(2 + ((i * 7) % 58)), after: now },
          before: { ...now, price: now.was_price, was_price: null },
        },
      ];
    if (i % 9 !== 0 || now.stock === 0) return [];
    const back = 1 + ((i * 5) % 50);
    const out = { ...now, stock: 0 };
    return [
      { sku, at: daysAgo(back + 7), before: now, after: out },
      { sku, at: daysAgo(back), before: out, after: now },
    ];
  });
  return changes.sort((a, b) => a.at.getTime() - b.at.getTime());
}
