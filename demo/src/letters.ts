import type { Template } from '@carafe/core/template';
import { GREETING, letter, type Composer } from './house';

/** Cards of what a rule picks, each with the reason; what stands above does not come again. */
const picks = (c: Composer, rule: string, columns: number) =>
  c.block('cards', {
    items: { list: `picks.${rule}`, as: 'product', at_most: columns === 3 ? 3 : 4, once: true },
    columns,
    fields: [
      {
        show: 'picture',
        src: '{{ product.image }}',
        alt: '{{ product.name }}',
        href: '{{ product.url }}',
      },
      { show: 'words', text: '{{ product.name }}', weight: 'strong', href: '{{ product.url }}' },
      { show: 'words', text: '{{ product.reason }}', weight: 'quiet' },
      { show: 'price', price: 'product.price', was: 'product.was_price' },
    ],
  });

/** Mails whose products are chosen for each person by a rule. */
export function letters(): Template[] {
  return [
    letter(
      'Chosen for you',
      'A few things we thought of you for',
      'By what you grow, and what is due.',
      (c) => [
        c.section('Opening', [
          c.heading('A few things we thought of you for', { level: 1 }),
          c.text(`${GREETING} we went along the shelves with your orders in hand.`),
        ]),
        c.section('New for you', [picks(c, 'new_for_you', 2)]),
        c.section('Due again', [
          c.heading('About time for more?', { level: 2 }),
          picks(c, 'due_again', 3),
        ]),
      ],
    ),
    letter('After the purchase', 'How is it growing?', 'And what goes with it next.', (c) => [
      c.section('Opening', [
        c.heading('How is it growing?', { level: 1 }),
        c.text(
          `${GREETING} it is a while since your order {{ order.number }}. These often come next.`,
          { when: 'order is filled', else: c.text(`${GREETING} these are what others took home.`) },
        ),
      ]),
      c.section('What comes next', [picks(c, 'after_purchase', 2)]),
    ]),
    letter(
      'Still on the bench',
      'Still on the bench, and what goes with it',
      '{{ plural(cart.count, "One thing is", "# things are") }} waiting.',
      (c) => [
        c.section('Your cart', [
          c.heading('Still on the bench', { level: 1 }),
          c.block('lines', {
            items: { list: 'cart.lines', as: 'line' },
            columns: [
              { show: 'picture', heading: '' },
              { show: 'item', heading: 'Item' },
              { show: 'quantity', heading: 'Qty' },
              { show: 'total', heading: 'Total' },
            ],
            properties: false,
          }),
          c.button('Back to the bench', '{{ cart.recover_url }}'),
        ]),
        c.section('Goes with it', [
          c.heading('Goes with it', { level: 2 }),
          picks(c, 'beside_cart', 2),
        ]),
      ],
    ),
  ];
}
