import {
  blankTemplate,
  composer,
  countedIds,
  foot,
  masthead,
  type Template,
} from '@carafe/core/template';

import { ADDRESS, SENDER, SHOP } from './house';
import { letters } from './letters';
import { serviceMails } from './serviceMails';

/** The mail for who left a cart. Its greeting has no fallback yet: that is for the designer to see. */
function cartLeft(): Template {
  const newId = countedIds();
  const c = composer(newId);
  const template = blankTemplate('You left these on the potting bench', SHOP, [
    masthead(newId, ADDRESS),
    c.section('Your cart', [
      c.heading('You left these on the potting bench', { level: 1 }),
      c.text({
        type: 'doc',
        content: [
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'Hello ' },
              { type: 'tag', attrs: { formula: 'title(person.first_name)' } },
              { type: 'text', text: ',' },
            ],
          },
          {
            type: 'paragraph',
            content: [
              { type: 'text', text: 'You chose ' },
              { type: 'tag', attrs: { formula: 'plural(cart.count, "one thing", "# things")' } },
              {
                type: 'text',
                text: ' with us and then, we imagine, the kettle boiled. We have kept everything together for you.',
              },
            ],
          },
        ],
      }),
      c.block('lines'),
      c.block('totals', { rows: [{ label: 'Together', amount: 'cart.total', strong: true }] }),
      c.text('Your parcel travels free: we carry the postage on anything over £50.', {
        when: 'cart.total >= 50',
        else: c.text('Another {{ money(50 - cart.total) }} and your parcel travels free.'),
      }),
      c.button('Back to the bench', '{{ cart.recover_url }}'),
    ]),
    c.section(
      'Sowing hint',
      [
        c.heading('Before you sow', { level: 2 }),
        c.text(
          'Soak the seed overnight, sow it twice as deep as it is wide, and write the label first.',
          { size: 14 },
        ),
      ],
      { when: 'any(cart.lines, category is "Seeds")', background: '#eef3ea' },
    ),
    foot(newId, ADDRESS),
  ]);
  return {
    ...template,
    envelope: {
      ...template.envelope,
      from_email: SENDER,
      subject:
        '{{ title(person.first_name) otherwise "Hello" }}, your {{ first(cart.lines).name otherwise "cart" }} is still here',
      preview_text:
        '{{ plural(cart.count, "One thing is", "# things are") }} waiting on the bench.',
    },
  };
}

function orderPlaced(): Template {
  const newId = countedIds();
  const c = composer(newId);
  const template = blankTemplate('Thank you for your order', SHOP, [
    masthead(newId, ADDRESS),
    c.section('Thanks', [
      c.heading('Thank you, {{ title(person.first_name) otherwise "and welcome" }}', { level: 1 }),
      c.text(
        'We have your order {{ order.number }} of {{ date(order.placed_at, "long") }} and are packing it on the long table.',
        {
          when: 'order.status is not "Ready to collect"',
          else: c.text(
            'Your order {{ order.number }} is ready: collect it from the yard, any day but Sunday.',
          ),
        },
      ),
    ]),
    c.section('What you ordered', [
      c.block('lines', {
        items: { list: 'order.lines', as: 'line' },
        columns: [
          { show: 'picture', heading: '' },
          { show: 'item', heading: 'What you ordered' },
          { show: 'quantity', heading: 'Qty' },
          { show: 'price', heading: 'Each' },
          { show: 'total', heading: 'Total' },
        ],
        properties: true,
        notes: true,
      }),
      c.block('totals', {
        rows: [
          { label: 'Goods', amount: 'order.subtotal' },
          { label: 'Discount', amount: '-order.discount', when: 'order.discount > 0' },
          { label: 'Delivery', amount: 'order.shipping', when: 'order.shipping > 0' },
          { label: 'Total', amount: 'order.total', strong: true },
        ],
      }),
    ]),
    c.columns('Where it goes', [
      [
        c.heading('It goes to', { level: 2 }),
        c.text(
          '{{ order.ship_to.name otherwise "You" }}, {{ order.ship_to.city otherwise "the address you gave us" }}',
          { size: 14 },
        ),
      ],
      [
        c.heading('You asked', { level: 2, when: 'order.note is filled' }),
        c.text('“{{ order.note }}”', { size: 14, when: 'order.note is filled' }),
      ],
    ]),
    c.section('Way on', [c.button('See your order', '{{ order.view_url }}')]),
    foot(newId, ADDRESS),
  ]);
  return {
    ...template,
    envelope: {
      ...template.envelope,
      from_email: SENDER,
      subject: 'Your order {{ order.number }} with {{ shop.name }}',
      preview_text:
        '{{ plural(count(order.lines), "One line", "# lines") }}, {{ money(order.total) }} in all.',
    },
  };
}

function newsletter(): Template {
  const newId = countedIds();
  const c = composer(newId);
  const picked = ['S-103', 'P-112', 'T-107', 'B-118', 'S-121', 'P-128'];
  const template = blankTemplate('The November letter', SHOP, [
    masthead(newId, ADDRESS),
    c.section('Opening', [
      c.heading('What the frost leaves us', { level: 1 }),
      c.text(
        'Dear {{ title(person.first_name) otherwise "gardener" }}, the beds are put to sleep and the catalogues come out. Here is what we would order, if we did not grow it.',
      ),
    ]),
    c.section('Hand-picked', [
      c.block('cards', {
        items: {
          list: 'catalog.garden',
          as: 'product',
          where: `product.sku in [${picked.map((sku) => `"${sku}"`).join(', ')}] and in_stock`,
          sort: { by: 'product.price', direction: 'descending' },
        },
        columns: 3,
      }),
    ]),
    c.section(
      'Workshops',
      [c.text('Good customers come first: the grafting morning is open to you a week early.')],
      {
        when: 'person.rank >= 4',
        background: '#f4ece4',
      },
    ),
    c.section('From The Furrow', [c.heading('From The Furrow', { level: 2 })]),
    c.section(
      'A post',
      [
        c.heading('{{ post.title }}', { level: 2 }),
        c.text('{{ post.summary }} {{ post.author otherwise "" }}', { size: 14 }),
        c.button('Read on', '{{ post.link }}'),
      ],
      { loop: { list: 'feeds.furrow.posts', as: 'post', at_most: 2 } },
    ),
    foot(newId, ADDRESS),
  ]);
  return {
    ...template,
    envelope: {
      ...template.envelope,
      from_email: SENDER,
      subject: 'What the frost leaves us',
      preview_text: 'Six things for the dark months, and a letter about lavender.',
    },
  };
}

/** The finished templates of the house. */
export function demoTemplates(): Template[] {
  return [cartLeft(), orderPlaced(), newsletter(), ...letters(), ...serviceMails()];
}
