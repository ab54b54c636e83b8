import { fieldOf, type Fields } from '../formula';
import type { Products } from './productsThen';

/** That somebody looked at a product. */
export interface View {
  sku: string;
  /** ISO 8601. */
  at: string;
}
/** An email that was sent to somebody. */
export interface ReceivedEmail {
  /** What its occasion is called; blank where that was deleted. */
  occasion: string;
  subject: string;
  marketing: boolean;
  /** ISO 8601. */
  sent_at: string;
  opened_at: string | null;
  clicked_at: string | null;
}
/** What conditions over people can ask of their past; only what is asked is there. */
export interface Past {
  views?: readonly View[];
  emails?: readonly ReceivedEmail[];
}

/** What some formulas ask of the past. */
export interface PastAsked {
  views: boolean;
  emails: boolean;
}

export const asksPast = (formulas: readonly string[]): PastAsked => ({
  views: formulas.some((formula) => /\bviews\b/.test(formula)),
  emails: formulas.some((formula) => /\bemails\b/.test(formula)),
});

/** The past as formulas read it at an instant, in milliseconds: what came later is not there. */
export function pastRecord({ views, emails }: Past, products: Products, at: number): Fields {
  const isOver = (instant: string) => Date.parse(instant) <= at;
  const dated = (instant: string | null) =>
    instant !== null && isOver(instant) ? new Date(instant) : undefined;
  return {
    ...(views && {
      views: views
        .filter((view) => isOver(view.at))
        .map(({ sku, at: viewed }) => {
          const product = products.get(sku);
          const of = (name: string) => product && fieldOf(product, name);
          return {
            ...{ sku, name: of('name'), category: of('category'), price: of('price') },
            ...{ viewed_at: new Date(viewed), product },
          };
        }),
    }),
    ...(emails && {
      emails: emails
        .filter(({ sent_at }) => isOver(sent_at))
        .map(({ sent_at, opened_at, clicked_at, ...email }) => {
          const [opened, clicked] = [dated(opened_at), dated(clicked_at)];
          return {
            ...{ ...email, sent_at: new Date(sent_at), opened_at: opened, clicked_at: clicked },
            ...{ opened: opened !== undefined, clicked: clicked !== undefined },
          };
        }),
    }),
  } as unknown as Fields;
}
