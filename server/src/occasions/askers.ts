import { formulasOf, type Occasion } from '@carafe/core/occasion';
import type { OccasionsRepository } from './repository';
import type { SegmentsRepository } from './segmentsRepository';

export interface AskerParts {
  occasions: Pick<OccasionsRepository, 'list' | 'live'>;
  segments: Pick<SegmentsRepository, 'list'>;
}

/** The occasions of a shop of which something holds, as they are worked on or as they are published; by their names. */
export const occasionsThat = (
  { occasions }: Pick<AskerParts, 'occasions'>,
  shop: string,
  holds: (occasion: Occasion) => boolean,
): string[] =>
  occasions.list(shop).flatMap((draft) => {
    const { occasion } = draft;
    if (holds(occasion)) return [occasion.name];
    const on = occasions.live(draft);
    return on && holds(on) ? [`${occasion.name} (published version)`] : [];
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
