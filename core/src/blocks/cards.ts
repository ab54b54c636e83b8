import { z } from 'zod';
import type { Grid } from '../build/placeholders';
import type { Writer } from '../build/writer';
import { Align, common, Formula, looks, Loop, Running } from '../template/parts';
import { anyMember, defineBlock, listWords, namedFormula } from './define';
import { alignField, SPACE, type MemberKind, type NodeField } from './fields';

/** One row of a card; cards show their fields in the order of this list. */
const CardField = z.discriminatedUnion('show', [
  z.strictObject({
    show: z.literal('picture'),
    src: Running,
    alt: Running,
    href: Running.optional(),
    /** What stands where there is no picture: a quiet space of this shape (a square, left out), or nothing. */
    blank: z.enum(['square', 'wide', 'none']).optional(),
  }),
  z.strictObject({
    show: z.literal('words'),
    text: Running,
    weight: z.enum(['strong', 'plain', 'quiet']),
    href: Running.optional(),
    when: Formula.optional(),
  }),
  z.strictObject({
    show: z.literal('price'),
    price: Formula,
    was: Formula.optional(),
    /** What is saved beside the price before. */
    saving: z.enum(['none', 'money', 'percent']).optional(),
  }),
  z.strictObject({
    show: z.literal('button'),
    label: Running,
    href: Running,
    when: Formula.optional(),
  }),
]);
type CardField = z.infer<typeof CardField>;

const schema = z.strictObject({
  kind: z.literal('cards'),
  ...common,
  ...looks,
  items: Loop,
  columns: z.number().int().min(1).max(4),
  /** Side by side on a phone; two where two or four are on wide screens, else one. */
  on_phone: z.union([z.literal(1), z.literal(2)]).optional(),
  /** What is said where the list has no member. */
  empty: Running.optional(),
  fields: z.array(CardField).min(1).max(12),
  align: Align.optional(),
});

/** A field of a card that shows only for some members: a badge. */
const WHEN: NodeField = {
  control: 'formula',
  path: 'when',
  label: 'Show only if',
  placeholder: 'Always',
  use: 'condition',
  optional: true,
};

/** Width to height of the space that a picture leaves. */
const RATIO = { square: 1, wide: 4 / 3, none: 1 };

const newPicture = (as: string) => ({
  show: 'picture' as const,
  src: `{{ ${as}.image }}`,
  alt: `{{ ${as}.name }}`,
  href: `{{ ${as}.url }}`,
});
const newPrice = (as: string) => ({
  show: 'price' as const,
  price: `${as}.price`,
  was: `${as}.was_price`,
});

