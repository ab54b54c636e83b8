import { field, finishEmail, type TargetDefinition } from './define';
import { finishLines, LINE } from './lines';

/** What people have ordered. */
export const orders: TargetDefinition = {
  label: 'Orders',
  one: 'order',
  many: 'orders',
  description: 'What people have ordered.',
  usualName: 'orders',
  key: 'number',
  fields: [
    field(
      'number',
      'Order number',
      'text',
      'number ordernumber orderno ordernr orderid order id bestellnummer bestellung auftrag',
      true,
    ),
    field('email', 'Email address', 'text', 'email mail customeremail emailaddress', true),
    field(
      'placed_at',
      'Placed at',
      'date',
      'placedat placed placedon orderedat orderedon ordered orderdate date created createdat bestelldatum',
      true,
    ),
    field('status', 'Status', 'text', 'status orderstatus state'),
    field('currency', 'Currency', 'text', 'currency waehrung'),
    field('subtotal', 'Subtotal', 'number', 'subtotal subtotalprice zwischensumme'),
    field(
      'discount',
      'Discount',
      'number',
      'discount totaldiscount totaldiscounts discountamount rabatt',
    ),
    field(
      'shipping',
      'Shipping',
      'number',
      'shipping postage shippingcost shippingcosts shippingprice versand versandkosten delivery',
    ),
    field('tax', 'Tax', 'number', 'tax totaltax vat mwst'),
    field(
      'total',
      'Total',
      'number',
      'total ordertotal totalprice totalamount amount grandtotal summe gesamt gesamtsumme',
    ),
    field('note', 'Note', 'text', 'note comment giftnote bemerkung'),
    field('pay_url', 'Link to pay', 'text', 'payurl paymentlink'),
    field('view_url', 'Link to the order', 'text', 'viewurl orderurl statusurl url link'),
    field('lines', 'Lines', 'any', 'lines items lineitems orderlines positions products'),
  ],
  line: LINE,
  feeds: 'people',
  isOwned: true,
  mode: 'whole',
  isNamed: false,
  formula: () => 'order',
  paths: () => [['order'], ['orders']],
  exampleFilter: 'total >= 50',
  finish: (record) => finishEmail(record) ?? finishLines(record),
};
