import { z } from 'zod';
import { gist } from '../template/gist';
import { common, Formula, looks, Running } from '../template/parts';
import { defineBlock } from './define';
import { SPACE } from './fields';

const Row = z.strictObject({
  label: Running,
  amount: Formula,
  when: Formula.optional(),
  strong: z.boolean().optional(),
});
type Row = z.infer<typeof Row>;

/** What a row prints: what is taken off has its sign, so that the rows add up. */
const amountOf = ({ amount }: Row): string =>
  /^\s*(?:cart|order)\.discount\s*$/.test(amount) ? `-abs(${amount})` : amount;

/** A row shows when its own condition holds and there is an amount to print. */
function shows(row: Row): string {
  const filled = `money(${amountOf(row)}) is filled`;
  return row.when ? `(${row.when}) and ${filled}` : filled;
}

export const totals = defineBlock({
  kind: 'totals',
  name: 'Totals',
  description: 'Totals with their labels. Rows without an amount are left out.',
  words: ['subtotal', 'tax', 'postage', 'shipping', 'price'],
  icon: 'M5 7h8 M5 12h8 M5 17h8 M17 7h2 M17 12h2 M17 17h2',
  schema: z.strictObject({
    kind: z.literal('totals'),
    ...common,
    ...looks,
    rows: z.array(Row).min(1).max(20),
  }),
  make: (id, { record = 'cart' }) => ({
    kind: 'totals' as const,
    id,
    rows: [{ label: 'Total', amount: `${record}.total`, strong: true }],
  }),
  fields: [
    {
      control: 'list',
      path: 'rows',
      label: 'Rows',
      least: 1,
      most: 20,
      addLabel: 'Add a row',
      kinds: [
        {
          show: null,
          name: 'Row',
          make: () => ({ label: 'Total', amount: 'cart.total' }),
          fields: [
            { control: 'line', path: 'label', label: 'Label', holds: 'text' },
            { control: 'formula', path: 'amount', label: 'Amount', use: 'value' },
            {
              control: 'formula',
              path: 'when',
              label: 'Condition',
              placeholder: 'There is an amount',
              use: 'condition',
              optional: true,
            },
            { control: 'switch', path: 'strong', label: 'Bold', optional: true },
          ],
        },
      ],
    },
    ...SPACE,
  ],
  label: (block) => block.rows.map((row) => gist(row.label)).join(', '),
  mjml(block, writer) {
    const { style } = writer;
    const rows = block.rows
      .map((row, i) => {
        const css = row.strong ? `font-weight:bold;font-size:${style.text_size + 1}px;` : '';
        const label = writer.running(row.label, 'html', `rows.${i}.label`);
        const amount = writer.value(`money(${amountOf(row)})`, 'html', `rows.${i}.amount`);
        return writer.when(
          shows(row),
          `rows.${i}.when`,
          `<tr><td align="${writer.start}" style="padding:3px 0;${css}">${label}</td><td align="${writer.finish}" style="padding:3px 0;white-space:nowrap;${css}">${amount}</td></tr>`,
        );
      })
      .join('');
    return `<mj-raw><tr><td style="padding:${writer.padding(block.padding)}"><table role="presentation" width="100%" border="0" cellpadding="0" cellspacing="0" style="width:100%;border-collapse:collapse;font-family:${style.body_font};font-size:${style.text_size - 1}px;line-height:1.4;color:${style.ink}">${rows}</table></td></tr></mj-raw>`;
  },
  text: (block, writer) =>
    block.rows
      .map((row, i) => {
        const label = writer.running(row.label, 'plain', `rows.${i}.label`);
        const amount = writer.value(`money(${amountOf(row)})`, 'plain', `rows.${i}.amount`);
        return writer.when(shows(row), `rows.${i}.when`, `  ${label}: ${amount}\n`);
      })
      .join(''),
});
