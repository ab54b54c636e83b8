import type { CatalogNeed } from '@carafe/core/check';

/** Whether all that is needed is there. */
export function covers(held: CatalogNeed[] | null, needs: CatalogNeed[] | null): boolean {
  if (held === null) return true;
  return (
    needs?.every(({ name, loops }) => {
      const known = held.find((one) => one.name === name);
      if (!known) return false;
      if (known.loops === null) return true;
      const texts = new Set(known.loops.map((loop) => JSON.stringify(loop)));
      return loops !== null && loops.every((loop) => texts.has(JSON.stringify(loop)));
    }) ?? false
  );
}

/** What is needed for the one and for the other. */
export function joined(
  held: CatalogNeed[] | null,
  needs: CatalogNeed[] | null,
): CatalogNeed[] | null {
  if (held === null || needs === null) return null;
  const names = [...new Set([...held, ...needs].map(({ name }) => name))];
  return names.map((name) => {
    const both = [...held, ...needs].filter((one) => one.name === name);
    if (both.some(({ loops }) => loops === null)) return { name, loops: null };
    const texts = new Set(both.flatMap(({ loops }) => (loops ?? []).map((l) => JSON.stringify(l))));
    return { name, loops: [...texts].map((text) => JSON.parse(text) as never) };
  });
}
