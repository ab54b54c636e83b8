import { z } from 'zod';
import { gist } from '../template/gist';
import { Align, common, looks, Running } from '../template/parts';
import { defineBlock, namedFormula } from './define';
import { alignField, SPACE } from './fields';
import { buttonTable } from './buttonTable';

const schema = z.strictObject({
  kind: z.literal('coupon'),
  ...common,
  ...looks,
  /** What it is worth: `10 % off`. */
  value: Running,
  code: Running,
  /** For what it holds, and until when. */
  terms: Running.optional(),
  label: Running.optional(),
  href: Running.optional(),
  align: Align.optional(),
});

/** A coupon shows where there is a code: an empty frame would promise something. */
const hasCode = (code: string): string => {
  const formula = /^\s*\{\{\s*([^{}]+?)\s*\}\}\s*$/.exec(code)?.[1];
  return formula === undefined ? 'true' : `(${formula}) is filled`;
};

export const coupon = defineBlock({
  kind: 'coupon',
  name: 'Coupon',
  description: 'A code with what it is worth, for what, and until when.',
  words: ['voucher', 'discount', 'promo', 'offer'],
  icon: 'M4 7h16v3a2 2 0 0 0 0 4v3H4v-3a2 2 0 0 0 0-4z M10 8v8',
  schema,
  make(id, { coupons: [name] }) {
    const of = name === undefined ? null : namedFormula('coupon', name);
    return {
      kind: 'coupon' as const,
      id,
      value: of ? `{{ ${of}.value_text otherwise "A gift for you" }}` : '10 % off your next order',
      code: of ? `{{ ${of}.code }}` : 'THANKS10',
      ...(of && {
        terms: `{{ if(${of}.expires_at is filled, "Until " & date(${of}.expires_at, "long"), "While stocks last") }}`,
      }),
    };
  },
  fields: [
    {
      control: 'line',
      path: 'value',
      label: 'What it is worth',
      holds: 'text',
      inPlace: 'when asked',
    },
    {
      control: 'line',
      path: 'code',
      label: 'Code',
      help: 'The same for everybody, or a coupon of the data',
      holds: 'code',
    },
    { control: 'line', path: 'terms', label: 'Conditions', holds: 'text', optional: true },
    { control: 'line', path: 'label', label: 'Button', holds: 'text', optional: true },
    { control: 'line', path: 'href', label: 'Button link', holds: 'link', optional: true },
    alignField('center'),
    ...SPACE,
  ],
  label: ({ value }) => (gist(value) ? `Coupon: ${gist(value)}` : 'Coupon'),
  mjml(block, writer) {
    const { style } = writer;
    const words = (text: string, path: string, css: string) =>
      `<div style="${css}">${writer.running(text, 'html', path)}</div>`;
    const code = `<div style="padding:8px 0"><span style="display:inline-block;padding:8px 18px;border:2px dashed ${style.primary};border-radius:${style.radius}px;font-family:Menlo, Consolas, monospace;font-size:${style.text_size + 4}px;font-weight:bold;letter-spacing:1px;word-break:break-all">${writer.running(block.code, 'html', 'code')}</span></div>`;
    const terms = block.terms
      ? words(block.terms, 'terms', `font-size:13px;color:${style.quiet}`)
      : '';
    const button =
      block.label && block.href
        ? writer.ifAddress(
            block.href,
            'href',
            'link',
            `<div style="padding-top:12px">${buttonTable(
              {
                ...{ href: block.href, path: 'href' },
                label: writer.running(block.label, 'html', 'label'),
                padding: [10, 22],
              },
              writer,
            )}</div>`,
          )
        : '';
    const value = words(
      block.value,
      'value',
      `font-family:${style.heading_font};font-size:22px;line-height:1.25`,
    );
    const cell = `<tr><td align="${block.align ?? 'center'}" style="padding:${writer.padding(block.padding, 12, 12)};font-family:${style.body_font};font-size:${style.text_size}px;line-height:1.5;color:${style.ink};word-break:break-word">${value}${code}${terms}${button}</td></tr>`;
    return `<mj-raw>${writer.when(hasCode(block.code), 'code', cell)}</mj-raw>`;
  },
  text(block, writer) {
    const line = (text: string | undefined, path: string) =>
      text ? `\n${writer.running(text, 'plain', path)}` : '';
    const button =
      block.label && block.href
        ? writer.ifAddress(
            block.href,
            'href',
            'link',
            `\n${writer.running(block.label, 'plain', 'label')}: ${writer.url(block.href, 'href', 'link', 'plain')}`,
          )
        : '';
    const said = `${writer.running(block.value, 'plain', 'value')}: ${writer.running(block.code, 'plain', 'code')}${line(block.terms, 'terms')}${button}`;
    return writer.when(hasCode(block.code), 'code', said);
  },
});
