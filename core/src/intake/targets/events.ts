import type { TargetDefinition } from './define';

/** What happens in the shop: carts and orders are made of these. */
export const events: TargetDefinition = {
  label: 'Events',
  one: 'event',
  many: 'events',
  description: 'What happens in the shop: carts and orders are made of these.',
  usualName: 'events',
  key: 'id',
  fields: [],
  feeds: 'people',
  isOwned: false,
  mode: 'part',
  isNamed: false,
  formula: () => 'cart, order',
  paths: () => [['cart'], ['order'], ['orders'], ['person']],
  exampleFilter: 'kind is "order_placed"',
};
