import { z } from 'zod';
import { plainIssues } from '../errors';
import { cents } from './cart';
import { NEW_SHOPPER } from './fold';
import type { PersonData } from './assemble';

const Text = z.string().max(2_000);
const Amount = z.number();
const Line = z
  .looseObject({
    ...{ sku: Text, name: Text, price: Amount, quantity: Amount.default(1) },
    total: Amount.optional(),
    properties: z
      .array(z.object({ name: Text, value: Text }))
      .max(50)
      .default([]),
  })
  .transform((line) => ({
    ...line,
    total: line.total ?? cents(line.price * line.quantity),
  }));
const Lines = z.array(Line).max(500);
const Cart = z.looseObject({
  id: Text,
  started_at: Text,
  updated_at: Text,
  currency: Text,
  lines: Lines,
});
const Order = z.looseObject({
  ...{ number: Text, placed_at: Text, status: Text, currency: Text, lines: Lines },
  ...{ subtotal: Amount, total: Amount },
});

/** Made up data of a person, as somebody writes it: person, and shopper with cart and orders. */
const Document = z.strictObject({
  person: z.record(z.string().max(200), z.unknown()),
  shopper: z
    .looseObject({
      cart: Cart.nullable().default(null),
      orders: z.array(Order).max(500).default([]),
    })
    .default({ cart: null, orders: [] }),
  rank: z.number().int().min(1).max(5).optional(),
  picks: z
    .record(
      z.string().max(200),
      z.array(z.object({ sku: Text, reason: Text, step: z.number().optional() })).max(100),
    )
    .optional(),
});

/** Reads data of a person that somebody wrote; the sentence says where it is wrong and how it is meant. */
export function readPersonData(
  given: unknown,
): { ok: true; data: PersonData } | { ok: false; message: string } {
  const read = Document.safeParse(given);
  if (!read.success) {
    const [first] = plainIssues(read.error.issues);
    const where = first?.path ?? '';
    return { ok: false, message: `${where === '' ? '' : `${where}: `}${first?.message ?? ''}` };
  }
  const { person, shopper, ...more } = read.data;
  return {
    ok: true,
    data: { ...more, person, shopper: { ...NEW_SHOPPER, ...shopper } } as unknown as PersonData,
  };
}
