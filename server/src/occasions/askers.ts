import { formulasOf, type Occasion } from '@carafe/core/occasion';
import type { OccasionsRepository } from './repository';
import type { SegmentsRepository } from './segmentsRepository';

export interface AskerParts {
  occasions: Pick<OccasionsRepository, 'list' | 'document'>;
  segments: Pick<SegmentsRepository, 'list'>;
}

/** The occasions of a shop of which something holds, as they are worked on or as they are published; by their names. */
export const occasionsThat = (
  { occasions }: Pick<AskerParts, 'occasions'>,
  shop: string,
  holds: (occasion: Occasion) => boolean,
): string[] =>
  occasions.list(shop).flatMap(({ id, occasion, published }) => {
    if (holds(occasion)) return [occasion.name];
    const on = published === null ? null : occasions.document(id, published);
    return on && holds(on) ? [`${occasion.name}, as it is published`] : [];
  });

/** The occasions and segments of a shop one of whose formulas asks for something, by their names. */
export const askersOf = (
  parts: AskerParts,
  shop: string,
  asks: (formula: string) => boolean,
): string[] => [
  ...occasionsThat(parts, shop, (occasion) => formulasOf(occasion).some(asks)),
  ...parts.segments.list(shop).flatMap(({ name, formula }) => (asks(formula) ? [name] : [])),
];
