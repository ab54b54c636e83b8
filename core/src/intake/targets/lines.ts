import { readNumber } from '../../formats/cells';
import { remember } from '../../formula';
import { roundTo } from '../../formula/number';
import { byName } from '../names';
import { field, type Fields, type RecordProblem, type TargetField } from './define';

/** The fields of a line of a cart or an order. */
export const LINE: TargetField[] = [
  field('sku', 'SKU', 'text', 'sku articleno artikelnummer productid itemid code'),
  field('name', 'Name', 'text', 'name title product item artikel bezeichnung'),
  field('variant', 'Variant', 'text', 'variant option size variante'),
  field('image', 'Picture', 'text', 'image picture img imageurl bild'),
  field('url', 'Link', 'text', 'url link'),
  field('category', 'Category', 'text', 'category type kategorie'),
  field('price', 'Price', 'number', 'price unitprice itemprice lineprice each preis einzelpreis'),
  field('quantity', 'Quantity', 'number', 'quantity qty pieces menge anzahl stueck count'),
  field('total', 'Line total', 'number', 'total linetotal lineamount summe gesamtpreis'),
  field('properties', 'Properties', 'any', 'properties options'),
];

const cents = (amount: number) => roundTo(amount, 2);
const isFields = (value: unknown): value is Fields =>
  typeof value === 'object' && value !== null && !Array.isArray(value);

/** `Label: Fern | Gift: yes`, {"Label": "Fern"} or [{name, value}]: all become [{name, value}]. */
function propertiesOf(value: unknown): { name: string; value: string }[] {
  if (typeof value === 'string')
    return value
      .split(/[|;\n]/)
      .map((pair) => /^([^:=]+)[:=](.*)$/.exec(pair))
      .flatMap((parts) =>
        parts ? [{ name: (parts[1] ?? '').trim(), value: (parts[2] ?? '').trim() }] : [],
      );
  if (Array.isArray(value))
    return value
      .filter(isFields)
      .flatMap(({ name, value: said }) =>
        typeof name === 'string'
          ? [{ name, value: said === null || said === undefined ? '' : String(said as string) }]
          : [],
      );
  if (isFields(value))
    return Object.entries(value).map(([name, said]) => ({
      name,
      value: said === null ? '' : String(said as string),
    }));
  return [];
}

const NUMBERS = LINE.filter(({ kind }) => kind === 'number').map(({ name }) => name);

const OWN = new Set(LINE.map(({ name }) => name));
/** Hot: files have few names, and many lines. */
const fieldCalled = remember(500, (called: string) => byName(called, LINE)?.name);

/** A line by the names of Carafe, what the file calls otherwise beside them; amounts that are written as text as numbers. */
function lineNamed(given: Fields): Fields {
  const line: Fields = { ...given };
  for (const [called, value] of Object.entries(given)) {
    const name = OWN.has(called) || value === null ? undefined : fieldCalled(called);
    if (name !== undefined) line[name] ??= value;
  }
  for (const name of NUMBERS) {
    const written = line[name];
    if (typeof written !== 'string') continue;
    const text = written.trim();
    // A text that is no number stays, to be told.
    line[name] =
      text === '' ? undefined : (readNumber(text, '.') ?? readNumber(text, ',') ?? written);
  }
  return line;
}

/** A line with its total and properties, or what is wrong with it. */
function finishLine(given: unknown, place: number): Fields | string {
  if (!isFields(given)) return `Line ${place} is no record.`;
  const named = lineNamed(given);
  const line: Fields = { ...named, properties: propertiesOf(named['properties']) };
  if (line['name'] === undefined && line['sku'] === undefined)
    return `Line ${place} has neither a SKU nor a name.`;
  line['name'] ??= line['sku'];
  line['sku'] ??= line['name'];
  const quantity = line['quantity'] ?? 1;
  const { price, total } = line;
  const each =
    price ??
    (typeof total === 'number' && typeof quantity === 'number' ? total / quantity : undefined);
  if (typeof quantity !== 'number' || !(quantity > 0))
    return `Line ${place} has no quantity above 0.`;
  if (typeof each !== 'number' || each < 0) return `Line ${place} has no price.`;
  if (total !== undefined && total !== null && typeof total !== 'number')
    return `Line ${place}: its total is no number.`;
  return { ...line, quantity, price: cents(each), total: total ?? cents(each * quantity) };
}

/** Completes the lines of a cart or an order, and its sums. */
export function finishLines(record: Fields): RecordProblem | null {
  const given = record['lines'];
  const isSaid = given !== undefined && given !== null && given !== '';
  if (isSaid && !Array.isArray(given))
    return {
      field: 'lines',
      message:
        'The lines are no list: each is a record with a SKU or a name, a price and a quantity.',
    };
  const lines: Fields[] = [];
  for (const [i, member] of (Array.isArray(given) ? given : []).entries()) {
    const line = finishLine(member, i + 1);
    if (typeof line === 'string') return { field: 'lines', message: line };
    lines.push(line);
  }
  record['lines'] = lines;
  const sum = cents(lines.reduce((total, line) => total + Number(line['total']), 0));
  const { discount = 0, shipping = 0 } = record;
  record['subtotal'] ??= sum;
  record['total'] ??= cents(Number(record['subtotal']) - Number(discount) + Number(shipping));
  return null;
}
