import { walk, type Node } from './ast';
import type { Context } from './context';
import { fieldOf, isRecord } from './values';

/** The names that a formula's paths begin with, in reading order. */
export function currencyRoots(node: Node): string[] {
  const names: string[] = [];
  walk(node, (inside) => {
    if (inside.type === 'name') names.push(inside.name);
  });
  return names;
}

function ownCurrency(value: unknown): string | undefined {
  const currency = isRecord(value) ? fieldOf(value, 'currency') : undefined;
  return typeof currency === 'string' && currency !== '' ? currency : undefined;
}

function currencyOfName(context: Context, name: string): string | undefined {
  for (let { frame } = context; frame !== null; frame = frame.parent) {
    const { member } = frame;
    if (frame.as === name || name === 'it') return ownCurrency(member) ?? frame.currency;
    if (isRecord(member) && Object.hasOwn(member, name)) {
      return ownCurrency(fieldOf(member, name)) ?? ownCurrency(member) ?? frame.currency;
    }
  }
  return ownCurrency(fieldOf(context.record, name));
}

/**
 * The currency that stands nearest to an amount: that of what the amount was read from, then of
 * what surrounds it, then the cart's, the order's, the shop's.
 */
export function nearestCurrency(context: Context, roots: readonly string[]): string | undefined {
  for (const name of roots) {
    const found = currencyOfName(context, name);
    if (found !== undefined) return found;
  }
  for (let { frame } = context; frame !== null; frame = frame.parent) {
    const found = ownCurrency(frame.member) ?? frame.currency;
    if (found !== undefined) return found;
  }
  for (const name of ['cart', 'order', 'shop']) {
    const found = ownCurrency(fieldOf(context.record, name));
    if (found !== undefined) return found;
  }
  return context.currency;
}
