import type { Program } from '../build/program';
import type { Context, Fields } from '../formula';
import type { Cut } from './cut';
import { headerLine } from './escape';
import { cutOff, type Filling, type Run } from './filling';
import { leaveHeaders } from './headers';
import { asksOnce } from './operations';
import type { PrepareOptions } from './options';
import { Preparation } from './preparation';
import { contextFor, type RenderOptions } from './record';
import type { Trail } from './trail';

export interface Mail {
  from: string;
  /** The recipient’s name, where it is to stand before the address. */
  to_name?: string;
  subject: string;
  preview_text: string;
  html: string;
  text: string;
  /** Other headers of the message, by name. */
  headers: Record<string, string>;
}
export interface Rendered {
  mail: Mail;
  /** The recipient is not to get it: the template's own condition does not hold. */
  held?: true;
  /** It ran into a bound and is not whole: it is not to be sent. */
  cut?: Cut;
  /** Told when the renderer was prepared with a trail. */
  trail?: Trail;
  /** Of a mail that was not made (`dry`): about how many characters its HTML would have. */
  size?: number;
  /** SKUs of the products that loops showed; told when the renderer was prepared with products. */
  products?: string[];
}

/** Fills a prepared program for one recipient. */
export type Render = (record: Fields, options: RenderOptions) => Rendered;

/** Lines that ended up empty, because nothing showed there, are closed up. */
function tidyText(text: string): string {
  const lines = text.split('\n').map((line) => line.trimEnd());
  return `${lines
    .join('\n')
    .replace(/\n{3,}/g, '\n\n')
    .trim()}\n`;
}

/** Prepares a program to be filled many times: its formulas are compiled once. */
export function prepare(program: Program, options: PrepareOptions = {}): Render {
  const preparation = new Preparation(program, options);
  const head = options.dry ? new Preparation(program, { ...options, dry: false }) : preparation;
  const from = head.sequence(program.fromName);
  const subject = head.sequence(program.subject);
  const preview = head.sequence(program.preview);
  const html = preparation.sequence(program.html);
  // The text part says the same again, and nobody reads their own name: both are left out of trail and tally.
  const quiet = new Preparation(program, {});
  const text = quiet.sequence(program.text);
  const toName = program.toName && quiet.sequence(program.toName);
  const { onlyIf } = program;
  const isHeld = (context: Context): boolean =>
    onlyIf !== undefined && !preparation.holds(onlyIf, context);
  const onceAsked = asksOnce(program.html) || asksOnce(program.text);
  const offersLeave = program.formulas.some((source) => source.includes('links.unsubscribe'));
  return (record, renderOptions) => {
    const context = contextFor(record, renderOptions);
    const trail: Trail | null = options.trail ? [] : null;
    const { tally } = options;
    if (tally) {
      tally.clear();
      context.onFallback = () => {
        tally.fellBack = true;
      };
    }
    const f: Filling = {
      context,
      out: [],
      repeats: 0,
      length: 0,
      cut: null,
      size: 0,
      trail,
      outcomes: new Set(),
      lengths: renderOptions.lengths,
      linkTags: null,
      products: onceAsked || options.products ? new Set() : null,
      tagged: null,
    };
    const filled = (run: Run): string => {
      run(f);
      const joined = f.out.join('');
      f.out.length = 0;
      return joined;
    };
    const mail: Mail = {
      from: headerLine(filled(from)),
      subject: headerLine(filled(subject)),
      preview_text: headerLine(filled(preview)),
      html: filled(html),
      text: '',
      headers: offersLeave ? leaveHeaders(record) : {},
    };
    context.onFallback = null;
    Object.assign(f, { repeats: 0, length: 0, trail: null });
    const name = toName ? headerLine(filled(toName)) : '';
    if (name !== '') mail.to_name = name;
    const products = options.products && f.products ? [...f.products] : null;
    f.products?.clear();
    if (options.text !== false) mail.text = tidyText(filled(text));
    const rendered: Rendered = { mail, ...(isHeld(context) && { held: true as const }) };
    if (context.total <= 0) cutOff(f, 'work', { node: '', path: '' });
    if (f.cut) rendered.cut = f.cut;
    if (options.dry) rendered.size = f.size;
    if (trail) rendered.trail = trail;
    if (products) rendered.products = products.filter((sku) => typeof sku === 'string');
    return rendered;
  };
}
