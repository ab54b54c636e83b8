import { build, type Program } from '@carafe/core/build';
import type { Fields } from '@carafe/core/formula';
import { escapeHtml, prepare, safeAddress } from '@carafe/core/render';
import { Eta } from 'eta';
import Handlebars from 'handlebars';
import { ETA, HAND, HANDLEBARS, translate } from './dialects';
import { fillRecords, fillTemplate } from './fill-template';
import { race } from './measure';

type Fill = (record: Fields) => string;

/** Each formula of the bench's mail as JavaScript; `r` is the record, `line` the loop's member. */
const JS: Record<string, string> = {
  'shop.logo': 'r.shop.logo',
  'shop.name': 'r.shop.name',
  'shop.url': 'r.shop.url',
  'shop.address': 'r.shop.address',
  'person.first_name otherwise "there"': '(r.person.first_name || "there")',
  'cart.lines': 'r.cart.lines',
  'line.image': 'line.image',
  'line.url': 'line.url',
  'line.name otherwise line.sku': '(line.name || line.sku)',
  'line.variant': '(line.variant || "")',
  'line.variant is filled': 'line.variant',
  'number(line.quantity)': 'number(line.quantity)',
  'money(line.total otherwise (line.price * line.quantity))':
    'money(line.total || line.price * line.quantity, r.cart.currency)',
  'money(cart.total) is filled': 'r.cart.total !== undefined',
  'money(cart.total)': 'money(r.cart.total, r.cart.currency)',
  'cart.total >= 50': 'r.cart.total >= 50',
  'money(50 - cart.total)': 'money(50 - r.cart.total, r.cart.currency)',
  'cart.recover_url': 'r.cart.recover_url',
  'links.unsubscribe': 'r.links.unsubscribe',
  'links.preferences': 'r.links.preferences',
  '{{title}}': 'r.shop.name',
};

/** The same for Handlebars, whose templates call helpers. */
const HBS: Record<string, string> = {
  ...Object.fromEntries(
    [
      'shop.logo',
      'shop.name',
      'shop.url',
      'shop.address',
      'cart.recover_url',
      'links.unsubscribe',
      'links.preferences',
    ].map((p) => [p, `get @root.${p}`]),
  ),
  'person.first_name otherwise "there"': 'otherwise @root.person.first_name "there"',
  'cart.lines': '@root.cart.lines',
  'line.image': 'get line.image',
  'line.url': 'get line.url',
  'line.name otherwise line.sku': 'otherwise line.name line.sku',
  'line.variant': 'otherwise line.variant ""',
  'line.variant is filled': 'get line.variant',
  'number(line.quantity)': 'number line.quantity',
  'money(line.total otherwise (line.price * line.quantity))':
    'money (otherwise line.total 0) @root.cart.currency',
  'money(cart.total) is filled': 'filled @root.cart.total',
  'money(cart.total)': 'money @root.cart.total @root.cart.currency',
  'cart.total >= 50': 'atLeast @root.cart.total 50',
  'money(50 - cart.total)': 'money (minus 50 @root.cart.total) @root.cart.currency',
};

const formats = new Map<string, Intl.NumberFormat>();
/** Money as one writes it by hand: the formatter kept, since making one is dear. */
function money(value: number, currency: string): string {
  let format = formats.get(currency);
  if (!format) {
    format = new Intl.NumberFormat('en-GB', { style: 'currency', currency });
    formats.set(currency, format);
  }
  return format.format(value);
}
const kept = new Map<number, string>();
/** The same, with what was printed kept as well, which is what Carafe does. */
function moneyKept(value: number, currency: string): string {
  let text = kept.get(value);
  if (text === undefined) {
    if (kept.size >= 2000) kept.clear();
    text = money(value, currency);
    kept.set(value, text);
  }
  return text;
}
const plain = new Intl.NumberFormat('en-GB');
const number = (value: number) => plain.format(value);
const url = (text: string, scheme: 'link' | 'picture') => safeAddress(text, scheme) ?? '';

