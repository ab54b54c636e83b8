import { z } from 'zod';
import type { Writer } from '../build/writer';
import { quote } from '../formula';
import { noteHoldsAtLine, ProductNote } from '../library/notes';
import { common, looks, Loop, Running } from '../template/parts';
import { defineBlock, listWords } from './define';
import { SPACE } from './fields';
import { noteHtml, notePlain } from './noteHtml';

const LinesColumn = z.strictObject({
  show: z.enum(['picture', 'item', 'quantity', 'price', 'total']),
  heading: Running,
});
type LinesColumn = z.infer<typeof LinesColumn>;

const schema = z.strictObject({
  kind: z.literal('lines'),
  ...common,
  ...looks,
  items: Loop,
  columns: z.array(LinesColumn).min(1).max(5),
  /** Show the chosen variant under the name. */
  variant: z.boolean(),
  /** Show what was engraved, noted or chosen for the line; blank ones are left out. */
  properties: z.boolean(),
  /** Of those the ones with these names, commas between; all of them where it is left out. */
  property_names: z.string().max(500).optional(),
  /** Longer values of properties are cut at so many characters. */
  property_length: z.number().int().min(5).max(500).optional(),
  /** Show the product notes that are for a line below it. */
  notes: z.boolean().optional(),
  /** Those notes, put in before the template is built. */
  shown: z.array(ProductNote).max(500).optional(),
});
type LinesBlock = z.infer<typeof schema>;

const COLUMN_NAMES: Record<LinesColumn['show'], string> = {
  picture: 'Picture',
  item: 'Item',
  quantity: 'Quantity',
  price: 'Unit price',
  total: 'Total',
};

/** The formulas of a line's parts, for the name that the line has in its loop. */
function formulas({
  items: { as },
  property_names: names = '',
  property_length: length,
}: Pick<LinesBlock, 'items' | 'property_names' | 'property_length'>) {
  const only = names
    .split(',')
    .map((name) => name.trim())
    .filter((name) => name !== '')
    .map(quote)
    .join(', ');
  return {
    image: `{{ ${as}.image }}`,
    url: `{{ ${as}.url }}`,
    name: `${as}.name otherwise ${as}.sku`,
    variant: `${as}.variant`,
    quantity: `number(${as}.quantity)`,
    price: `money(${as}.price)`,
    total: `money(${as}.total otherwise (${as}.price * ${as}.quantity))`,
    properties: {
      list: `${as}.properties`,
      as: 'property',
      where: ['property.value is filled', ...(only ? [`property.name in [${only}]`] : [])].join(
        ' and ',
      ),
    },
    value: length === undefined ? 'property.value' : `shorten(property.value, ${length})`,
  };
}

/** The list that the table walks, as a formula. */
function listOf({ items: { list, where } }: LinesBlock): string {
  return where === undefined ? list : `(${list}) where (${where})`;
}

/** Columns that a phone has no room for: beside a unit price and a total, what they come from stands under the name. */
function foldedColumns({ columns }: LinesBlock): ReadonlySet<LinesColumn['show']> {
  const shown = new Set(columns.map(({ show }) => show));
  const isWide =
    columns.length > 3 && (['item', 'price', 'total'] as const).every((one) => shown.has(one));
  return new Set(isWide ? (['quantity', 'price'] as const).filter((one) => shown.has(one)) : []);
}

/** What stands below a line, each note once; `write` puts it into its place. */
function notesBelow(
  block: LinesBlock,
  writer: Writer,
  write: (note: ProductNote) => string,
): string {
  if (!block.notes) return '';
  return (block.shown ?? [])
    .map((note) =>
      writer.when(noteHoldsAtLine(note, block.items.as, listOf(block)), 'shown', write(note)),
    )
    .join('');
}

