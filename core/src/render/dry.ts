import { printValue, type Context, type Value } from '../formula';
import type { Run } from './filling';

/** Runs what decides, and adds up how much the words between would be. */
export function dryRun(parts: readonly (string | Run)[]): Run {
  const words = parts.reduce((sum, part) => sum + (typeof part === 'string' ? part.length : 0), 0);
  const runs = parts.filter((part) => typeof part === 'function');
  return (f) => {
    f.size += words;
    for (const run of runs) run(f);
  };
}

/** Whether a value prints nothing, without printing what cannot be blank. */
export function isBlankValue(value: Value, context: Context): boolean {
  if (value === undefined) return true;
  if (typeof value === 'string') return isBlankText(value);
  return (
    typeof value === 'object' && !(value instanceof Date) && isBlankText(printValue(value, context))
  );
}

export const isBlankText = (text: string): boolean => !/\S/.test(text);
