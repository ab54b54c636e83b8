import type { Fields } from '../formula';
import { counted } from '../words';
import type { Move, MoveGiven } from './move';

const COUNTS = [0, 1, 2, 3, 4, 5, 7];
/** So many products stand as the first pick in turn. */
const MOST_PRODUCTS = 24;

const sku = (product: Fields): string => String(product['sku'] ?? '');
const nameOf = (product: Fields): string => String(product['name'] ?? sku(product));

/** Groups of products that are alike in something that conditions ask: a category, whether it is in stock. */
function groupsOf(products: readonly Fields[]): { words: string; products: readonly Fields[] }[] {
  const byWords = new Map<string, Fields[]>();
  for (const product of products)
    for (const words of [
      `“${String(product['category'] ?? 'no category')}”`,
      product['in_stock'] === false ? 'out of stock' : 'in stock',
    ])
      byWords.set(words, [...(byWords.get(words) ?? []), product]);
  return [
    { words: 'any kind', products },
    ...[...byWords].map(([words, some]) => ({ words, products: some })),
  ];
}

/** Changes of what a rule picks: how many, of which kind, and which stands first. */
export function pickMoves(given: MoveGiven): Move[] {
  const rules = new Set(
    [...given.paths].flatMap((path) => {
      const [root, rule] = path.split('.');
      return root === 'picks' && rule !== undefined ? [rule] : [];
    }),
  );
  const counts = new Set([
    ...COUNTS,
    ...given.numbers
      .filter((n) => Number.isInteger(n) && n > 0 && n < 60)
      .flatMap((n) => [n, n + 1]),
  ]);
  const pick = (product: Fields) => ({ sku: sku(product), reason: 'Made up', step: 0 });
  type Pick = ReturnType<typeof pick>;
  return [...rules].flatMap((rule) => {
    const change = (words: string, edit: (picks: readonly Pick[]) => Pick[]): Move => ({
      words,
      make: (data) => {
        const before = (data.picks?.[rule] ?? []) as readonly Pick[];
        return { ...data, picks: { ...data.picks, [rule]: edit(before) } };
      },
    });
    return [
      ...groupsOf(given.products).flatMap(({ words, products }) =>
        [...counts].map((count) =>
          change(`${counted(count, 'pick')} of ${rule}, ${words}`, () =>
            Array.from({ length: count }, (_, i) => pick(products[i % products.length] ?? {})),
          ),
        ),
      ),
      ...given.products
        .slice(0, MOST_PRODUCTS)
        .flatMap((product) => [
          change(`${nameOf(product)} first of ${rule}`, (picks) => [
            pick(product),
            ...picks.slice(1),
          ]),
          change(`${nameOf(product)} also in ${rule}`, (picks) => [...picks, pick(product)]),
        ]),
    ];
  });
}