function itemHtml(block: LinesBlock, writer: Writer): string {
  const f = formulas(block);
  const quiet = `font-size:13px;color:${writer.style.quiet}`;
  const name = writer.value(f.name, 'html', 'items.name');
  let html = `<span style="font-weight:bold">${writer.link(f.url, name, 'items.url', 'text-decoration:none;')}</span>`;
  if (block.variant) {
    const variant = writer.value(f.variant, 'html', 'items.variant');
    html += writer.when(
      `${f.variant} is filled`,
      'variant',
      `<div style="${quiet}">${variant}</div>`,
    );
  }
  if (block.properties) {
    const property = `${writer.value('property.name', 'html', 'properties.name')}: ${writer.value(f.value, 'html', 'properties.value')}`;
    html += writer.loop(f.properties, 'properties', `<div style="${quiet}">${property}</div>`);
  }
  const folded = [...foldedColumns(block)];
  if (folded.length > 0) {
    const parts = folded.map((one) => writer.value(f[one as 'price'], 'html', `items.${one}`));
    html += `<div class="carafe-narrow" style="display:none;mso-hide:all;max-height:0;overflow:hidden;${quiet}">${parts.join(' × ')}</div>`;
  }
  return html;
}

/** Columns stand 8 pixels apart; the first begins where the table does. */
const before = (i: number): number => (i === 0 ? 0 : 8);

function cellHtml(column: LinesColumn, i: number, block: LinesBlock, writer: Writer): string {
  const f = formulas(block);
  const { rule } = writer.style;
  const wideOnly = foldedColumns(block).has(column.show) ? ' class="carafe-wide"' : '';
  const cell = (html: string, css: string, align: string = writer.start) =>
    `<td${wideOnly} align="${align}" valign="top" style="padding:10px 0;padding-${writer.start}:${before(i)}px;border-top:1px solid ${rule};${css}">${html}</td>`;
  switch (column.show) {
    case 'picture': {
      const image = `<img src="${writer.url(f.image, 'items.image', 'picture')}" alt="" width="56" style="display:block;border:0;width:56px;height:auto;border-radius:${writer.style.radius}px">`;
      return cell(writer.ifAddress(f.image, 'items.image', 'picture', image), 'width:56px;');
    }
    case 'item':
      return cell(itemHtml(block, writer), 'word-break:break-word;');
    default:
      return cell(
        writer.value(f[column.show], 'html', `items.${column.show}`),
        'white-space:nowrap;',
        writer.finish,
      );
  }
}

