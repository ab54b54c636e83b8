import type { ShopSources } from '../blocks/define';
import { composer } from './compose';
import { blankTemplate, type NewId } from './make';
import type { Inline } from './richText';
import type { Section, Template } from './schema';

/** A start for a new template. */
export interface Layout {
  id: string;
  name: string;
  description: string;
  sections(newId: NewId, shop: LayoutShop): Section[];
}

/** What a new template needs to know of its shop. */
export interface LayoutShop extends ShopSources {
  id: string;
  url: string;
  /** Where it is in the world; blank where nobody said it yet. */
  address: string;
}

/** The mark of the shop, above all else. */
export function masthead(newId: NewId, { url }: Pick<LayoutShop, 'url'>): Section {
  const c = composer(newId);
  return c.section('Masthead', [
    c.block('picture', {
      src: '{{ shop.logo }}',
      alt: '{{ shop.name }}',
      ...(url && { href: '{{ shop.url }}' }),
      width: 140,
    }),
  ]);
}

const WHERE: Inline[] = [
  { type: 'text', text: ', ' },
  { type: 'tag', attrs: { formula: 'shop.address' } },
];

/** The foot that every mail to a person needs. */
export function foot(newId: NewId, { address }: Pick<LayoutShop, 'address'>): Section {
  const c = composer(newId);
  const link = (text: string, href: string): Inline => ({
    type: 'text',
    text,
    marks: [{ type: 'link', attrs: { href } }],
  });
  return c.section('Foot', [
    c.text(
      {
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'tag', attrs: { formula: 'shop.name' } },
              ...(address.trim() === '' ? [] : WHERE),
              { type: 'hardBreak' },
              link('Unsubscribe', '{{ links.unsubscribe }}'),
              { type: 'text', text: ' · ' },
              link('Email preferences', '{{ links.preferences }}'),
            ],
          },
        ],
      },
      { align: 'center', size: 12, colour: '#5d6b63' },
    ),
  ]);
}

/** Whether the tax comes on top of the prices, or is part of them. */
const TAX_IS_ADDED =
  'order.subtotal - (order.discount otherwise 0) + (order.shipping otherwise 0) < order.total';

/** The parts of an address, as shops name them. */
const ADDRESS_LINES = ['name', 'street', 'postcode', 'city', 'country']
  .map((part) => `order.ship_to.${part}`)
  .join(', ');

/** The layouts to start from, in the order in which they are offered. */
export const LAYOUTS: Layout[] = [
  {
    id: 'blank',
    name: 'Blank page',
    description: 'A header, one text and a footer.',
    sections: (newId, shop) => {
      const c = composer(newId);
      return [
        masthead(newId, shop),
        c.section('Letter', [c.text('Write here.')]),
        foot(newId, shop),
      ];
    },
  },
  {
    id: 'cart',
    name: 'Cart reminder',
    description: 'The lines left in a cart, with their total and a link back.',
    sections: (newId, shop) => {
      const c = composer(newId);
      return [
        masthead(newId, shop),
        c.section('Cart', [
          c.heading('Still on the bench', { level: 1 }),
          c.text('Hello {{ title(person.first_name) otherwise "there" }}, this is what you chose.'),
          c.block('lines'),
          c.block('totals'),
          c.button('Back to the cart', '{{ cart.recover_url }}'),
        ]),
        foot(newId, shop),
      ];
    },
  },
  {
    id: 'order',
    name: 'Order confirmation',
    description: 'The lines of an order with their properties, sums and address.',
    sections: (newId, shop) => {
      const c = composer(newId);
      return [
        masthead(newId, shop),
        c.section('Order', [
          c.heading('Thank you for your order', { level: 1 }),
          c.text('Order {{ order.number }} of {{ date(order.placed_at, "long") }}.'),
          c.block('lines', { items: { list: 'order.lines', as: 'line' }, properties: true }),
          c.block('totals', {
            rows: [
              { label: 'Subtotal', amount: 'order.subtotal' },
              { label: 'Discount', amount: 'order.discount', when: 'order.discount > 0' },
              { label: 'Delivery', amount: 'order.shipping', when: 'order.shipping is filled' },
              { label: 'Tax', amount: 'order.tax', when: `order.tax > 0 and ${TAX_IS_ADDED}` },
              { label: 'Total', amount: 'order.total', strong: true },
              {
                label: 'Tax included in the total',
                amount: 'order.tax',
                when: `order.tax > 0 and not (${TAX_IS_ADDED})`,
              },
            ],
          }),
          c.heading('Delivery address', { level: 2, when: 'order.ship_to is filled' }),
          c.text(`{{ join([${ADDRESS_LINES}], it, ", ") }}`, { when: 'order.ship_to is filled' }),
          c.button('See the order', '{{ order.view_url }}'),
        ]),
        foot(newId, shop),
      ];
    },
  },
  {
    id: 'products',
    name: 'Product newsletter',
    description: 'A short text and product cards side by side.',
    sections: (newId, shop) => {
      const c = composer(newId, shop);
      return [
        masthead(newId, shop),
        c.section('Opening', [
          c.heading('What we are sowing now', { level: 1 }),
          c.text('A few words to begin with.'),
        ]),
        c.section('Products', [c.block('cards', { columns: 3 })]),
        foot(newId, shop),
      ];
    },
  },
];

/** A template made from a layout, tied to what the shop has; its sender is an address of the shop's. */
export function fromLayout(layout: Layout, name: string, shop: LayoutShop, newId: NewId): Template {
  return blankTemplate(name, shop.id, layout.sections(newId, shop), senderOf(shop.url));
}

/** hello@ the shop's own domain. */
function senderOf(url: string): string {
  const host = /^https?:\/\/(?:www\.|shop\.)?([^/:?#]+)/i.exec(url)?.[1];
  return host ? `hello@${host}` : '';
}