function byHand(program: Program, printMoney: typeof money): Fill {
  const body = `let out = '';\n${translate(program, JS, HAND)}return out;`;
  // Written by hand it would be the same function; here the bench writes it, from the same mail.
  // eslint-disable-next-line no-new-func
  const make = new Function(
    'esc',
    'url',
    'money',
    'number',
    `return function fill(r) {${body}}`,
  ) as (...helpers: unknown[]) => Fill;
  return make(escapeHtml, url, printMoney, number);
}

function withEta(program: Program, printMoney: typeof money): Fill {
  const functionHeader = 'const { r, esc, url, money, number } = it;';
  const eta = new Eta({ autoEscape: false, autoTrim: false, functionHeader });
  const compiled = eta.compile(translate(program, JS, ETA));
  return (r) => compiled.call(eta, { r, esc: escapeHtml, url, money: printMoney, number });
}

function withHandlebars(program: Program, printMoney: typeof money): Fill {
  const own = Handlebars.create();
  const helpers = {
    esc: (text: unknown) => escapeHtml(String(text)),
    url,
    money: printMoney,
    number,
    get: (value: unknown) => value,
    otherwise: (value: unknown, other: unknown) => value || other,
    filled: (value: unknown) => value !== undefined,
    atLeast: (a: number, b: number) => a >= b,
    minus: (a: number, b: number) => a - b,
  };
  own.registerHelper(helpers);
  const knownHelpers = Object.fromEntries(Object.keys(helpers).map((name) => [name, true]));
  // Its fastest way: helpers known beforehand, white space left alone as the others leave it.
  const options = { noEscape: true, ignoreStandalone: true, knownHelpers, knownHelpersOnly: true };
  return own.compile(translate(program, HBS, HANDLEBARS), options);
}

export interface FillResult {
  bytes: number;
  microseconds: Record<string, number>;
  /** How many times as fast as each other way Carafe is: above 1 means that Carafe is faster. */
  carafeAgainst: Record<string, number>;
}

/** The ways to fill the bench's mail, Carafe's first. Throws where its template has findings. */
export async function waysToFill(): Promise<Record<string, Fill>> {
  const template = fillTemplate();
  template.envelope = {
    ...template.envelope,
    subject: '{{ shop.name }}',
    preview_text: '{{ shop.name }}',
    from_name: 'x',
  };
  const { program, findings } = await build(template);
  if (findings.length > 0)
    throw new Error(`The bench's template has findings: ${findings[0]?.message ?? ''}`);
  // Only the HTML is raced: the others fill nothing else.
  const render = prepare({ ...program, text: [], subject: [], preview: [], fromName: [] });
  const asOf = new Date('2026-11-24T09:00:00Z');
  return {
    Carafe: (record) => render(record, { asOf }).mail.html,
    'by hand': byHand(program, money),
    'by hand, money kept': byHand(program, moneyKept),
    Handlebars: withHandlebars(program, money),
    'Handlebars, money kept': withHandlebars(program, moneyKept),
    Eta: withEta(program, money),
    'Eta, money kept': withEta(program, moneyKept),
  };
}

/** Races Carafe's fill against others on the same mail, all of which give the same bytes (fill.test.ts). */
export async function benchFill(): Promise<FillResult> {
  const fills = await waysToFill();
  const records = fillRecords(200);
  let at = 0;
  const contestants = Object.fromEntries(
    Object.entries(fills).map(([name, fill]) => [
      name,
      // Asking for a late character makes the engine join what it only noted so far.
      () => {
        const html = fill(records[at++ % records.length] as Fields);
        return html.length + html.charCodeAt(html.length - 9);
      },
    ]),
  );
  const microseconds = race(contestants, 40, 200);
  const own = microseconds['Carafe'] ?? Number.NaN;
  const carafeAgainst = Object.fromEntries(
    Object.entries(microseconds)
      .filter(([name]) => name !== 'Carafe')
      .map(([name, time]) => [name, time / own]),
  );
  return {
    bytes: Buffer.byteLength(fills['Carafe']?.(records[1] as Fields) ?? ''),
    microseconds,
    carafeAgainst,
  };
}
