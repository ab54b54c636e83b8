import {
  blankTemplate,
  composer,
  countedIds,
  foot,
  masthead,
  type Template,
} from '@carafe/core/template';
import type { Fields } from '@carafe/core/formula';

const SHOP = { url: 'https://shop.quillmoss.example', address: 'Nether Quill' };

const WORDS =
  'We keep the seed dry and the kettle warm, and the parcel goes when the post goes. '.repeat(3);

/** A mail of about 20 KB with five lines, money and fallbacks, such as a shop sends. */
export function fillTemplate(): Template {
  const newId = countedIds();
  const c = composer(newId);
  return blankTemplate('Fill', 'shop', [
    masthead(newId, SHOP),
    c.section('Cart', [
      c.heading('Hello {{ person.first_name otherwise "there" }}', { level: 1 }),
      c.text(WORDS),
      c.block('lines'),
      c.block('totals', { rows: [{ label: 'Total', amount: 'cart.total', strong: true }] }),
      c.text('Your parcel travels free.', {
        when: 'cart.total >= 50',
        else: c.text('Spend {{ money(50 - cart.total) }} more.'),
      }),
      c.button('Back to the cart', '{{ cart.recover_url }}'),
    ]),
    ...Array.from({ length: 4 }, (_, i) =>
      c.columns(`Words ${i}`, [
        [c.heading('Good to know', { level: 3 }), c.text(WORDS)],
        [c.text(WORDS), c.button('Read on', 'https://house.example/read')],
      ]),
    ),
    foot(newId, SHOP),
  ]);
}

/** Recipients of whom every third has no name; each has five lines. */
export function fillRecords(count: number): Fields[] {
  return Array.from({ length: count }, (_, i) => {
    const lines = Array.from({ length: 5 }, (_, j) => {
      const price = 1 + ((i * 37 + j * 101) % 4000) / 100;
      const quantity = 1 + ((i + j) % 3);
      return {
        sku: `S-${j}`,
        name: j === 2 ? 'Pot & saucer' : `Heritage seed ${i % 50}.${j}`,
        variant: j % 2 === 0 ? 'Packet of 50' : undefined,
        url: `https://house.example/p/${i}-${j}`,
        image: `https://house.example/i/${i}-${j}.png`,
        price,
        quantity,
        total: Math.round(price * quantity * 100) / 100,
      };
    });
    const total = Math.round(lines.reduce((sum, line) => sum + line.total, 0) * 100) / 100;
    return {
      person: { first_name: i % 3 === 0 ? undefined : `Person ${i}`, locale: 'en-GB' },
      shop: {
        name: 'The House',
        address: '1 The Lane',
        url: 'https://house.example',
        logo: 'https://house.example/logo.png',
        currency: 'GBP',
        locale: 'en-GB',
        timezone: 'UTC',
      },
      cart: {
        currency: 'GBP',
        count: 5,
        total,
        lines,
        recover_url: `https://house.example/cart/${i}`,
      },
      links: {
        unsubscribe: `https://house.example/u/${i}`,
        preferences: `https://house.example/p/${i}`,
      },
    };
  });
}
