import { z } from 'zod';

/** What was engraved, noted or chosen for a line. */
const Property = z.object({ name: z.string().max(200), value: z.string().max(2000) });
export type Property = z.infer<typeof Property>;

const head = {
  /** Unique; an event that comes again with the same id changes nothing. */
  id: z.string().min(1).max(100),
  /** ISO 8601 instant. */
  at: z.iso.datetime({ offset: true }),
  shop: z.string().min(1).max(100),
  /** The address of the person that it is about. */
  email: z.string().min(3).max(320),
};
const added = {
  sku: z.string().max(200),
  name: z.string().max(500),
  variant: z.string().max(200).optional(),
  image: z.string().max(2000).optional(),
  url: z.string().max(2000).optional(),
  category: z.string().max(200).optional(),
  price: z.number().min(0),
  quantity: z.number().int().min(1).max(10_000),
  properties: z.array(Property).max(50).optional(),
};

/** One thing that happened in a shop. Carts and orders are made of these. */
export const ShopEvent = z.discriminatedUnion('kind', [
  z.object({ ...head, kind: z.literal('viewed'), sku: z.string().max(200) }),
  z.object({ ...head, kind: z.literal('cart_added'), currency: z.string().length(3), ...added }),
  z.object({
    ...head,
    kind: z.literal('cart_changed'),
    sku: z.string().max(200),
    variant: z.string().max(200).optional(),
    quantity: z.number().int().min(1).max(10_000),
  }),
  z.object({
    ...head,
    kind: z.literal('cart_removed'),
    sku: z.string().max(200),
    variant: z.string().max(200).optional(),
  }),
  z.object({ ...head, kind: z.literal('checkout_started') }),
  z.object({
    ...head,
    kind: z.literal('order_placed'),
    number: z.string().min(1).max(100),
    shipping: z.number().min(0).optional(),
    discount: z.number().min(0).optional(),
    tax: z.number().min(0).optional(),
    note: z.string().max(2000).optional(),
    ship_to: z.record(z.string(), z.string()).optional(),
  }),
  z.object({
    ...head,
    kind: z.literal('order_status_changed'),
    number: z.string().min(1).max(100),
    status: z.string().min(1).max(100),
  }),
  z.object({ ...head, kind: z.literal('order_cancelled'), number: z.string().min(1).max(100) }),
]);
export type ShopEvent = z.infer<typeof ShopEvent>;
