import { z } from 'zod';
import { imageHtml } from './image';
import type { Writer } from '../build/writer';
import { libraryPicture, RATIOS, ratioOf } from '../picture';
import { Formula, Running } from '../template/parts';
import { buttonTable } from './buttonTable';

/** One row of a card; cards show their fields in the order of this list. */
export const CardField = z.discriminatedUnion('show', [
  z.strictObject({
    show: z.literal('picture'),
    src: Running,
    alt: Running,
    href: Running.optional(),
    /** What stands where there is no picture: a quiet space of this shape (a square, left out), or nothing. */
    blank: z.enum(['square', 'wide', 'none']).optional(),
    /** The shape that all pictures are brought to. */
    ratio: z.enum(RATIOS).optional(),
    /** Cut to the shape, or shown whole within it. */
    fit: z.enum(['cut', 'whole']).optional(),
  }),
  z.strictObject({
    show: z.literal('words'),
    text: Running,
    weight: z.enum(['strong', 'plain', 'quiet']),
    href: Running.optional(),
    when: Formula.optional(),
    /** Longer words are cut after so many lines. */
    lines: z.number().int().min(1).max(10).optional(),
  }),
  z.strictObject({
    show: z.literal('price'),
    price: Formula,
    was: Formula.optional(),
    /** Percent of tax that is added to what the data says. */
    tax: z.number().min(0).max(100).optional(),
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
export type CardField = z.infer<typeof CardField>;

/** What of one product's card is other than in the catalog, in this mail alone. */
export const CardChange = z.strictObject({
  sku: z.string().max(200),
  words: Running.optional(),
  price: Running.optional(),
  src: Running.optional(),
  href: Running.optional(),
  button: Running.optional(),
});
export type CardChange = z.infer<typeof CardChange>;

/** Whether a change names a product and changes anything of it. */
export const isChanged = ({ sku, ...rest }: CardChange): boolean =>
  sku.trim() !== '' && Object.values(rest).some((value) => value !== undefined);

/** A field as it is for a product that is changed. Of the words, the first are meant. */
export function changedField(
  field: CardField,
  i: number,
  fields: readonly CardField[],
  { words, price, src, href, button }: CardChange,
): CardField {
  const link = href === undefined || !('href' in field) ? {} : { href };
  switch (field.show) {
    case 'picture':
      return { ...field, ...link, ...(src !== undefined && { src }) };
    case 'words': {
      const isFirst = fields.findIndex(({ show }) => show === 'words') === i;
      return { ...field, ...link, ...(isFirst && words !== undefined && { text: words }) };
    }
    case 'price':
      return price === undefined ? field : { show: 'words', text: price, weight: 'plain' };
    case 'button':
      return { ...field, ...link, ...(button !== undefined && { label: button }) };
  }
}

/** Width to height of the space that a picture leaves. */
const RATIO = { square: 1, wide: 4 / 3, none: 1 };

/** Words are cut after so many lines by the screens that can; elsewhere they stand whole. */
const cutAfter = (lines: number | undefined, html: string): string =>
  lines === undefined
    ? html
    : `<div style="display:-webkit-box;-webkit-box-orient:vertical;-webkit-line-clamp:${lines};overflow:hidden">${html}</div>`;

const WEIGHT = { strong: 'font-weight:bold;', plain: '', quiet: 'font-size:13px;' };

/** A field with its condition, where it has one. */
function shownIf(field: { when?: string | undefined }, path: string, writer: Writer, body: string) {
  return field.when === undefined ? body : writer.when(field.when, `${path}.when`, body);
}

/** A price as it is printed: what the data says, with the tax that is added. */
const taxed = (formula: string, tax: number | undefined): string =>
  tax === undefined || tax === 0 ? formula : `(${formula}) * ${(100 + tax) / 100}`;

/** A picture of a member, brought to the shape of all of them. */
function pictureHtml(
  field: CardField & { show: 'picture' },
  path: string,
  width: number,
  writer: Writer,
): string {
  const { src, alt, ratio, fit } = field;
  const corners = writer.style.radius;
  const paths = { src: `${path}.src`, alt: `${path}.alt` };
  if (libraryPicture(src)) return imageHtml({ src, alt, paths, width, ratio, corners }, writer);
  const shape = ratioOf(ratio);
  const css =
    shape === null
      ? 'height:auto;'
      : `height:auto;aspect-ratio:${shape.toFixed(4)};object-fit:${fit === 'whole' ? 'contain' : 'cover'};background:${writer.style.background};`;
  const height = shape === null ? '' : ` height="${Math.round(width / shape)}"`;
  return `<img src="${writer.url(src, paths.src, 'picture')}" alt="${writer.running(alt, 'attribute', paths.alt)}" width="${width}"${height} style="display:block;border:0;width:100%;${css}border-radius:${corners}px">`;
}

/** What a price is less than before, as money or in percent: `−£3.00`, `−20 %`. */
function savingOf({ price, was, saving, tax }: CardField & { show: 'price' }): string | null {
  if (was === undefined || saving === undefined || saving === 'none') return null;
  if (saving === 'money') return `"−" & money(${taxed(`(${was}) - (${price})`, tax)})`;
  return `"−" & percent(((${was}) - (${price})) / (${was}))`;
}

/** A field of a card as HTML, `width` pixels wide. */
export function fieldHtml(field: CardField, path: string, width: number, writer: Writer): string {
  const { style } = writer;
  const row = (html: string, css = '') => `<div style="padding:0 0 6px;${css}">${html}</div>`;
  switch (field.show) {
    case 'picture': {
      const image = pictureHtml(field, path, width, writer);
      const shape = ratioOf(field.ratio) ?? RATIO[field.blank ?? 'square'];
      return writer.ifAddress(
        field.src,
        `${path}.src`,
        'picture',
        row(writer.link(field.href, image, `${path}.href`), 'padding-bottom:10px;'),
        // A product without a picture keeps its place, so that rows line up.
        field.blank === 'none'
          ? ''
          : row(
              `<div style="width:100%;padding-top:${Math.round(100 / shape)}%;background:${style.background};border-radius:${style.radius}px;font-size:0;line-height:0">&nbsp;</div>`,
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
          cutAfter(
            field.lines,
            writer.link(field.href, words, `${path}.href`, 'text-decoration:none;'),
          ),
          WEIGHT[field.weight] + colour,
        ),
      );
    }
    case 'price': {
      const price = writer.value(
        `money(${taxed(field.price, field.tax)})`,
        'html',
        `${path}.price`,
      );
      if (!field.was) return row(price);
      const was = writer.value(`money(${taxed(field.was, field.tax)})`, 'html', `${path}.was`);
      const saved = savingOf(field);
      const saving = saved
        ? ` <span style="font-size:13px">${writer.value(saved, 'html', `${path}.saving`)}</span>`
        : '';
      const struck = ` <s style="color:${style.quiet}">${was}</s>${saving}`;
      return row(price + writer.when(`(${field.was}) > (${field.price})`, `${path}.was`, struck));
    }
    case 'button': {
      const label = writer.running(field.label, 'html', `${path}.label`);
      const inside = { href: field.href, path: `${path}.href`, label };
      const made = row(buttonTable({ ...inside, padding: [8, 16] }, writer));
      return shownIf(
        field,
        path,
        writer,
        writer.ifAddress(field.href, `${path}.href`, 'link', made),
      );
    }
  }
}

/** The same for the plain text. */
export function fieldText(field: CardField, path: string, writer: Writer): string {
  switch (field.show) {
    case 'picture':
      return '';
    case 'words':
      return shownIf(field, path, writer, writer.running(field.text, 'plain', `${path}.text`));
    case 'price':
      return writer.value(`money(${taxed(field.price, field.tax)})`, 'plain', `${path}.price`);
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
