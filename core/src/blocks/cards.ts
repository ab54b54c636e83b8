import { z } from 'zod';
import type { Grid } from '../build/placeholders';
import type { Writer } from '../build/writer';
import { quote } from '../formula';
import { Align, common, looks, Loop, Running } from '../template/parts';
import { CardChange, changedField, CardField, fieldHtml, fieldText, isChanged } from './cardFields';
import { anyMember, defineBlock, listWords, namedFormula } from './define';
import { alignField, SPACE, type LineField, type MemberKind, type NodeField } from './fields';

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
  /** Products that are shown otherwise in this mail. */
  changes: z.array(CardChange).max(20).optional(),
  align: Align.optional(),
});

/** What of a card is changed; the catalog's stays where it is left out. */
const changing = (path: string, label: string, holds: LineField['holds']): NodeField => ({
  ...{ control: 'line', path, label, holds },
  placeholder: 'As in the catalog',
  optional: true,
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

/** A card as it usually is, but for the members that are changed by hand. */
function eachChanged(
  { items, changes = [] }: z.infer<typeof schema>,
  writer: Writer,
  usual: string,
  changed: (change: CardChange) => string,
): string {
  return changes
    .filter(isChanged)
    .reduceRight(
      (other, change, i) =>
        writer.when(
          `${items.as}.sku = ${quote(change.sku)}`,
          `changes.${i}.sku`,
          changed(change),
          other,
        ),
      usual,
    );
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
      control: 'list',
      path: 'changes',
      label: 'Changed for this mail',
      least: 0,
      most: 20,
      addLabel: 'Change one product',
      optional: true,
      inList: true,
      kinds: [
        {
          show: null,
          name: 'Product',
          make: () => ({ sku: '' }),
          fields: [
            { control: 'plain', path: 'sku', label: 'SKU', help: 'Of the product to change' },
            changing('words', 'First words', 'text'),
            changing('price', 'Price shown', 'text'),
            changing('src', 'Picture', 'picture'),
            changing('href', 'Links', 'link'),
            changing('button', 'Button', 'text'),
          ],
        },
      ],
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
  label: ({ items, changes = [] }) =>
    `Cards of ${listWords(items.list)}${changes.length > 0 ? `, ${changes.length} changed` : ''}`,
  mjml(block, writer) {
    const { columns } = block;
    const inner = writer.width - 48 + GAP;
    const cell = Math.floor(inner / columns);
    const { style } = writer;
    const usual = block.fields
      .map((field, i) => fieldHtml(field, `fields.${i}`, cell - GAP, writer))
      .join('');
    const fields = eachChanged(block, writer, usual, (change) =>
      block.fields
        .map((field, i) =>
          fieldHtml(
            changedField(field, i, block.fields, change),
            `fields.${i}`,
            cell - GAP,
            writer,
          ),
        )
        .join(''),
    );
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
    const rowsOf = (fields: readonly CardField[]) =>
      fields
        .map((field, i) => fieldText(field, `fields.${i}`, writer))
        .filter((row) => row !== '')
        .join('\n  ');
    const rows = eachChanged(block, writer, rowsOf(block.fields), (change) =>
      rowsOf(block.fields.map((field, i) => changedField(field, i, block.fields, change))),
    );
    const all = writer.loop(block.items, 'items', `- ${rows}\n`);
    if (!block.empty) return all;
    const none = writer.running(block.empty, 'plain', 'empty');
    return writer.when(anyMember(block.items), 'empty', all, none);
  },
});
