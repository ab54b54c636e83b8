import { z } from 'zod';
import type { Grid } from '../build/placeholders';
import type { Writer } from '../build/writer';
import { quote } from '../formula';
import { Align, common, looks, Loop, Running } from '../template/parts';
import { CardChange, changedField, CardField, fieldHtml, fieldText, isChanged } from './cardFields';
import { anyMember, defineBlock, listWords, namedFormula } from './define';
import { CARD_FIELDS, changing, newPicture, newPrice } from './cardForm';
import { alignField, EMPTY_WORDS, SPACE } from './fields';

const schema = z.strictObject({
  kind: z.literal('cards'),
  ...common,
  ...looks,
  items: Loop,
  columns: z.number().int().min(1).max(4),
  /** Side by side on a phone; left out, two where two or four are on wide screens and the picture is not beside. */
  on_phone: z.union([z.literal(1), z.literal(2)]).optional(),
  /** What is said where the list has no member. */
  empty: Running.optional(),
  /** How the parts of a card stand, or the cards among each other. */
  arrangement: z.enum(['over', 'beside', 'words', 'large_first']).optional(),
  fields: z.array(CardField).min(1).max(12),
  /** Products that are shown otherwise in this mail. */
  changes: z.array(CardChange).max(20).optional(),
  align: Align.optional(),
});

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

/** The fields of a card as they are arranged, `width` pixels wide. */
function cardHtml(
  { arrangement, on_phone }: Pick<z.infer<typeof schema>, 'arrangement' | 'on_phone'>,
  fields: readonly CardField[],
  width: number,
  writer: Writer,
): string {
  const rows = (kept: (field: CardField) => boolean, wide: number) =>
    fields
      .map((field, i) => (kept(field) ? fieldHtml(field, `fields.${i}`, wide, writer) : ''))
      .join('');
  const isPicture = ({ show }: CardField) => show === 'picture';
  if (arrangement === 'words') return rows((field) => !isPicture(field), width);
  if (arrangement !== 'beside' || !fields.some(isPicture)) return rows(() => true, width);
  const wide = Math.round(width * 0.4);
  const stacked = on_phone === 2 ? ' class="carafe-stacked"' : '';
  return `<table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%;table-layout:fixed"><tr><td${stacked} valign="top" width="40%" style="width:40%;padding-${writer.finish}:12px">${rows(isPicture, wide)}</td><td${stacked} valign="top">${rows((field) => !isPicture(field), width - wide)}</td></tr></table>`;
}

export const cards = defineBlock({
  kind: 'cards',
  name: 'Cards',
  description: 'A card for each product of a list, side by side.',
  words: ['products', 'grid', 'recommendations', 'bestsellers', 'new in'],
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
      as: 'menu',
      path: 'arrangement',
      label: 'Arrangement',
      optional: true,
      initial: 'over',
      options: [
        { value: 'over', label: 'Picture over words' },
        { value: 'beside', label: 'Picture beside words' },
        { value: 'words', label: 'Words alone' },
        { value: 'large_first', label: 'One large, the others small' },
      ],
    },
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
      label: 'Changed in this email',
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
            {
              control: 'product',
              path: 'sku',
              label: 'Product to change',
              placeholder: 'Its name or SKU',
            },
            changing('words', 'Label', 'text'),
            changing('price', 'Price shown', 'text'),
            changing('src', 'Picture', 'picture'),
            changing('href', 'Links', 'link'),
            changing('button', 'Button', 'text'),
          ],
        },
      ],
    },
    EMPTY_WORDS,
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
    const fieldsAt = (width: number) =>
      eachChanged(block, writer, cardHtml(block, block.fields, width, writer), (change) => {
        const changed = block.fields.map((f, i) => changedField(f, i, block.fields, change));
        return cardHtml(block, changed, width, writer);
      });
    // Beside its picture a phone has room for the words of one card only.
    const onPhone = block.on_phone ?? (block.arrangement === 'beside' ? 1 : undefined);
    const phone = onPhone === undefined ? '' : ` carafe-phone-${onPhone}`;
    const box = (kind: string, html: string) =>
      `<div class="${kind}" style="display:inline-block;vertical-align:top;width:100%;word-break:break-word;font-size:${style.text_size - 1}px;line-height:1.4;color:${style.ink};font-family:${style.body_font}"><div style="padding:0 ${GAP / 2}px ${GAP}px">${html}</div></div>`;
    const small = box(`carafe-card-${columns}${phone}`, fieldsAt(cell - GAP));
    const card = `<!--[if mso | IE]><td valign="top" width="${cell}" style="width:${cell}px"><![endif]-->${small}<!--[if mso | IE]></td><![endif]-->`;
    const grid: Grid = {
      columns,
      open: `<div style="font-size:0;text-align:${block.align ?? writer.start}"><!--[if mso | IE]><table role="presentation" border="0" cellpadding="0" cellspacing="0" width="${inner}"><tr><![endif]-->`,
      close: '<!--[if mso | IE]></tr></table><![endif]--></div>',
      blank: `<!--[if mso | IE]><td width="${cell}">&nbsp;</td><![endif]-->`,
    };
    const side = 24 - GAP / 2;
    const { top = 8, bottom = 0 } = block.padding ?? {};
    // The first stands alone in its row: there is no grid to keep.
    const all =
      block.arrangement === 'large_first'
        ? `<div style="font-size:0;text-align:${block.align ?? writer.start}">${writer.loop(
            block.items,
            'items',
            writer.when('loop.first', 'items', box('carafe-card-1', fieldsAt(inner - GAP)), small),
          )}</div>`
        : writer.loop(block.items, 'items', card, grid);
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
