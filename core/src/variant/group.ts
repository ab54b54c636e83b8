import { bitsOf, type VariantFigure } from './figures';

/** Variants with the largest first; of equal ones the one that was met first. */
export function largestFirst(variants: readonly VariantFigure[]): VariantFigure[] {
  return [...variants].sort((a, b) => b.people - a.people);
}

/** Variants counted coarser: only some decisions tell them apart. The person of the first of each stays. */
export function groupBy(
  variants: readonly VariantFigure[],
  counts: (decision: number) => boolean,
): VariantFigure[] {
  const groups = new Map<string, VariantFigure>();
  for (const one of variants) {
    const key = Array.from(one.key, (letter, i) => (counts(i) ? letter : '#')).join('');
    const known = groups.get(key);
    groups.set(key, known ? { ...known, people: known.people + one.people } : { ...one, key });
  }
  return largestFirst([...groups.values()]);
}

/**
 * Variants as different as possible: the largest, then each time the one that differs in most decisions from those
 * that were taken (farthest-first traversal, Gonzalez 1985); of equal ones the larger.
 */
export function mostDifferent(variants: readonly VariantFigure[], most: number): VariantFigure[] {
  const [first, ...rest] = largestFirst(variants);
  if (!first) return [];
  const taken = [first];
  const left = rest.map((one) => ({ one, bits: bitsOf(one.key), far: Number.POSITIVE_INFINITY }));
  for (let last = bitsOf(first.key); taken.length < most && left.length > 0;) {
    let best = 0;
    left.forEach((at, i) => {
      at.far = Math.min(at.far, at.bits.filter((bits, d) => bits !== last[d]).length);
      if (at.far > (left[best]?.far ?? 0)) best = i;
    });
    const [next] = left.splice(best, 1);
    if (!next) break;
    taken.push(next.one);
    last = next.bits;
  }
  return taken;
}
