import { expect, test } from '@playwright/test';
import { build } from '@carafe/core/build';
import { prepare } from '@carafe/core/render';
import {
  blankTemplate,
  composer,
  countedIds,
  readTemplate,
  type Block,
} from '@carafe/core/template';

/** A word that no line has room for. */
const LONG = 'Lathyrus-odoratus-Spencer-Mixed-of-the-large-kind';
const AMOUNT = 14_814_814.68;
const picture = (name: string) => `https://pictures.example/${name}.svg`;
const record = {
  person: { first_name: LONG },
  order: {
    ...{ number: 'N1', currency: 'GBP' },
    lines: [1, 2].map((i) => ({
      ...{ sku: `S-${i}`, name: `Sweet pea ${LONG}`, image: picture('line'), variant: LONG },
      ...{ quantity: 12_000, price: 1_234_567.89, total: AMOUNT },
      properties: [{ name: 'Engraved', value: LONG + LONG }],
    })),
  },
  catalog: {
    seeds: [1, 2, 3, 4, 5].map((i) => ({
      ...{ sku: `S-${i}`, name: `Sweet pea ${LONG}`, image: picture('card') },
      ...{ price: AMOUNT, price_before: AMOUNT * 2, url: 'https://shop.example/s' },
    })),
  },
};
const pictures = (count: number) =>
  Array.from({ length: count }, (_, i) => ({ src: picture(`gallery-${i}`), alt: `Picture ${i}` }));
const CARD = [
  { show: 'picture', src: '{{ product.image }}', alt: '{{ product.name }}' },
  { show: 'words', text: '{{ product.name }}', weight: 'strong' },
  { show: 'price', price: 'product.price', was: 'product.price_before', saving: 'percent' },
  { show: 'button', label: 'Put it into the cart', href: '{{ product.url }}' },
];
const cards = (arrangement: string, columns: number, onPhone?: number) => ({
  ...{ kind: 'cards', arrangement, columns, fields: CARD },
  ...(onPhone && { on_phone: onPhone }),
  items: { list: 'catalog.seeds', as: 'product' },
});
const COLUMNS = ['picture', 'item', 'quantity', 'price', 'total'].map((show) => ({
  show,
  heading: show === 'picture' ? '' : show,
}));

const BLOCKS: Record<string, object> = {
  ...Object.fromEntries(
    ['row', 'pairs', 'large_first'].flatMap((arrangement) =>
      [2, 3, 6].map((n) => [
        `a gallery of ${n}, ${arrangement}`,
        { kind: 'gallery', arrangement, pictures: pictures(n) },
      ]),
    ),
  ),
  ...Object.fromEntries(
    ['over', 'beside', 'words', 'large_first'].flatMap((arrangement) =>
      [1, 2, 3, 4].flatMap((columns) => [
        [`cards ${arrangement}, ${columns}`, cards(arrangement, columns)],
        [`cards ${arrangement}, ${columns}, two on a phone`, cards(arrangement, columns, 2)],
      ]),
    ),
  ),
  'lines of five columns': {
    ...{ kind: 'lines', columns: COLUMNS, variant: true, properties: true },
    items: { list: 'order.lines', as: 'line' },
  },
  'a long code': {
    kind: 'coupon',
    value: '10 % off',
    code: LONG.toUpperCase(),
    terms: LONG + LONG,
  },
  totals: { kind: 'totals', rows: [{ label: LONG, amount: 'order.lines[0].total', strong: true }] },
  'a long button': { kind: 'button', label: `Put it all in ${LONG}`, href: 'https://shop.example' },
  'a menu of eight': {
    kind: 'menu',
    links: Array.from({ length: 8 }, (_, i) => ({
      label: `Seeds ${i}`,
      href: 'https://shop.example',
    })),
  },
};

test('every block fits a screen of 320 pixels, and its pictures and words stay of use', async ({
  page,
}) => {
  await page.setViewportSize({ width: 320, height: 640 });
  const svg = '<svg xmlns="http://www.w3.org/2000/svg" width="600" height="400"/>';
  await page.route('**/*.svg', (route) =>
    route.fulfill({ body: svg, contentType: 'image/svg+xml' }),
  );
  const { section } = composer(countedIds());
  for (const [name, block] of Object.entries(BLOCKS)) {
    const made = blankTemplate('T', 's', [section('S', [{ ...block, id: 'block' } as Block])]);
    const read = readTemplate(JSON.parse(JSON.stringify(made)));
    if (!read.ok) throw new Error(`${name}: ${JSON.stringify(read.problems)}`);
    const { program } = await build(read.template);
    const { mail } = prepare(program)(record, { asOf: new Date('2026-11-24T09:00:00Z') });
    await page.setContent(mail.html);
    const seen = await page.evaluate(() => {
      const widths = (of: Iterable<Element>) =>
        [...of].map((one) => one.getBoundingClientRect().width).filter((width) => width > 0);
      const says = (one: Element) =>
        [...one.childNodes].some((n) => n.nodeType === 3 && (n.nodeValue ?? '').trim().length > 9);
      const words = [...document.querySelectorAll('td, div, a, span')].filter(says);
      return {
        width: document.documentElement.scrollWidth,
        pictures: Math.min(999, ...widths(document.images)),
        words: Math.min(999, ...widths(words)),
      };
    });
    expect.soft(seen.width, `${name} is no wider than the screen`).toBeLessThanOrEqual(320);
    expect.soft(seen.pictures, `pictures of ${name}`).toBeGreaterThanOrEqual(50);
    expect.soft(seen.words, `words of ${name}`).toBeGreaterThanOrEqual(60);
  }
});
