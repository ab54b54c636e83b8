import { field, type TargetDefinition } from './define';

/** Codes that mails may give away. */
export const coupons: TargetDefinition = {
  label: 'Coupon codes',
  one: 'code',
  many: 'codes',
  description: 'Codes that emails may give away.',
  usualName: 'coupons',
  key: 'code',
  fields: [
    field('code', 'Code', 'text', 'code coupon couponcode voucher gutschein gutscheincode', true),
    field('policy', 'Policy', 'text', 'policy campaign kind group aktion', true),
    field('percent', 'Per cent off', 'number', 'percent percentoff discountpercent prozent'),
    field('amount', 'Amount off', 'number', 'amount value amountoff betrag'),
    field('value_text', 'Value in words', 'text', 'valuetext label'),
    field('expires_at', 'Expires on', 'date', 'expiresat expires validuntil expiry gueltigbis'),
  ],
  feeds: 'shared',
  isOwned: false,
  mode: 'whole',
  isNamed: false,
  formula: () => 'coupon',
  paths: () => [['coupon']],
  exampleFilter: 'percent >= 10',
};
