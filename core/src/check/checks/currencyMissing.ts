import { parsedFormula, type Node } from '../../formula';
import { nameOf } from '../ask';
import { defineCheck } from '../define';
import { writtenWords } from '../written';

const PRICE = /^(?:.*_)?(?:price|total|subtotal|amount|discount|shipping|tax|worth|savings?)$/;
/** A currency’s sign or code beside a price. */
const SIGN = /\p{Sc}|\b[A-Z]{3}\b/u;
/** How many characters of the words beside a price may hold its currency. */
const BESIDE = 5;

/** The last name of a plain field, or of a number made of one; null where it is another formula. */
function fieldName(node: Node): string | null {
  if (node.type === 'field' || node.type === 'name') return node.name;
  if (node.type === 'otherwise') return fieldName(node.left);
  if (node.type === 'call' && ['number', 'round'].includes(node.name) && node.args[0])
    return fieldName(node.args[0]);
  return null;
}

/** The names of prices among the formulas of running text that no currency stands beside. */
function bare(running: string): string | null {
  for (const found of running.matchAll(/\{\{((?:"[^"]*"|[^{}"])*)\}\}/g)) {
    const parsed = parsedFormula((found[1] ?? '').trim());
    const name = parsed.ok ? fieldName(parsed.value) : null;
    if (name === null || !PRICE.test(name)) continue;
    const before = running.slice(Math.max(0, found.index - BESIDE), found.index);
    const end = found.index + found[0].length;
    const after = running.slice(end, end + BESIDE);
    if (!SIGN.test(before) && !SIGN.test(after)) return name;
  }
  return null;
}

export const currencyMissing = defineCheck({
  name: 'currency_missing',
  label: 'Prices have a currency',
  find: ({ template }) =>
    writtenWords(template).flatMap(({ node, path, running }) => {
      const name = bare(running);
      return name === null
        ? []
        : [
            {
              ...{ severity: 'warning' as const, node, path },
              message: `“${nameOf(template, node)}” shows the price “${name}” as a bare number. Write money(${name}) to print it with its currency.`,
            },
          ];
    }),
});
