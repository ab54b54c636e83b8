import type { Template } from '@carafe/core/template';
import { GREETING, letter, type Composer } from './house';

const ordered = (c: Composer) =>
  c.block('lines', {
    items: { list: 'order.lines', as: 'line' },
    columns: [
      { show: 'item', heading: 'Item' },
      { show: 'quantity', heading: 'Qty' },
      { show: 'total', heading: 'Total' },
    ],
    properties: true,
  });

/** What occasions of the house send: about orders, after the first one, and from the journal. */
export function serviceMails(): Template[] {
  return [
    letter(
      'Your order is on its way',
      'Your order {{ order.number }} is on its way',
      'Packed, labelled and gone with the van.',
      (c) => [
        c.section('On its way', [
          c.heading('Gone with the van', { level: 1 }),
          c.text(`${GREETING} your order {{ order.number }} left the yard today.`),
          ordered(c),
          c.button('See your order', '{{ order.view_url }}'),
        ]),
      ],
    ),
    letter(
      'Pay for your order',
      'Your order {{ order.number }} waits for its payment',
      '{{ money(order.total) }}, and it goes out.',
      (c) => [
        c.section('Pay', [
          c.heading('One thing is missing', { level: 1 }),
          c.text(
            `${GREETING} your order {{ order.number }} is packed. As soon as {{ money(order.total) }} is paid, it goes out.`,
          ),
          ordered(c),
          c.button('Pay now', '{{ order.pay_url otherwise order.view_url }}'),
        ]),
      ],
    ),
    letter(
      'For the owner: a new order',
      'Order {{ order.number }}, {{ money(order.total) }}',
      '{{ person.first_name }} {{ person.last_name }}',
      (c) => [
        c.section('Order', [
          c.heading('Order {{ order.number }}', { level: 1 }),
          c.text(
            '{{ person.first_name }} {{ person.last_name }} ({{ person.email }}), order no. {{ person.orders_count }} of theirs.',
          ),
          ordered(c),
          c.text('They ask: {{ order.note }}', { when: 'order.note is filled' }),
        ]),
      ],
    ),
    letter(
      'Welcome: your first parcel',
      'Welcome, {{ title(person.first_name) otherwise "gardener" }}',
      'Who packs your parcels, and how to reach us.',
      (c) => [
        c.section('Welcome', [
          c.heading('Your first parcel', { level: 1 }),
          c.text(`${GREETING} thank you for your first order. We are nine people and a dog.`),
        ]),
      ],
    ),
    letter(
      'Welcome: how to sow it',
      'How to sow what you ordered',
      'Twice as deep as wide.',
      (c) => [
        c.section('Sowing', [
          c.heading('Before you sow', { level: 1 }),
          c.text(
            'Soak the seed overnight, sow it twice as deep as it is wide, and label it first.',
          ),
          c.button('Read the sowing notes', 'https://shop.quillmoss.example/sowing'),
        ]),
      ],
    ),
    letter(
      'Welcome: what comes next',
      'What others grew next',
      'By those who began as you did.',
      (c) => [
        c.section('Next', [
          c.heading('What others grew next', { level: 1 }),
          c.text(`${GREETING} these often follow a first order.`),
          c.block('cards', {
            items: { list: 'picks.after_purchase', as: 'product', at_most: 4 },
            columns: 2,
          }),
        ]),
      ],
    ),
    letter(
      'The Furrow digest',
      'New in The Furrow: {{ first(feeds.furrow.posts).title }}',
      'What we wrote since the last letter.',
      (c) => [
        c.section('The Furrow', [c.heading('From The Furrow', { level: 1 })]),
        c.section(
          'A post',
          [
            c.heading('{{ post.title }}', { level: 2 }),
            c.text('{{ post.summary }}', { size: 14 }),
            c.button('Read on', '{{ post.link }}'),
          ],
          {
            loop: {
              ...{ list: 'feeds.furrow.posts', as: 'post', at_most: 5 },
              where:
                'published_at > (occasion.last_mail_at otherwise add_days(occasion.entered_at otherwise now, -31))',
            },
          },
        ),
      ],
    ),
    letter(
      'New in this week',
      'New in this week',
      'Four things that were not here before.',
      (c) => [
        c.section('New in', [
          c.heading('New on the shelves', { level: 1 }),
          c.block('cards', {
            items: {
              ...{ list: 'catalog.garden', as: 'product', at_most: 4, where: 'in_stock' },
              sort: { by: 'product.added_at', direction: 'descending' },
            },
            columns: 2,
          }),
        ]),
      ],
    ),
  ];
}
