import type { Op, Program } from '@carafe/core/build';

/** How another way of filling writes each operation; expressions are given for every formula. */
export interface Dialect {
  words(text: string): string;
  value(expression: string): string;
  address(expression: string, scheme: string): string;
  ifAddress(expression: string, then: string, other: string): string;
  condition(expression: string, then: string, other: string): string;
  loop(expression: string, as: string, body: string): string;
}

/** Writes a program's HTML in another dialect, as somebody would who wrote that mail by hand. */
export function translate(
  program: Program,
  expressions: Record<string, string>,
  dialect: Dialect,
): string {
  const expression = (index: number): string => {
    const formula = program.formulas[index] ?? '';
    const known = expressions[formula];
    if (known === undefined) throw new Error(`The bench has no expression for ${formula}.`);
    return known;
  };
  const address = (parts: (string | number)[]): string => {
    const [only] = parts;
    if (parts.length !== 1 || typeof only !== 'number')
      throw new Error('The bench takes addresses that are one formula.');
    return expression(only);
  };
  const sequence = (ops: readonly Op[]): string => ops.map(one).join('');
  const one = (op: Op): string => {
    if (typeof op === 'string') return dialect.words(op);
    switch (op.op) {
      case 'value':
        return dialect.value(expression(op.formula));
      case 'address':
        return dialect.address(address(op.parts), op.scheme);
      case 'ifAddress':
        return dialect.ifAddress(address(op.parts), sequence(op.then), sequence(op.else));
      case 'condition':
        return dialect.condition(expression(op.formula), sequence(op.then), sequence(op.else));
      case 'loop':
        return dialect.loop(expression(op.loop.list), op.loop.as, sequence(op.body));
      case 'node':
      case 'field':
        return sequence(op.body);
    }
  };
  return sequence(program.html);
}

/** Plain string joining, the way a programmer writes it who wants nothing but speed. */
export const HAND: Dialect = {
  words: (text) => `out += ${JSON.stringify(text)};\n`,
  value: (e) => `out += esc(${e});\n`,
  address: (e, scheme) => `out += esc(url(${e}, '${scheme}'));\n`,
  ifAddress: (e, then, other) => `if (${e}) {${then}} else {${other}}\n`,
  condition: (e, then, other) => `if (${e}) {${then}} else {${other}}\n`,
  loop: (e, as, body) => `for (const ${as} of ${e}) {${body}}\n`,
};

export const ETA: Dialect = {
  words: (text) => text,
  value: (e) => `<%= esc(${e}) %>`,
  address: (e, scheme) => `<%= esc(url(${e}, '${scheme}')) %>`,
  ifAddress: (e, then, other) => `<% if (${e}) { %>${then}<% } else { %>${other}<% } %>`,
  condition: (e, then, other) => `<% if (${e}) { %>${then}<% } else { %>${other}<% } %>`,
  loop: (e, as, body) => `<% for (const ${as} of ${e}) { %>${body}<% } %>`,
};

export const HANDLEBARS: Dialect = {
  words: (text) => text,
  value: (e) => `{{esc (${e})}}`,
  address: (e, scheme) => `{{esc (url (${e}) "${scheme}")}}`,
  ifAddress: (e, then, other) => `{{#if (${e})}}${then}{{else}}${other}{{/if}}`,
  condition: (e, then, other) => `{{#if (${e})}}${then}{{else}}${other}{{/if}}`,
  loop: (e, as, body) => `{{#each ${e} as |${as}|}}${body}{{/each}}`,
};
