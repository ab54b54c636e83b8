import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { compile, evaluate, localeOf, newContext, parse, printRunning, type Fields } from '.';

interface Case {
  formula: string;
  value?: unknown;
  error?: number;
  text?: string;
  locale?: string;
  timezone?: string;
  currency?: string;
}

/** A date stands as {"date": ISO} in the file. */
function revive(_key: string, value: unknown): unknown {
  const isDate =
    typeof value === 'object' && value !== null && Object.keys(value).join() === 'date';
  return isDate ? new Date((value as { date: string }).date) : value;
}

const file = readFileSync(join(__dirname, 'formula-cases.json'), 'utf8');
const { data } = JSON.parse(file, revive) as { data: Fields };
const { cases } = JSON.parse(file) as { cases: Case[] };

function run(formula: string): unknown {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(`${formula}: ${parsed.error.message}`);
  return evaluate(compile(parsed.value), newContext(data, localeOf(['en-GB'], ['UTC'])));
}

describe('the conformance file', () => {
  const printed = cases.filter((c) => c.text !== undefined);
  const failing = cases.filter((c) => c.error !== undefined);
  const valued = cases.filter((c) => c.text === undefined && c.error === undefined);

  test('holds cases of each kind', () => {
    expect(Math.min(printed.length, failing.length, valued.length)).toBeGreaterThan(5);
  });

  test.each(valued.map((c) => [c.formula, c.value]))('%s gives its value', (formula, value) => {
    expect(JSON.parse(JSON.stringify(run(String(formula)) ?? null))).toEqual(value);
  });

  test.each(failing.map((c) => [c.formula, c.error]))(
    '%s fails at its column',
    (formula, column) => {
      const parsed = parse(String(formula));
      expect(parsed.ok ? 'parsed' : parsed.error.column).toBe(column);
    },
  );

  test.each(printed.map((c) => [c.formula, c] as const))('%s prints', (formula, c) => {
    const context = newContext(data, localeOf([c.locale], [c.timezone]), c.currency);
    expect(printRunning(formula, context)).toBe(c.text);
  });
});
