import type { Rule } from '@carafe/core/recommend';
import { counted } from '@carafe/core/words';
import type { SegmentsRepository } from '../occasions/segmentsRepository';
import type { EntriesRepository } from '../sources/entriesRepository';
import type { SourcesRepository } from '../sources/repository';

export interface CopyParts {
  segments: Pick<SegmentsRepository, 'list'>;
  sources: Pick<SourcesRepository, 'feeding'>;
  entries: Pick<EntriesRepository, 'find'>;
}

/** A name in formulas that is free, and the label that goes with it. */
export function freeName(
  { name, label }: Rule,
  taken: ReadonlySet<string>,
): Pick<Rule, 'name' | 'label'> {
  if (!taken.has(name)) return { name, label };
  let n = 2;
  // The name has at most 40 letters, with the number.
  const stem = name.slice(0, 36);
  while (taken.has(`${stem}_${n}`)) n++;
  return { name: `${stem}_${n}`, label: `${label.slice(0, 96)} ${n}` };
}

/** What a rule names that a shop does not have, in sentences. */
export function lackedBy(
  { segments, sources, entries }: CopyParts,
  shop: string,
  rule: Rule,
): string[] {
  const known = new Set(segments.list(shop).map(({ name }) => name));
  const catalogs = sources.feeding('catalog', shop).map(({ id }) => id);
  const isThere = (sku: string) => catalogs.some((id) => entries.find(id, sku) !== null);
  const asked = new Set(
    rule.steps.flatMap(({ step }) =>
      step.kind === 'best_sellers' && step.among === 'segment' && step.segment
        ? [step.segment]
        : [],
    ),
  );
  const skus = new Set(rule.steps.flatMap(({ step }) => ('skus' in step && step.skus) || []));
  const gone = [...skus].filter((sku) => !isThere(sku));
  return [
    ...[...asked]
      .filter((name) => !known.has(name))
      .map((name) => `This shop has no segment “${name}”: choose another, or add it.`),
    ...(gone.length > 0
      ? [
          `${counted(gone.length, 'product')} of its steps ${gone.length === 1 ? 'is' : 'are'} not in this shop’s catalog: ${gone.slice(0, 3).join(', ')}.`,
        ]
      : []),
  ];
}
