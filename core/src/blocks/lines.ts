import { z } from 'zod';
import type { Writer } from '../build/writer';
import { common, looks, Loop, Running } from '../template/parts';
import { defineBlock } from './define';

const LinesColumn = z.strictObject({
  show: z.enum(['picture', 'item', 'quantity', 'price', 'total']),
  heading: Running,
});
export type LinesColumn = z.infer<typeof LinesColumn>;

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
});
type LinesBlock = z.infer<typeof schema>;

/** The formulas of a line's parts, for the name that the line has in its loop. */
function formulas(as: string) {
  return {
    image: `{{ ${as}.image }}`,
    url: `{{ ${as}.url }}`,
    name: `${as}.name otherwise ${as}.sku`,
    variant: `${as}.variant`,
    quantity: `number(${as}.quantity)`,
    price: `money(${as}.price)`,
    total: `money(${as}.total otherwise (${as}.price * ${as}.quantity))`,
    properties: { list: `${as}.properties`, as: 'property', where: 'property.value is filled' },
  };
}

function itemHtml(block: LinesBlock, writer: Writer): string {
  const f = formulas(block.items.as);
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
    const property = `${writer.value('property.name', 'html', 'properties.name')}: ${writer.value('property.value', 'html', 'properties.value')}`;
    html += writer.loop(f.properties, 'properties', `<div style="${quiet}">${property}</div>`);
  }
  return html;
}

function cellHtml(column: LinesColumn, block: LinesBlock, writer: Writer): string {
  const f = formulas(block.items.as);
  const { rule } = writer.style;
  const cell = (html: string, css: string, align = 'left') =>
    `<td align="${align}" valign="top" style="padding:10px 0 10px 8px;border-bottom:1px solid ${rule};${css}">${html}</td>`;
  switch (column.show) {
    case 'picture': {
      const image = `<img src="${writer.url(f.image, 'items.image', 'picture')}" alt="" width="56" style="display:block;border:0;width:56px;height:auto;border-radius:${writer.style.radius}px">`;
      return cell(
        writer.given(f.image, 'items.image', 'picture', image),
        'width:56px;padding-left:0;',
      );
    }
    case 'item':
      return cell(itemHtml(block, writer), '');
    default:
      return cell(
        writer.value(f[column.show], 'html', `items.${column.show}`),
        'white-space:nowrap;',
        'right',
      );
  }
}

export const lines = defineBlock({
  kind: 'lines',
  name: 'Lines',
  says: 'The lines of a cart or an order as a table.',
  schema,
  make: (id) => ({
    kind: 'lines' as const,
    id,
    items: { list: 'cart.lines', as: 'line' },
    columns: [
      { show: 'picture' as const, heading: '' },
      { show: 'item' as const, heading: 'Item' },
      { show: 'quantity' as const, heading: 'Qty' },
      { show: 'total' as const, heading: 'Total' },
    ],
    variant: true,
    properties: false,
  }),
  slots(block, visit) {
    const f = formulas(block.items.as);
    block.columns.forEach((column, i) => {
      visit.running(`columns.${i}.heading`, column.heading);
      if (column.show === 'quantity' || column.show === 'price' || column.show === 'total')
        visit.formula(`items.${column.show}`, f[column.show], 'value', block.items);
      if (column.show === 'item') visit.formula('items.name', f.name, 'value', block.items);
    });
    if (block.variant) visit.formula('items.variant', f.variant, 'value', block.items);
    if (block.properties) visit.formula('properties', f.properties.list, 'value', block.items);
  },
  mjml(block, writer) {
    const { style } = writer;
    const head = block.columns
      .map(({ show, heading }, i) => {
        const align = show === 'picture' || show === 'item' ? 'left' : 'right';
        return `<th scope="col" align="${align}" style="padding:0 0 6px ${i === 0 ? 0 : 8}px;border-bottom:1px solid ${style.rule};font-weight:normal;font-size:13px;color:${style.quiet}">${writer.running(heading, 'html', `columns.${i}.heading`)}</th>`;
      })
      .join('');
    const cells = block.columns.map((column) => cellHtml(column, block, writer)).join('');
    const rows = writer.loop(block.items, 'items', `<tr>${cells}</tr>`);
    return `<mj-raw><tr><td style="padding:${writer.padding(block.padding)}"><table width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%;border-collapse:collapse;font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.4;color:${style.ink}"><thead><tr>${head}</tr></thead><tbody>${rows}</tbody></table></td></tr></mj-raw>`;
  },
  text(block, writer) {
    const f = formulas(block.items.as);
    const value = (formula: string, path: string) => writer.value(formula, 'plain', path);
    const variant = block.variant
      ? writer.when(`${f.variant} is filled`, 'variant', `, ${value(f.variant, 'items.variant')}`)
      : '';
    const shown = new Set(block.columns.map((column) => column.show));
    const quantity = shown.has('quantity') ? `${value(f.quantity, 'items.quantity')} × ` : '';
    const amount = shown.has('total') ? 'total' : shown.has('price') ? 'price' : null;
    const money = amount ? ` — ${value(f[amount], `items.${amount}`)}` : '';
    const property = `\n    ${value('property.name', 'properties.name')}: ${value('property.value', 'properties.value')}`;
    const properties = block.properties ? writer.loop(f.properties, 'properties', property) : '';
    const name = value(f.name, 'items.name');
    return writer.loop(
      block.items,
      'items',
      `  ${quantity}${name}${variant}${money}${properties}\n`,
    );
  },
});
