import { compile, evaluate } from './compile';
import { newContext } from './context';
import { localeOf } from './locale';
import { parse } from './parse';
import type { Fields, Value } from './values';

/** Parses and runs a formula over a record, for tests. Throws where it does not parse. */
export function valueOf(formula: string, record: Fields = {}, tag = 'en-GB', zone = 'UTC'): Value {
  const parsed = parse(formula);
  if (!parsed.ok) throw new Error(`${formula}: ${parsed.error.message} (${parsed.error.column})`);
  return evaluate(compile(parsed.value), newContext(record, localeOf([tag], [zone])));
}
