import { BOOLEAN, DATE, NUMBER, TEXT, type Field, type Shape } from '../shape';

const record = (fields: Record<string, Shape>): Field => ({
  shape: {
    kind: 'record',
    fields: Object.fromEntries(
      Object.entries(fields).map(([name, shape]): [string, Field] => [
        name,
        { shape, filled: 1, of: 1, samples: [] },
      ]),
    ),
  },
  ...{ filled: 1, of: 1, samples: [] },
});

const OWN = {
  occasion: record({
    ...{ ordered_since: BOOLEAN, cart_changed: BOOLEAN, entered_at: DATE, last_mail_at: DATE },
    ...{ mails: NUMBER, mails_ever: NUMBER },
  }),
  event: record({ order: TEXT, cart: TEXT, sku: TEXT, feed: TEXT, post: TEXT }),
};

/** The shape of a shop’s records with what an occasion adds to them. */
export function withOccasion(shape: Shape): Shape {
  return shape.kind === 'record' ? { kind: 'record', fields: { ...shape.fields, ...OWN } } : shape;
}
