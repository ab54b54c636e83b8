import { field, finishEmail, type TargetDefinition } from './define';
import { finishLines, LINE } from './lines';

/** What people have in their carts now. */
export const carts: TargetDefinition = {
  label: 'Carts',
  one: 'cart',
  many: 'carts',
  description: 'What people have in their carts now.',
  usualName: 'carts',
  key: 'email',
  fields: [
    field('email', 'Email address', 'text', 'email mail customeremail emailaddress', true),
    field('id', 'Cart number', 'text', 'id cartid token cart'),
    field('started_at', 'Started at', 'date', 'startedat createdat created'),
    field('updated_at', 'Changed at', 'date', 'updatedat updated changedat lastactivity', true),
    field('currency', 'Currency', 'text', 'currency'),
    field('subtotal', 'Subtotal', 'number', 'subtotal'),
    field('discount', 'Discount', 'number', 'discount rabatt'),
    field(
      'total',
      'Total',
      'number',
      'total carttotal totalprice totalamount amount grandtotal summe',
    ),
    field('recover_url', 'Link to the cart', 'text', 'recoverurl carturl checkouturl url link'),
    field('lines', 'Lines', 'any', 'lines items lineitems cartlines cartitems positions products'),
  ],
  line: LINE,
  feeds: 'people',
  isOwned: true,
  mode: 'whole',
  isNamed: false,
  formula: () => 'cart',
  paths: () => [['cart']],
  exampleFilter: 'count(lines) >= 2',
  finish: (record) => finishEmail(record) ?? finishLines(record),
};