export const lines = defineBlock({
  kind: 'lines',
  name: 'Lines',
  description: 'The lines of a cart or an order as a table.',
  words: ['basket', 'items', 'products'],
  icon: 'M4 6h16v12H4z M4 10h16 M4 14h16 M10 10v8',
  schema,
  make: (id, { record = 'cart' }) => ({
    kind: 'lines' as const,
    id,
    items: { list: `${record}.lines`, as: 'line' },
    columns: [
      { show: 'picture' as const, heading: '' },
      { show: 'item' as const, heading: 'Item' },
      { show: 'quantity' as const, heading: 'Qty' },
      { show: 'total' as const, heading: 'Total' },
    ],
    variant: true,
    properties: false,
  }),
  list: 'items',
  fields: [
    {
      control: 'list',
      path: 'columns',
      label: 'Columns',
      least: 1,
      most: 5,
      addLabel: 'Add a column',
      kinds: (Object.keys(COLUMN_NAMES) as LinesColumn['show'][]).map((show) => ({
        show,
        name: COLUMN_NAMES[show],
        once: true,
        make: () => ({ show, heading: show === 'picture' ? '' : COLUMN_NAMES[show] }),
        fields:
          show === 'picture'
            ? []
            : [{ control: 'line', path: 'heading', label: 'Column heading', holds: 'text' }],
      })),
    },
    { control: 'switch', path: 'variant', label: 'Variant under the name' },
    { control: 'switch', path: 'properties', label: 'Properties: engraved, noted, chosen' },
    {
      control: 'plain',
      path: 'property_names',
      label: 'Only these properties',
      placeholder: 'All that are filled',
      help: 'Names, with commas between',
      optional: true,
    },
    {
      control: 'number',
      path: 'property_length',
      label: 'Cut long ones at',
      placeholder: 'Never',
      optional: true,
      least: 5,
      most: 500,
      unit: 'characters',
    },
    {
      control: 'switch',
      path: 'notes',
      label: 'Product notes under their lines',
      optional: true,
    },
    ...SPACE,
  ],
  label: (block) => `Table of ${listWords(block.items.list)}`,
  derived(block) {
    const { columns, variant, properties } = block;
    const f = formulas(block);
    const shown = new Set(columns.map((column) => column.show));
    const value = (name: 'quantity' | 'price' | 'total' | 'name' | 'variant') => ({
      path: `items.${name}`,
      source: f[name],
      use: 'value' as const,
      inList: true,
    });
    return [
      ...(['quantity', 'price', 'total'] as const).filter((name) => shown.has(name)).map(value),
      ...(shown.has('item') ? [value('name')] : []),
      ...(variant ? [value('variant')] : []),
      ...(properties
        ? [{ path: 'properties', source: f.properties.list, use: 'value' as const, inList: true }]
        : []),
    ];
  },
  mjml(block, writer) {
    const { style } = writer;
    const head = block.columns
      .map(({ show, heading }, i) => {
        const align = show === 'picture' || show === 'item' ? writer.start : writer.finish;
        const wideOnly = foldedColumns(block).has(show) ? ' class="carafe-wide"' : '';
        // A heading without words is none: it would be read aloud as one.
        const tag = heading.trim() === '' ? 'td' : 'th';
        const scope = tag === 'th' ? ' scope="col"' : '';
        return `<${tag}${wideOnly}${scope} align="${align}" style="padding:0 0 6px;padding-${writer.start}:${before(i)}px;border-bottom:1px solid ${style.rule};font-weight:normal;font-size:13px;color:${style.quiet}">${writer.running(heading, 'html', `columns.${i}.heading`)}</${tag}>`;
      })
      .join('');
    const cells = block.columns.map((column, i) => cellHtml(column, i, block, writer)).join('');
    const below = notesBelow(
      block,
      writer,
      (note) =>
        `<tr><td colspan="${block.columns.length}" style="padding:0 0 10px">${noteHtml(note, writer)}</td></tr>`,
    );
    const rows = writer.loop(block.items, 'items', `<tr>${cells}</tr>${below}`);
    return `<mj-raw><tr><td style="padding:${writer.padding(block.padding)}"><table width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%;border-collapse:collapse;border-bottom:1px solid ${style.rule};font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.4;color:${style.ink}"><thead><tr>${head}</tr></thead><tbody>${rows}</tbody></table></td></tr></mj-raw>`;
  },
  text(block, writer) {
    const f = formulas(block);
    const value = (formula: string, path: string) => writer.value(formula, 'plain', path);
    const variant = block.variant
      ? writer.when(`${f.variant} is filled`, 'variant', `, ${value(f.variant, 'items.variant')}`)
      : '';
    const shown = new Set(block.columns.map((column) => column.show));
    const quantity = shown.has('quantity') ? `${value(f.quantity, 'items.quantity')} × ` : '';
    const amount = shown.has('total') ? 'total' : shown.has('price') ? 'price' : null;
    const money = amount ? ` — ${value(f[amount], `items.${amount}`)}` : '';
    const property = `\n    ${value('property.name', 'properties.name')}: ${value(f.value, 'properties.value')}`;
    const properties = block.properties ? writer.loop(f.properties, 'properties', property) : '';
    const name = value(f.name, 'items.name');
    const below = notesBelow(block, writer, (note) => `${notePlain(note, writer)}\n\n`);
    return writer.loop(
      block.items,
      'items',
      `  ${quantity}${name}${variant}${money}${properties}\n${below}`,
    );
  },
});
