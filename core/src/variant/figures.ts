import type { Decision } from '../render';

/** A group of people whose mails were decided alike. */
export interface VariantFigure {
  /** For each decision a character: 35 and the bits of its outcomes. */
  key: string;
  people: number;
  /** One of them, the first that was met. */
  person: number;
}

/** How many people something is true of, and one of them. */
export interface Fact {
  people: number;
  person: number;
  /** What it looked like there. */
  sample: string;
}

/** The addresses that one place of a template gave: the only one, or null where there were several. */
export interface AddressFigure {
  decision: number;
  only: string | null;
  /** How many addresses were given in all. */
  given: number;
}

/** What filling a template for some people came to; plain data, and those of others can be added. */
export interface SurveyFigures {
  people: number;
  variants: VariantFigure[];
  /** By name; see the facts of a survey. */
  facts: Record<string, Fact>;
  addresses: AddressFigure[];
  /** The products that were shown, by SKU. */
  products: Record<string, Fact>;
  /** For each expectation whose mails break it: how many, and some of them. */
  broken: { people: number; persons: number[] }[];
  /** Where asked for: a person, the digest of their mail, and what it would be as of a time before; one after the other. */
  digests?: number[];
}

/** A survey as far as it has come. */
export interface Survey extends SurveyFigures {
  decisions: Decision[];
}

export const NO_FIGURES: SurveyFigures = {
  ...{ people: 0, variants: [], facts: {}, addresses: [], products: {}, broken: [] },
};

/** So many of those who break an expectation are named. */
export const MOST_NAMED = 50;

function addFacts(a: Record<string, Fact>, b: Record<string, Fact>): Record<string, Fact> {
  const all = new Map(Object.entries(a));
  for (const [name, fact] of Object.entries(b)) {
    const known = all.get(name);
    all.set(name, known ? { ...known, people: known.people + fact.people } : fact);
  }
  return Object.fromEntries(all);
}

/** The figures of two groups of people that have nobody in common. The people of the first are named first. */
export function addFigures(a: SurveyFigures, b: SurveyFigures): SurveyFigures {
  if (a.people === 0) return b;
  const variants = new Map(a.variants.map((one) => [one.key, one]));
  for (const one of b.variants) {
    const known = variants.get(one.key);
    variants.set(one.key, known ? { ...known, people: known.people + one.people } : one);
  }
  const addresses = new Map(a.addresses.map((one) => [one.decision, one]));
  for (const one of b.addresses) {
    const known = addresses.get(one.decision);
    addresses.set(
      one.decision,
      known
        ? {
            ...one,
            only: known.only === one.only ? one.only : null,
            given: known.given + one.given,
          }
        : one,
    );
  }
  const most = Math.max(a.broken.length, b.broken.length);
  return {
    people: a.people + b.people,
    ...(a.digests && b.digests && { digests: [...a.digests, ...b.digests] }),
    variants: [...variants.values()],
    facts: addFacts(a.facts, b.facts),
    addresses: [...addresses.values()],
    products: addFacts(a.products, b.products),
    broken: Array.from({ length: most }, (_, i) => ({
      people: (a.broken[i]?.people ?? 0) + (b.broken[i]?.people ?? 0),
      persons: [...(a.broken[i]?.persons ?? []), ...(b.broken[i]?.persons ?? [])].slice(
        0,
        MOST_NAMED,
      ),
    })),
  };
}

/** The bits of each decision of a variant. */
export const bitsOf = (key: string): number[] =>
  Array.from(key, (letter) => letter.charCodeAt(0) - 35);