/** What a card can show, field by field. */
const CARD_FIELDS: readonly MemberKind[] = [
  {
    show: 'picture',
    name: 'Picture',
    make: newPicture,
    fields: [
      { control: 'line', path: 'src', label: 'Address', holds: 'picture' },
      { control: 'line', path: 'alt', label: 'Alt text', holds: 'text' },
      { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
      {
        control: 'choice',
        as: 'menu',
        path: 'blank',
        label: 'Without a picture',
        options: [
          { value: 'square', label: 'A quiet square' },
          { value: 'wide', label: 'A quiet space, 4 to 3' },
          { value: 'none', label: 'Nothing: the words move up' },
        ],
        initial: 'square',
      },
    ],
  },
  {
    show: 'words',
    name: 'Text',
    make: (as) => ({ show: 'words', text: `{{ ${as}.description }}`, weight: 'quiet' }),
    fields: [
      { control: 'line', path: 'text', label: 'Text', holds: 'text' },
      {
        control: 'choice',
        as: 'menu',
        path: 'weight',
        label: 'Weight',
        options: [
          { value: 'strong', label: 'Bold' },
          { value: 'plain', label: 'Regular' },
          { value: 'quiet', label: 'Secondary' },
        ],
      },
      { control: 'line', path: 'href', label: 'Link', holds: 'link', optional: true },
      WHEN,
    ],
  },
  {
    show: 'price',
    name: 'Price',
    make: newPrice,
    fields: [
      { control: 'formula', path: 'price', label: 'Price', use: 'value' },
      {
        control: 'formula',
        path: 'was',
        label: 'Price before',
        placeholder: 'None',
        use: 'value',
        optional: true,
      },
      {
        control: 'choice',
        as: 'menu',
        path: 'saving',
        label: 'Saving',
        initial: 'none',
        options: [
          { value: 'none', label: 'Not shown' },
          { value: 'money', label: 'As money' },
          { value: 'percent', label: 'In percent' },
        ],
      },
    ],
  },
  {
    show: 'button',
    name: 'Button',
    make: (as) => ({ show: 'button', label: 'View', href: `{{ ${as}.url }}` }),
    fields: [
      { control: 'line', path: 'label', label: 'Label', holds: 'text' },
      { control: 'line', path: 'href', label: 'Link', holds: 'link' },
      WHEN,
    ],
  },
];

const GAP = 16;
const WEIGHT = { strong: 'font-weight:bold;', plain: '', quiet: 'font-size:13px;' };

/** A field with its condition, where it has one. */
function shownIf(field: { when?: string | undefined }, path: string, writer: Writer, body: string) {
  return field.when === undefined ? body : writer.when(field.when, `${path}.when`, body);
}

/** What a price is less than before, as money or in percent: `−£3.00`, `−20 %`. */
function savingOf({ price, was, saving }: CardField & { show: 'price' }): string | null {
  if (was === undefined || saving === undefined || saving === 'none') return null;
  if (saving === 'money') return `"−" & money((${was}) - (${price}))`;
  return `"−" & percent(((${was}) - (${price})) / (${was}))`;
}

function fieldHtml(field: CardField, path: string, width: number, writer: Writer): string {
  const { style } = writer;
  const row = (html: string, css = '') => `<div style="padding:0 0 6px;${css}">${html}</div>`;
  switch (field.show) {
    case 'picture': {
      const image = `<img src="${writer.url(field.src, `${path}.src`, 'picture')}" alt="${writer.running(field.alt, 'attribute', `${path}.alt`)}" width="${width}" style="display:block;border:0;width:100%;height:auto;border-radius:${style.radius}px">`;
      return writer.ifAddress(
        field.src,
        `${path}.src`,
        'picture',
        row(writer.link(field.href, image, `${path}.href`), 'padding-bottom:10px;'),
        // A product without a picture keeps its place, so that rows line up.
        field.blank === 'none'
          ? ''
          : row(
              `<div style="width:100%;padding-top:${Math.round(100 / RATIO[field.blank ?? 'square'])}%;background:${style.background};border-radius:${style.radius}px;font-size:0;line-height:0">&nbsp;</div>`,
              'padding-bottom:10px;',
            ),
      );
    }
    case 'words': {
      const colour = field.weight === 'quiet' ? `color:${style.quiet};` : '';
      const words = writer.running(field.text, 'html', `${path}.text`);
      return shownIf(
        field,
        path,
        writer,
        row(
          writer.link(field.href, words, `${path}.href`, 'text-decoration:none;'),
          WEIGHT[field.weight] + colour,
        ),
      );
    }
    case 'price': {
      const price = writer.value(`money(${field.price})`, 'html', `${path}.price`);
      if (!field.was) return row(price);
      const was = writer.value(`money(${field.was})`, 'html', `${path}.was`);
      const saved = savingOf(field);
      const saving = saved
        ? ` <span style="font-size:13px">${writer.value(saved, 'html', `${path}.saving`)}</span>`
        : '';
      const struck = ` <s style="color:${style.quiet}">${was}</s>${saving}`;
      return row(price + writer.when(`(${field.was}) > (${field.price})`, `${path}.was`, struck));
    }
    case 'button': {
      const label = writer.running(field.label, 'html', `${path}.label`);
      const css = `display:inline-block;background:${style.primary};color:${style.on_primary};border-radius:${style.radius}px;padding:8px 16px;text-decoration:none;font-weight:600`;
      const made = row(
        `<a href="${writer.url(field.href, `${path}.href`)}" target="_blank" style="${css}">${label}</a>`,
      );
      return shownIf(
        field,
        path,
        writer,
        writer.ifAddress(field.href, `${path}.href`, 'link', made),
      );
    }
  }
}

function fieldText(field: CardField, path: string, writer: Writer): string {
  switch (field.show) {
    case 'picture':
      return '';
    case 'words':
      return shownIf(field, path, writer, writer.running(field.text, 'plain', `${path}.text`));
    case 'price':
      return writer.value(`money(${field.price})`, 'plain', `${path}.price`);
    case 'button':
      return shownIf(
        field,
        path,
        writer,
        writer.ifAddress(
          field.href,
          `${path}.href`,
          'link',
          `${writer.running(field.label, 'plain', `${path}.label`)}: ${writer.url(field.href, `${path}.href`, 'link', 'plain')}`,
        ),
      );
  }
}

export const cards = defineBlock({
  kind: 'cards',
  name: 'Cards',
  description: 'A card for each product of a list, side by side.',
  icon: 'M4 5h7v8H4z M13 5h7v8h-7z M4 16h5 M13 16h5 M4 19h3 M13 19h3',
  schema,
  make: (id, { catalogs: [catalog] }) => ({
    kind: 'cards' as const,
    id,
    items: {
      list: catalog === undefined ? 'cart.lines' : namedFormula('catalog', catalog),
      as: 'product',
      where: 'in_stock',
      at_most: 4,
    },
    columns: 2,
    fields: [
      newPicture('product'),
      {
        show: 'words' as const,
        text: '{{ product.name }}',
        weight: 'strong' as const,
        href: '{{ product.url }}',
      },
      // A line of a cart has no former price.
      catalog === undefined
        ? { show: 'price' as const, price: 'product.price' }
        : newPrice('product'),
    ],
  }),
  list: 'items',
  fields: [
    {
      control: 'choice',
      as: 'bar',
      path: 'columns',
      label: 'Side by side',
      options: [1, 2, 3, 4].map((value) => ({ value, label: String(value) })),
    },
    {
      control: 'choice',
      as: 'bar',
      path: 'on_phone',
      label: 'On a phone',
      part: 'looks',
      options: [1, 2].map((value) => ({ value, label: String(value) })),
    },
    {
      control: 'list',
      path: 'fields',
      label: 'Each card',
      inList: true,
      least: 1,
      most: 12,
      addLabel: 'Add to each card',
      kinds: CARD_FIELDS,
    },
    {
      control: 'line',
      path: 'empty',
      label: 'When there is none',
      placeholder: 'Nothing is said',
      holds: 'text',
      optional: true,
    },
    alignField('left'),
    ...SPACE,
  ],
  label: (block) => `Cards of ${listWords(block.items.list)}`,
  mjml(block, writer) {
    const { columns } = block;
    const inner = writer.width - 48 + GAP;
    const cell = Math.floor(inner / columns);
    const { style } = writer;
    const fields = block.fields
      .map((field, i) => fieldHtml(field, `fields.${i}`, cell - GAP, writer))
      .join('');
    const phone = block.on_phone === undefined ? '' : ` carafe-phone-${block.on_phone}`;
    const card = `<!--[if mso | IE]><td valign="top" width="${cell}" style="width:${cell}px"><![endif]--><div class="carafe-card-${columns}${phone}" style="display:inline-block;vertical-align:top;width:100%;font-size:${style.text_size - 1}px;line-height:1.4;color:${style.ink};font-family:${style.body_font}"><div style="padding:0 ${GAP / 2}px ${GAP}px">${fields}</div></div><!--[if mso | IE]></td><![endif]-->`;
    const grid: Grid = {
      columns,
      open: `<div style="font-size:0;text-align:${block.align ?? writer.start}"><!--[if mso | IE]><table role="presentation" border="0" cellpadding="0" cellspacing="0" width="${inner}"><tr><![endif]-->`,
      close: '<!--[if mso | IE]></tr></table><![endif]--></div>',
      blank: `<!--[if mso | IE]><td width="${cell}">&nbsp;</td><![endif]-->`,
    };
    const side = 24 - GAP / 2;
    const { top = 8, bottom = 0 } = block.padding ?? {};
    const all = writer.loop(block.items, 'items', card, grid);
    const none = block.empty ? writer.running(block.empty, 'html', 'empty') : '';
    const shown = none
      ? writer.when(
          anyMember(block.items),
          'empty',
          all,
          `<div style="padding:0 ${GAP / 2}px 8px;font-size:${style.text_size - 1}px;line-height:1.5;color:${style.ink};font-family:${style.body_font}">${none}</div>`,
        )
      : all;
    return `<mj-raw><tr><td style="padding:${top}px ${side}px ${bottom}px">${shown}</td></tr></mj-raw>`;
  },
  text(block, writer) {
    const rows = block.fields
      .map((field, i) => fieldText(field, `fields.${i}`, writer))
      .filter((row) => row !== '');
    const all = writer.loop(block.items, 'items', `- ${rows.join('\n  ')}\n`);
    if (!block.empty) return all;
    const none = writer.running(block.empty, 'plain', 'empty');
    return writer.when(anyMember(block.items), 'empty', all, none);
  },
});
