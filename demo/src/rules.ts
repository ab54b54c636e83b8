import { Rule } from '@carafe/core/recommend';

const EVER = { out_of_stock: true, in_cart: true, bought_days: 'ever' as const };

/** The rules of the demo's first shop. */
export const demoRules = (): Rule[] =>
  [
    {
      ...{ name: 'after_purchase', label: 'After the purchase', number: 4 },
      steps: [
        { take: 3, step: { kind: 'bought_next', seed: 'all_orders' } },
        { take: 2, step: { kind: 'bought_together', seed: 'latest_order' } },
        { take: 4, step: { kind: 'same_taste' } },
        { take: 4, step: { kind: 'best_sellers', days: 90, by: 'buyers' } },
      ],
      exclude: EVER,
      spread: { by: 'category', most: 3 },
    },
    {
      ...{ name: 'beside_cart', label: 'Beside the cart', number: 4 },
      steps: [
        { take: 3, step: { kind: 'bought_together', seed: 'cart' } },
        {
          take: 2,
          step: {
            ...{ kind: 'similar', seed: 'cart' },
            weights: { words: 3, category: 2, brand: 0, tags: 1, price: 1 },
          },
        },
        { take: 4, step: { kind: 'best_sellers', days: 60, by: 'buyers', half_life: 30 } },
      ],
      exclude: EVER,
    },
    {
      ...{ name: 'new_for_you', label: 'New for you', number: 4, mixed: true },
      steps: [
        { take: 4, weight: 3, step: { kind: 'same_taste' } },
        { take: 4, weight: 2, step: { kind: 'bought_next', seed: 'all_orders' } },
        { take: 4, weight: 0.5, step: { kind: 'newest' } },
        { take: 4, step: { kind: 'best_sellers', days: 90, by: 'buyers' } },
      ],
      exclude: EVER,
      spread: { by: 'category', most: 2 },
    },
    {
      ...{ name: 'due_again', label: 'Due again', number: 3 },
      steps: [
        { take: 3, step: { kind: 'due_again' } },
        {
          take: 3,
          step: { kind: 'best_sellers', days: 90, by: 'buyers', among: 'own_categories' },
        },
      ],
      exclude: { out_of_stock: true, in_cart: true },
    },
  ].map((rule) => Rule.parse(rule));
